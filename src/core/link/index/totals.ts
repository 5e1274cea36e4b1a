import { Optional } from "../../finding/kit";
import type { Ordered } from "../../formula/ordered";
import { type Answer, answerFromTotals } from "../../query/answer";
import { orderOf, type Prepared } from "../../query/prepare";
import type { Others } from "./in-hand";
import { type Cover, isHeld, looseIn, type Places, runsOf, SLICE, SOME } from "./row-places";
import type { RunningOrder } from "./running-order";

/** Most bytes of one target's running totals, and of all together. */
const MOST_PER_TARGET = 8 << 20;
const MOST_IN_ALL = 64 << 20;

/** How counts over an order run; a dashboard comes without where none of its formulas asks for an order. */
export const RUNNING = new Optional<typeof RunningOrder>("an index of ordered measures");

interface Running {
  key: string;
  /** The places over which they run: the finest for which there is room. */
  level: number;
  /** One array a contribution: totals of all rows before a place, by place and group, none of them first. */
  totals: Float64Array[];
  /** Counts for the measures that need an order, made after the totals. */
  orders: RunningOrder[];
  /** Measures for which there are no counts yet. */
  waiting: Ordered[];
  /** The first row that is not counted yet; all are, and the totals run, once it is `undefined`. */
  next: number | undefined;
}

/** What a cover holds at one level, made ready for all questions: runs of whole places, and where others stand. */
interface Covered {
  runs: readonly number[];
  loose: Int32Array;
}

/**
 * Running totals over the places of a moving selection: for every target one table of (place x group), so that a
 * move costs two look-ups a group for each run of whole places, and a look at the rows at its rim, whatever the
 * number of rows. The idea of answering a brush from totals kept per pixel or tile is known from the literature on
 * data tiles and interactive latency (Liu, Jiang and Heer, EuroVis 2013; Moritz, Howe and Heer, CHI 2019).
 */
export class RunningTotals {
  private readonly byPrepared = new Map<Prepared, Running>();
  private readonly covered = new WeakMap<Cover, Covered>();
  /** At each level the places of rows that others leave, as these stood last. */
  private readonly leftAt: { key: string; of: Int32Array }[] = [];
  private bytes = 0;

  /**
   * @param levels partings of the rows, the finest first
   * @param hasRim true where what is held may end within places
   */
  constructor(
    private readonly levels: readonly Places[],
    private readonly hasRim: boolean,
  ) {}

  /**
   * The answer for what is held; none where no tables can be kept, or where they are not made yet:
   * a move never waits for a table.
   */
  answer(prepared: Prepared, others: Others, coverAt: (level: number) => Cover | undefined): Answer | undefined {
    const running = this.byPrepared.get(prepared);
    if (running?.key !== others.key || running.next !== undefined || running.waiting.length) return undefined;
    const cover = coverAt(running.level);
    // Where ends were to stand between places, nothing is made ready for rows within one.
    if (!cover || (!this.hasRim && cover.parts.includes(SOME))) return undefined;
    const places = this.levels[running.level] as Places;
    const { runs, loose } = this.coveredOf(cover, places);
    const { groupCount, groups, contributions } = prepared;
    const failed = loose.length || running.orders.length ? others.failed() : null;
    const rows = loose.length ? places.lines.rows : undefined;
    const counted = failed && rows ? loose.filter((at) => failed[rows[at] as number] === 0) : loose;
    const width = groupCount + 1;
    const totals = running.totals.map((table, at) => {
      const total = new Float64Array(groupCount);
      for (let run = 0; run < runs.length; run += 2) {
        const [low, high] = [(runs[run] as number) * width + 1, (runs[run + 1] as number) * width + 1];
        for (let group = 0; group < groupCount; group++)
          total[group] = (total[group] as number) + (table[high + group] as number) - (table[low + group] as number);
      }
      const own = contributions[at];
      if (counted.length) addLoose(total, counted, places.lines.column(groups), own ? places.lines.column(own) : null);
      return total;
    });
    const { of } = places;
    const passes = (row: number) => isHeld(cover, of, row) && !(failed && failed[row] !== 0);
    return answerFromTotals(prepared, totals, null, (measure) =>
      running.orders.find((order) => order.answersTo(measure))?.answer(measure, runs, counted, passes),
    );
  }

  private coveredOf(cover: Cover, places: Places): Covered {
    const known = this.covered.get(cover) ?? { runs: runsOf(cover), loose: looseIn(cover, places) };
    this.covered.set(cover, known);
    return known;
  }

  /**
   * Makes a slice of the tables of a target before it is asked for. False once there is nothing left to do,
   * nothing where no tables can be kept for it.
   */
  warm(prepared: Prepared, others: Others): boolean | undefined {
    const running = this.running(prepared, others.key);
    if (!running) return undefined;
    const measure = running.waiting[0];
    if (running.next !== undefined) this.count(running, prepared, this.left(running, others));
    else if (measure) {
      const started = running.orders.find((order) => order.isOf(measure));
      const order =
        started ?? new (RUNNING.get())(measure, orderOf(prepared, measure), this.placesOf(running), this.hasRim);
      if (!started) running.orders.push(order);
      if (order.count(this.left(running, others))) return true;
      running.waiting = running.waiting.filter((one) => !order.answersTo(one));
    } else return this.hasRim && this.lineNext(running, prepared);
    return true;
  }

  /** Lays out a slice of the columns from which rows at a rim will be read; false once all are. */
  private lineNext({ level, orders }: Running, { groups, contributions }: Prepared): boolean {
    const { lines } = this.levels[level] as Places;
    const columns = [groups, ...contributions, ...orders.map(({ partOf }) => partOf ?? null)];
    return columns.some((column) => column !== null && lines.line(column));
  }

  private placesOf({ level }: Running): Places {
    return this.levels[level] as Places;
  }

  private running(prepared: Prepared, key: string): Running | undefined {
    const known = this.byPrepared.get(prepared);
    if (known?.key === key) return known;
    const { groupCount, contributions } = prepared;
    const ordered = orderedIn(prepared);
    if (!ordered) return undefined;
    const bytesOf = ({ count }: Places) =>
      (count + 1) *
      ((groupCount + 1) * 8 * contributions.length +
        ordered.reduce((sum, measure) => sum + RUNNING.get().bytesPerPlace(measure, orderOf(prepared, measure)), 0));
    const level = this.levels.findIndex((places) => bytesOf(places) <= MOST_PER_TARGET);
    const places = this.levels[level];
    const bytes = places ? bytesOf(places) : 0;
    if (!places || (!known && this.bytes + bytes > MOST_IN_ALL)) return undefined;
    if (!known) this.bytes += bytes;
    const running: Running = {
      key,
      level,
      totals: contributions.map(() => new Float64Array((places.count + 1) * (groupCount + 1))),
      orders: [],
      waiting: ordered,
      next: 0,
    };
    this.byPrepared.set(prepared, running);
    return running;
  }

  /** The places of rows that others leave, none for those that they do not. */
  private left({ level }: Running, others: Others): Int32Array {
    const known = this.leftAt[level];
    if (known?.key === others.key) return known.of;
    const { of } = this.levels[level] as Places;
    const failed = others.failed();
    const left = failed ? of.map((place, row) => (failed[row] === 0 ? place : -1)) : of;
    this.leftAt[level] = { key: others.key, of: left };
    return left;
  }

  /** Counts a slice of rows; behind the last one the totals are made to run. */
  private count(running: Running, prepared: Prepared, places: Int32Array) {
    const { groupCount, groups, contributions } = prepared;
    const { totals } = running;
    const start = running.next ?? 0;
    const end = Math.min(groups.length, start + SLICE);
    const stretch: Stretch = { places, groups, groupCount, start, end };
    // The first contribution always counts rows.
    if (totals.length === 1) countRows(totals[0] as Float64Array, stretch);
    else countAndAdd(totals[0] as Float64Array, totals[1] as Float64Array, contributions[1] as Float64Array, stretch);
    for (let at = 2; at < totals.length; at++)
      addRows(totals[at] as Float64Array, contributions[at] as Float64Array, stretch);
    running.next = end < groups.length ? end : undefined;
    if (running.next !== undefined) return;
    const width = groupCount + 1;
    for (const table of totals)
      for (let cell = width; cell < table.length; cell++)
        table[cell] = (table[cell] as number) + (table[cell - width] as number);
  }
}

/** Rows that are counted in one go: the place of each, and in which group it is. */
interface Stretch {
  places: Int32Array;
  groups: Int32Array;
  groupCount: number;
  start: number;
  end: number;
}

// One loop for each sort of table, without a branch in it: these go over every row of every view before a brush answers.
// A row in place i counts from place i + 1 on. Rows without a place are counted before the first, and so in whatever
// is taken from one another; those without a group have a cell of their own before the others, which nobody reads.

function countRows(counts: Float64Array, { places, groups, groupCount, start, end }: Stretch) {
  const width = groupCount + 1;
  for (let row = start; row < end; row++) {
    const cell = ((places[row] as number) + 1) * width + (groups[row] as number) + 1;
    counts[cell] = (counts[cell] as number) + 1;
  }
}

function addRows(sums: Float64Array, values: Float64Array, { places, groups, groupCount, start, end }: Stretch) {
  const width = groupCount + 1;
  for (let row = start; row < end; row++) {
    const cell = ((places[row] as number) + 1) * width + (groups[row] as number) + 1;
    sums[cell] = (sums[cell] as number) + (values[row] as number);
  }
}

function countAndAdd(
  counts: Float64Array,
  sums: Float64Array,
  values: Float64Array,
  { places, groups, groupCount, start, end }: Stretch,
) {
  const width = groupCount + 1;
  for (let row = start; row < end; row++) {
    const cell = ((places[row] as number) + 1) * width + (groups[row] as number) + 1;
    counts[cell] = (counts[cell] as number) + 1;
    sums[cell] = (sums[cell] as number) + (values[row] as number);
  }
}

/** Adds rows at the rim of what is held, one by one; columns lie place by place. */
function addLoose(total: Float64Array, loose: Int32Array, groups: Int32Array, values: Float64Array | null) {
  for (let at = 0; at < loose.length; at++) {
    const place = loose[at] as number;
    const group = groups[place] as number;
    if (group >= 0) total[group] = (total[group] as number) + (values ? (values[place] as number) : 1);
  }
}

/** The measures of a question that go by an order; nothing where one asks for an end, which no counts give. */
function orderedIn({ query, measures }: Prepared): Ordered[] | undefined {
  if (!query.grouped) return undefined;
  const ordered = measures.flatMap(({ measure }) => (measure.type === "ordered" ? [measure] : []));
  return ordered.some(({ ask }) => ask.type === "least" || ask.type === "most") ? undefined : ordered;
}
