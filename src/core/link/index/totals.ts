import type { Ordered, RowFilter } from "../../formula/ordered";
import { type Answer, answerFromTotals } from "../../query/answer";
import { orderOf, type Prepared } from "../../query/prepare";
import { type BrushPlaces, type Ends, SLICE } from "./places";
import { RunningOrder } from "./running-order";

/** Most bytes of one target's running totals, and of all together. */
const MOST_PER_TARGET = 8 << 20;
const MOST_IN_ALL = 64 << 20;

interface Running {
  key: string;
  /** One array a contribution: totals of all rows below an edge, by edge and group. */
  totals: Float64Array[];
  /** Counts for the measures that need an order, made after the totals. */
  orders: RunningOrder[];
  /** Measures for which there are no counts yet. */
  waiting: Ordered[];
  /** The first row that is not counted yet; all are, and the totals run, once it is `undefined`. */
  next: number | undefined;
}

/**
 * Running totals over the places of a moving brush: for every target, one table of
 * (edge x group), so that a move costs two look-ups a group whatever the number of rows.
 * The idea of answering a brush from totals kept per pixel is known from the literature on data
 * tiles and interactive latency (Liu, Jiang and Heer, EuroVis 2013; Moritz, Howe and Heer, CHI 2019).
 */
export class RunningTotals {
  private readonly byPrepared = new Map<Prepared, Running>();
  private bytes = 0;

  constructor(private readonly places: BrushPlaces) {}

  /**
   * The answer for a range of the brush; none where no tables can be kept, or where they are not made yet:
   * a move never waits for a table.
   */
  answer(prepared: Prepared, key: string, ends: Ends): Answer | undefined {
    const running = this.byPrepared.get(prepared);
    if (running?.key !== key || running.next !== undefined || running.waiting.length) return undefined;
    const { groupCount } = prepared;
    const [low, high] = [ends[0] * groupCount, ends[1] * groupCount];
    const totals = running.totals.map((table) => {
      const total = new Float64Array(groupCount);
      for (let group = 0; group < groupCount; group++)
        total[group] = (table[high + group] as number) - (table[low + group] as number);
      return total;
    });
    return answerFromTotals(prepared, totals, null, (measure) =>
      running.orders.find((order) => order.answersTo(measure))?.answer(measure, ends),
    );
  }

  /**
   * Makes a slice of the tables of a target before it is asked for. False once there is nothing left to do,
   * nothing where no tables can be kept for it.
   */
  warm(prepared: Prepared, key: string, others: RowFilter | null): boolean | undefined {
    const running = this.running(prepared, key);
    if (!running) return undefined;
    const measure = running.waiting[0];
    if (running.next !== undefined) this.count(running, prepared, others, SLICE);
    else if (measure) {
      // Others move on, and the counts go on asking which rows they left out.
      running.orders.push(new RunningOrder(measure, orderOf(prepared, measure), this.places, others?.slice() ?? null));
      running.waiting = running.waiting.filter((one) => !running.orders.some((order) => order.answersTo(one)));
    } else return false;
    return true;
  }

  private running(prepared: Prepared, key: string): Running | undefined {
    const known = this.byPrepared.get(prepared);
    if (known?.key === key) return known;
    const { groupCount, contributions } = prepared;
    const cells = this.places.edges.length * groupCount;
    const ordered = orderedIn(prepared);
    if (!ordered) return undefined;
    const counts = ordered.map((measure) => RunningOrder.bytes(measure, orderOf(prepared, measure), this.places));
    const bytes = cells * 8 * contributions.length + counts.reduce((sum, own) => sum + own, 0);
    if (bytes > MOST_PER_TARGET || (!known && this.bytes + bytes > MOST_IN_ALL)) return undefined;
    if (!known) this.bytes += bytes;
    const running: Running = {
      key,
      totals: contributions.map(() => new Float64Array(cells)),
      orders: [],
      waiting: ordered,
      next: 0,
    };
    this.byPrepared.set(prepared, running);
    return running;
  }

  /** Counts up to so many more rows; behind the last one the totals are made to run. */
  private count(running: Running, prepared: Prepared, others: RowFilter | null, most: number) {
    const { groupCount, groups, contributions } = prepared;
    const { totals } = running;
    const start = running.next ?? 0;
    const end = Math.min(groups.length, start + most);
    const stretch: Stretch = { places: this.places.of, groups, groupCount, others, start, end };
    // The first contribution always counts rows.
    if (totals.length === 1) countRows(totals[0] as Float64Array, stretch);
    else countAndAdd(totals[0] as Float64Array, totals[1] as Float64Array, contributions[1] as Float64Array, stretch);
    for (let at = 2; at < totals.length; at++)
      addRows(totals[at] as Float64Array, contributions[at] as Float64Array, stretch);
    running.next = end < groups.length ? end : undefined;
    if (running.next !== undefined) return;
    for (const table of totals)
      for (let cell = groupCount; cell < table.length; cell++)
        table[cell] = (table[cell] as number) + (table[cell - groupCount] as number);
  }
}

/** Rows that are counted in one go: where each lies under the brush, in which group, and which others leave out. */
interface Stretch {
  places: Int32Array;
  groups: Int32Array;
  groupCount: number;
  others: RowFilter | null;
  start: number;
  end: number;
}

// One loop for each sort of table, without a loop in it: these go over every row of every view before a brush answers.
// A row between edges i and i + 1 counts from edge i + 1 on.

function countRows(counts: Float64Array, { places, groups, groupCount, others, start, end }: Stretch) {
  for (let row = start; row < end; row++) {
    const place = places[row] as number;
    const group = groups[row] as number;
    if (place < 0 || group < 0 || (others !== null && others[row] !== 0)) continue;
    const cell = (place + 1) * groupCount + group;
    counts[cell] = (counts[cell] as number) + 1;
  }
}

function addRows(
  sums: Float64Array,
  values: Float64Array,
  { places, groups, groupCount, others, start, end }: Stretch,
) {
  for (let row = start; row < end; row++) {
    const place = places[row] as number;
    const group = groups[row] as number;
    if (place < 0 || group < 0 || (others !== null && others[row] !== 0)) continue;
    const cell = (place + 1) * groupCount + group;
    sums[cell] = (sums[cell] as number) + (values[row] as number);
  }
}

function countAndAdd(
  counts: Float64Array,
  sums: Float64Array,
  values: Float64Array,
  { places, groups, groupCount, others, start, end }: Stretch,
) {
  for (let row = start; row < end; row++) {
    const place = places[row] as number;
    const group = groups[row] as number;
    if (place < 0 || group < 0 || (others !== null && others[row] !== 0)) continue;
    const cell = (place + 1) * groupCount + group;
    counts[cell] = (counts[cell] as number) + 1;
    sums[cell] = (sums[cell] as number) + (values[row] as number);
  }
}

/** The measures of a question that go by an order; nothing where one asks for an end, which no counts give. */
function orderedIn({ query, measures }: Prepared): Ordered[] | undefined {
  if (!query.grouped) return undefined;
  const ordered = measures.flatMap(({ measure }) => (measure.type === "ordered" ? [measure] : []));
  return ordered.some(({ ask }) => ask.type === "least" || ask.type === "most") ? undefined : ordered;
}
