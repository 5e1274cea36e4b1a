import { sortedByValue } from "../table/radix-sort";
import { allRows } from "../table/table";

/**
 * How often each row fails what is asked of it; the rows with 0 count. A row can fail more than one
 * selection, and counts again once the last of them has let go of it.
 */
export type RowFilter = Uint8Array | Uint16Array;

/** What an ordered measure asks of the rows of a group that count, in its order. */
export type Ask =
  /** The value at a place among `count` of them, counted from 0; between two places it is interpolated. `NaN` is none. */
  | { type: "place"; at: (count: number) => number }
  | { type: "least" }
  | { type: "most" }
  /** How many different values there are. */
  | { type: "different" };

/** What has to be known of a measure that goes over the rows of a group in an order. */
export interface Ordered {
  /** Orders the rows of each group by these values. Absent: the table's order. */
  orderBy: Float64Array | null;
  /** Rows where this is `NaN` do not count. */
  known: Float64Array;
  ask: Ask;
}

/** Rows of each group side by side, in the order that a measure asks for. */
export interface ScanOrder {
  rows: Int32Array;
  /** Rows of group g stand from `starts[g]` to `starts[g + 1]`. */
  starts: Int32Array;
}

/** Lays the known rows of every group side by side. `groups[row]` is -1 for rows that belong to none. */
export function scanOrder({ orderBy, known }: Ordered, groups: Int32Array, groupCount: number): ScanOrder {
  const length = groups.length;
  const sorted = orderBy ? sortedByValue(orderBy, allRows(length)) : undefined;
  const starts = new Int32Array(groupCount + 1);
  for (let row = 0; row < length; row++) {
    const group = groups[row] as number;
    const value = known[row] as number;
    if (group >= 0 && value === value) starts[group + 1] = (starts[group + 1] as number) + 1;
  }
  for (let group = 0; group < groupCount; group++)
    starts[group + 1] = (starts[group + 1] as number) + (starts[group] as number);
  const next = starts.slice();
  const rows = new Int32Array(starts[groupCount] as number);
  for (let i = 0; i < length; i++) {
    const row = sorted ? (sorted[i] as number) : i;
    const group = groups[row] as number;
    const value = known[row] as number;
    if (group < 0 || value !== value) continue;
    rows[next[group] as number] = row;
    next[group] = (next[group] as number) + 1;
  }
  return { rows, starts };
}

/** Interpolates linearly at (n-1)p of sorted values. */
export function quantileSorted(sorted: Float64Array, count: number, p: number): number {
  return valueAtPlace(quantilePlace(count, p), (place) => sorted[place] as number);
}

/** The place of a quantile among `count` sorted values; `NaN` where there is none. */
export const quantilePlace = (count: number, p: number): number =>
  count === 0 || !(p >= 0 && p <= 1) ? Number.NaN : (count - 1) * p;

function valueAtPlace(place: number, at: (place: number) => number): number {
  if (place !== place) return Number.NaN;
  const below = Math.floor(place);
  const low = at(below);
  const part = place - below;
  return part === 0 ? low : low + (at(below + 1) - low) * part;
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

/** Ranks that are counted together: the rows of one block are gone over to find one of them. */
const BLOCK = 1024;

/**
 * How many of the rows in an order count, block by block, kept up as rows come and go: any place among
 * those that count is found without going over all of them.
 */
export class OrderedCounts {
  /** The place of each row in the order; -1 for rows that are not in it. */
  private readonly place: Int32Array;
  private readonly firstBlock: Int32Array;
  private readonly blocks: Int32Array;
  private readonly counts: Float64Array;
  /** For different values: the stretch of equal ones that each place lies in, and how many of it count. */
  private runs: { of: Int32Array; counts: Int32Array; different: Float64Array } | undefined;

  constructor(
    private readonly order: ScanOrder,
    private readonly groups: Int32Array,
    private readonly groupCount: number,
  ) {
    const { rows, starts } = order;
    this.place = new Int32Array(groups.length).fill(-1);
    for (let at = 0; at < rows.length; at++) this.place[rows[at] as number] = at;
    this.firstBlock = new Int32Array(groupCount + 1);
    for (let group = 0; group < groupCount; group++) {
      const length = (starts[group + 1] as number) - (starts[group] as number);
      this.firstBlock[group + 1] = (this.firstBlock[group] as number) + Math.ceil(length / BLOCK);
    }
    this.blocks = new Int32Array(this.firstBlock[groupCount] as number);
    this.counts = new Float64Array(groupCount);
  }

  /** Counts anew what counts. */
  recount(filter: RowFilter) {
    const { rows, starts } = this.order;
    this.blocks.fill(0);
    this.counts.fill(0);
    this.runs = undefined;
    for (let group = 0; group < this.groupCount; group++) {
      const [first, end] = [starts[group] as number, starts[group + 1] as number];
      const block = this.firstBlock[group] as number;
      let all = 0;
      for (let at = first; at < end; at++) {
        if (filter[rows[at] as number] !== 0) continue;
        const own = block + Math.floor((at - first) / BLOCK);
        this.blocks[own] = (this.blocks[own] as number) + 1;
        all += 1;
      }
      this.counts[group] = all;
    }
  }

  /** A row has begun to count, or counts no more. */
  change(row: number, by: 1 | -1) {
    const at = this.place[row] as number;
    if (at < 0) return;
    const group = this.groups[row] as number;
    const block = (this.firstBlock[group] as number) + Math.floor((at - (this.order.starts[group] as number)) / BLOCK);
    this.blocks[block] = (this.blocks[block] as number) + by;
    this.counts[group] = (this.counts[group] as number) + by;
    const { runs } = this;
    if (!runs) return;
    const run = runs.of[at] as number;
    const now = (runs.counts[run] as number) + by;
    runs.counts[run] = now;
    if (now === (by === 1 ? 1 : 0)) runs.different[group] = (runs.different[group] as number) + by;
  }

  /** What a measure with this order asks, for every group. */
  answer({ ask, known }: Ordered, filter: RowFilter): Float64Array {
    if (ask.type === "different") {
      this.runs ??= this.runsOf(known, filter);
      return this.runs.different.slice();
    }
    const answers = new Float64Array(this.groupCount);
    if (ask.type !== "place") return answers;
    for (let group = 0; group < this.groupCount; group++)
      answers[group] = valueAtPlace(
        ask.at(this.counts[group] as number),
        (place) => known[this.rowAt(group, place, filter)] as number,
      );
    return answers;
  }

  /** The row at a place among those of a group that count. */
  private rowAt(group: number, place: number, filter: RowFilter): number {
    const { rows, starts } = this.order;
    let block = this.firstBlock[group] as number;
    let left = place;
    while (left >= (this.blocks[block] as number)) left -= this.blocks[block++] as number;
    let at = (starts[group] as number) + (block - (this.firstBlock[group] as number)) * BLOCK;
    for (; ; at++) {
      if (filter[rows[at] as number] !== 0) continue;
      if (left-- === 0) return rows[at] as number;
    }
  }

  private runsOf(known: Float64Array, filter: RowFilter): NonNullable<OrderedCounts["runs"]> {
    const { rows, starts } = this.order;
    const of = new Int32Array(rows.length);
    let count = 0;
    for (let group = 0; group < this.groupCount; group++)
      for (let at = starts[group] as number; at < (starts[group + 1] as number); at++) {
        const isNew = at === starts[group] || known[rows[at] as number] !== known[rows[at - 1] as number];
        if (isNew) count += 1;
        of[at] = count - 1;
      }
    const runs = { of, counts: new Int32Array(count), different: new Float64Array(this.groupCount) };
    for (let at = 0; at < rows.length; at++) {
      const row = rows[at] as number;
      if (filter[row] !== 0) continue;
      const run = of[at] as number;
      const group = this.groups[row] as number;
      if (runs.counts[run] === 0) runs.different[group] = (runs.different[group] as number) + 1;
      runs.counts[run] = (runs.counts[run] as number) + 1;
    }
    return runs;
  }
}
