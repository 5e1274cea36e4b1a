import { type DecimalKeys, decimalKeys } from "../table/decimal-keys";
import { laidOut } from "../table/laid-out";
import { sortedByValue } from "../table/radix-sort";
import { allRows } from "../table/table";
import {
  type OrderCounts,
  type Ordered,
  type OrderedWays,
  type RowFilter,
  type ScanOrder,
  valueAtPlace,
} from "./ordered";

/** Lays the known rows of every group side by side. `groups[row]` is -1 for rows that belong to none. */
export function scanOrder(measure: Ordered, groups: Int32Array, groupCount: number): ScanOrder {
  const { orderBy, known } = measure;
  const length = groups.length;
  const keys = orderBy === known ? decimalKeys(orderBy) : undefined;
  if (keys && keys.count * groupCount <= MOST_CELLS) return orderByKeys(keys, groups, groupCount);
  const own = new Int32Array(length);
  for (let row = 0; row < length; row++) own[row] = known[row] === known[row] ? (groups[row] as number) : -1;
  return laidOut(own, groupCount, orderBy ? sortedByValue(orderBy, allRows(length)) : undefined);
}

/** So many cells of group and key are counted at once. */
const MOST_CELLS = 1 << 22;

/**
 * The same where values know their places: rows are counted into cells of group and key, and laid out, in one go
 * each.
 */
function orderByKeys({ keys, count }: DecimalKeys, groups: Int32Array, groupCount: number): ScanOrder {
  const cells = new Int32Array(groups.length);
  for (let row = 0; row < groups.length; row++) {
    const [group, key] = [groups[row] as number, keys[row] as number];
    cells[row] = group < 0 || key < 0 ? -1 : group * count + key;
  }
  const { rows, starts } = laidOut(cells, groupCount * count);
  return { rows, starts: Int32Array.from({ length: groupCount + 1 }, (_, group) => starts[group * count] as number) };
}

/** The least or largest known value of every group, over the rows that count; these ask for no order. */
function extremes(
  known: Float64Array,
  ask: "least" | "most",
  groups: Int32Array,
  groupCount: number,
  filter: RowFilter | null,
): Float64Array {
  const best = new Float64Array(groupCount).fill(Number.NaN);
  for (let row = 0; row < groups.length; row++) {
    const group = groups[row] as number;
    const value = known[row] as number;
    if (group < 0 || value !== value || (filter && filter[row] !== 0)) continue;
    const now = best[group] as number;
    if (now !== now || (ask === "most" ? value > now : value < now)) best[group] = value;
  }
  return best;
}

/** How many different values stand in a sorted list. */
function changes(values: Float64Array, count: number): number {
  let different = 0;
  for (let i = 0; i < count; i++) if (i === 0 || values[i] !== values[i - 1]) different += 1;
  return different;
}

/** Answers an ordered measure for every group by going over all rows that count. */
export function answerOrdered(
  measure: Ordered,
  groups: Int32Array,
  groupCount: number,
  filter: RowFilter | null,
  order: () => ScanOrder = () => scanOrder(measure, groups, groupCount),
): Float64Array {
  const { ask, known } = measure;
  if (ask.type === "least" || ask.type === "most") return extremes(known, ask.type, groups, groupCount, filter);
  const { rows, starts } = order();
  const answers = new Float64Array(groupCount);
  if (!filter && ask.type === "place") {
    for (let group = 0; group < groupCount; group++) {
      const first = starts[group] as number;
      answers[group] = valueAtPlace(
        ask.at((starts[group + 1] as number) - first),
        (place) => known[rows[first + place] as number] as number,
      );
    }
    return answers;
  }
  const found = new Float64Array(rows.length);
  for (let group = 0; group < groupCount; group++) {
    let count = 0;
    for (let i = starts[group] as number; i < (starts[group + 1] as number); i++) {
      const row = rows[i] as number;
      if (filter && filter[row] !== 0) continue;
      found[count++] = known[row] as number;
    }
    answers[group] =
      ask.type === "different" ? changes(found, count) : valueAtPlace(ask.at(count), (place) => found[place] as number);
  }
  return answers;
}

/** The place of each row in an order; -1 for rows that are not in it. */
function placesIn(order: ScanOrder, length: number): Int32Array {
  if (!order.places) {
    order.places = new Int32Array(length).fill(-1);
    for (let at = 0; at < order.rows.length; at++) order.places[order.rows[at] as number] = at;
  }
  return order.places;
}

/** The stretches of equal values in an order; none goes over from one group into the next. */
export function runsIn(order: ScanOrder, known: Float64Array): NonNullable<ScanOrder["runs"]> {
  if (order.runs) return order.runs;
  const { rows, starts } = order;
  const of = new Int32Array(rows.length);
  let count = 0;
  for (let group = 0; group + 1 < starts.length; group++) {
    let before = Number.NaN;
    for (let at = starts[group] as number; at < (starts[group + 1] as number); at++) {
      const value = known[rows[at] as number] as number;
      if (value !== before) count += 1;
      before = value;
      of[at] = count - 1;
    }
  }
  order.runs = { of, count };
  return order.runs;
}

/** Ranks that are counted together: the rows of one block are gone over to find one of them. */
const BLOCK = 1024;

/**
 * The ranks of each group parted into blocks: where the blocks of group g begin, and after the last one how many
 * there are.
 */
export function blocksIn({ starts }: ScanOrder): Int32Array {
  const first = new Int32Array(starts.length);
  for (let group = 0; group + 1 < starts.length; group++) {
    const length = (starts[group + 1] as number) - (starts[group] as number);
    first[group + 1] = (first[group] as number) + Math.ceil(length / BLOCK);
  }
  return first;
}

/** Calls `visit` for rows of an order, from one place up to another, with the number of its block and its place. */
export function eachInBlocks(
  order: ScanOrder,
  from: number,
  to: number,
  visit: (row: number, block: number, at: number) => void,
) {
  const { rows, starts } = order;
  const firstBlock = blocksIn(order);
  for (let group = 0; group + 1 < starts.length; group++) {
    const begin = starts[group] as number;
    const end = Math.min(to, starts[group + 1] as number);
    for (let at = Math.max(from, begin); at < end; at++)
      visit(rows[at] as number, (firstBlock[group] as number) + (((at - begin) / BLOCK) | 0), at);
  }
}

/**
 * What a measure asks of places, for every group, where it is known how many rows of each block count.
 * @param counts how many rows of each group count
 */
export function answerPlaces(
  { ask, known }: Ordered,
  { rows, starts }: ScanOrder,
  firstBlock: Int32Array,
  blocks: Int32Array,
  counts: Float64Array,
  passes: (row: number) => boolean,
): Float64Array {
  const valueIn = (group: number, place: number) => {
    let block = firstBlock[group] as number;
    let left = place;
    while (left >= (blocks[block] as number)) left -= blocks[block++] as number;
    let at = (starts[group] as number) + (block - (firstBlock[group] as number)) * BLOCK;
    for (; ; at++) {
      const row = rows[at] as number;
      if (passes(row) && left-- === 0) return known[row] as number;
    }
  };
  return counts.map((count, group) =>
    ask.type === "place" ? valueAtPlace(ask.at(count), (place) => valueIn(group, place)) : Number.NaN,
  );
}

/**
 * How many of the rows in an order count, block by block, kept up as rows come and go: any place among
 * those that count is found without going over all of them.
 */
export class OrderedCounts implements OrderCounts {
  private readonly places: Int32Array;
  private readonly firstBlock: Int32Array;
  private readonly blocks: Int32Array;
  private readonly counts: Float64Array;
  /** For different values: how many rows of each stretch of equal ones count, and in how many stretches some do. */
  private runs: { counts: Int32Array; different: Float64Array } | undefined;

  constructor(
    private readonly order: ScanOrder,
    private readonly groups: Int32Array,
    private readonly groupCount: number,
  ) {
    this.places = placesIn(order, groups.length);
    this.firstBlock = blocksIn(order);
    this.blocks = new Int32Array(this.firstBlock[groupCount] as number);
    this.counts = new Float64Array(groupCount);
  }

  /** Counts anew what counts. */
  recount(filter: RowFilter) {
    const { rows, starts } = this.order;
    this.runs = undefined;
    for (let group = 0; group < this.groupCount; group++) {
      const end = starts[group + 1] as number;
      let block = this.firstBlock[group] as number;
      let all = 0;
      for (let first = starts[group] as number; first < end; first += BLOCK) {
        const last = Math.min(end, first + BLOCK);
        let some = 0;
        for (let at = first; at < last; at++) if (filter[rows[at] as number] === 0) some += 1;
        this.blocks[block++] = some;
        all += some;
      }
      this.counts[group] = all;
    }
  }

  /** A row has begun to count, or counts no more. */
  change(row: number, by: 1 | -1) {
    const at = this.places[row] as number;
    if (at < 0) return;
    const group = this.groups[row] as number;
    const block = (this.firstBlock[group] as number) + (((at - (this.order.starts[group] as number)) / BLOCK) | 0);
    this.blocks[block] = (this.blocks[block] as number) + by;
    this.counts[group] = (this.counts[group] as number) + by;
    const { runs } = this;
    if (!runs) return;
    const run = this.order.runs?.of[at] as number;
    const now = (runs.counts[run] as number) + by;
    runs.counts[run] = now;
    if (now === (by === 1 ? 1 : 0)) runs.different[group] = (runs.different[group] as number) + by;
  }

  /** What a measure with this order asks, for every group. */
  answer(measure: Ordered, filter: RowFilter): Float64Array {
    if (measure.ask.type === "different") {
      this.runs ??= this.countRuns(measure.known, filter);
      return this.runs.different.slice();
    }
    return answerPlaces(measure, this.order, this.firstBlock, this.blocks, this.counts, (row) => filter[row] === 0);
  }

  private countRuns(known: Float64Array, filter: RowFilter): NonNullable<OrderedCounts["runs"]> {
    const { rows, starts } = this.order;
    const { of, count } = runsIn(this.order, known);
    const [counts, different] = [new Int32Array(count), new Float64Array(this.groupCount)];
    for (let group = 0; group < this.groupCount; group++) {
      let some = 0;
      for (let at = starts[group] as number; at < (starts[group + 1] as number); at++) {
        if (filter[rows[at] as number] !== 0) continue;
        const run = of[at] as number;
        const now = (counts[run] as number) + 1;
        counts[run] = now;
        if (now === 1) some += 1;
      }
      different[group] = some;
    }
    return { counts, different };
  }
}

export const orderedWays: OrderedWays = {
  layOut: scanOrder,
  answer: answerOrdered,
  counts: (order, groups, groupCount) => new OrderedCounts(order, groups, groupCount),
};
