import { type Grouping, groupRows } from "../formula/groups";
import type { ScanOrder } from "../formula/ordered";
import { scanOrder } from "../formula/ordered-ways";
import type { Prepared } from "../query/prepare";
import type { LayerValues } from "../query/values";
import type { SortedValues } from "../stat/box-numbers";
import { type Column, gather } from "../table/column";
import { firstPlace } from "../table/first-place";
import { taken } from "../table/taken";

/** Rows that a mark sums up together. */
export interface RowGroup {
  /** Places among the drawn rows, in their order. */
  at: Int32Array;
  /** A row that stands for all of them. */
  id: number;
}

const known = new WeakMap<Prepared, Map<string, Grouping>>();

/** The groups of all rows of a question, found once however often others of them are drawn. */
function groupsOfAll(values: LayerValues, channels: readonly string[], columns: readonly Column[]): Grouping {
  const { prepared } = values;
  const own = known.get(prepared) ?? new Map<string, Grouping>();
  known.set(prepared, own);
  const key = channels.join(" ");
  const found = own.get(key) ?? groupRows(columns, prepared.groupCount);
  own.set(key, found);
  return found;
}

/** Drawn rows by the values of some channels, in the order in which groups first appear. */
export function rowGroups(values: LayerValues, ids: Int32Array, channels: readonly string[]): RowGroup[] {
  const columns = channels.map((name) => values.get(name)).filter((column): column is Column => column !== undefined);
  if (ids.length === 0) return [];
  if (columns.length === 0) return [{ at: Int32Array.from(ids.keys()), id: ids[0] as number }];
  // What a channel is can follow what is picked; a key of the question does not.
  const isFixed = columns.every((column) => [...values.prepared.keys.values()].includes(column));
  const { of, count } = isFixed
    ? groupsOfAll(values, channels, columns)
    : groupRows(
        columns.map((column) => gather(column, ids)),
        ids.length,
      );
  const groupOf = (at: number) => of[isFixed ? (ids[at] as number) : at] as number;
  const sizes = new Int32Array(count);
  for (let at = 0; at < ids.length; at++) sizes[groupOf(at)] = (sizes[groupOf(at)] as number) + 1;
  const groups: RowGroup[] = [];
  const places = new Int32Array(count).fill(-1);
  const filled = new Int32Array(count);
  for (let at = 0; at < ids.length; at++) {
    const group = groupOf(at);
    let place = places[group] as number;
    if (place < 0) {
      place = groups.length;
      places[group] = place;
      groups.push({ at: new Int32Array(sizes[group] as number), id: ids[at] as number });
    }
    (groups[place] as RowGroup).at[filled[place] as number] = at;
    filled[place] = (filled[place] as number) + 1;
  }
  return groups;
}

interface Order extends ScanOrder {
  /** The values of its rows, side by side as these are. */
  values: Float64Array;
}

const orders = new WeakMap<Float64Array, { of: Grouping; order: Order }>();

/** All rows by group and, in each, by value. */
function orderOf(numbers: Float64Array, of: Grouping): Order {
  const known = orders.get(numbers);
  if (known?.of === of) return known.order;
  const measure = { orderBy: numbers, known: numbers, ask: { type: "different" } } as const;
  const { rows, starts } = scanOrder(measure, of.of, of.count);
  const order = { rows, starts, values: taken(numbers, rows) };
  orders.set(numbers, { of, order });
  return order;
}

/** Places in an order that are counted together, so that any of them is found by looking at few. */
const BLOCK = 1024;

/**
 * The drawn rows of a group in the order of their values. They are not written down: of a million rows a box asks
 * for three places and both ends.
 */
export class SortedGroup implements SortedValues {
  readonly count: number;
  /** Drawn rows before each block of the order. */
  private readonly before: Int32Array;

  /**
   * @param first the first of its rows in the table
   * @param drawn 1 for rows that are drawn
   */
  constructor(
    readonly first: number,
    private readonly order: Order,
    private readonly begin: number,
    private readonly end: number,
    private readonly drawn: Uint8Array,
  ) {
    const { rows } = order;
    this.before = new Int32Array(Math.ceil((end - begin) / BLOCK) + 1);
    for (let block = 0; block + 1 < this.before.length; block++) {
      const last = Math.min(end, begin + (block + 1) * BLOCK);
      let count = this.before[block] as number;
      for (let at = begin + block * BLOCK; at < last; at++) count += drawn[rows[at] as number] as number;
      this.before[block + 1] = count;
    }
    this.count = this.before.at(-1) as number;
  }

  at(place: number): number {
    let block = 0;
    while ((this.before[block + 1] as number) <= place) block += 1;
    let left = place - (this.before[block] as number);
    for (let at = this.begin + block * BLOCK; ; at++) {
      if (!this.drawn[this.order.rows[at] as number]) continue;
      if (left === 0) return this.order.values[at] as number;
      left -= 1;
    }
  }

  leastFrom(limit: number): number | undefined {
    for (let at = this.placeOf((value) => value >= limit); at < this.end; at++)
      if (this.drawn[this.order.rows[at] as number]) return this.order.values[at];
    return undefined;
  }

  mostTo(limit: number): number | undefined {
    for (let at = this.placeOf((value) => value > limit) - 1; at >= this.begin; at--)
      if (this.drawn[this.order.rows[at] as number]) return this.order.values[at];
    return undefined;
  }

  /** Drawn rows with values below one limit or above another, as they stand in the table. */
  rowsBeyond(least: number, most: number): Int32Array {
    const found: number[] = [];
    const take = (from: number, to: number) => {
      for (let at = from; at < to; at++) {
        const row = this.order.rows[at] as number;
        if (this.drawn[row]) found.push(row);
      }
    };
    take(
      this.begin,
      this.placeOf((value) => value >= least),
    );
    take(
      this.placeOf((value) => value > most),
      this.end,
    );
    return Int32Array.from(found).sort();
  }

  /** The first place in the order whose value is far enough. */
  private placeOf(isFar: (value: number) => boolean): number {
    return firstPlace(this.begin, this.end, (place) => isFar(this.order.values[place] as number));
  }
}

/**
 * Drawn rows by the values of some channels, each group in the order of some numbers; rows where these are
 * missing are in none. All rows are put in order once, however often others of them are drawn.
 */
export function sortedGroups(
  values: LayerValues,
  ids: Int32Array,
  channels: readonly string[],
  numbers: Float64Array,
): SortedGroup[] {
  const columns = channels.map((name) => values.get(name)).filter((column): column is Column => column !== undefined);
  const grouping = groupsOfAll(values, channels, columns);
  const order = orderOf(numbers, grouping);
  const drawn = new Uint8Array(numbers.length);
  for (let at = 0; at < ids.length; at++) drawn[ids[at] as number] = 1;
  const firsts = firstsOf(ids, grouping, numbers);
  return Array.from(firsts, ([group, first]) => {
    const [begin, end] = [order.starts[group] as number, order.starts[group + 1] as number];
    return new SortedGroup(first, order, begin, end, drawn);
  });
}

/** The first drawn row with a known number of every group that has one, in the order of the table. */
function firstsOf(ids: Int32Array, { of, count }: Grouping, numbers: Float64Array): Map<number, number> {
  const firsts = new Map<number, number>();
  for (let at = 0; at < ids.length && firsts.size < count; at++) {
    const row = ids[at] as number;
    const group = of[row] as number;
    if (numbers[row] === numbers[row] && !firsts.has(group)) firsts.set(group, row);
  }
  return firsts;
}
