import { type Grouping, groupRows } from "../formula/groups";
import { type ScanOrder, scanOrder } from "../formula/ordered";
import type { Prepared } from "../query/prepare";
import type { LayerValues } from "../query/values";
import { type Column, gather } from "../table/column";
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

/** The drawn rows of a group in the order of their values. */
export interface SortedGroup {
  /** The first of them in the table. */
  first: number;
  rows: Int32Array;
  values: Float64Array;
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
  const order = orderOf(numbers, groupsOfAll(values, channels, columns));
  const drawn = new Uint8Array(numbers.length);
  for (let at = 0; at < ids.length; at++) drawn[ids[at] as number] = 1;
  const groups: SortedGroup[] = [];
  const [rows, sorted] = [new Int32Array(order.rows.length + 1), new Float64Array(order.rows.length + 1)];
  let count = 0;
  for (let group = 0; group + 1 < order.starts.length; group++) {
    const begin = count;
    // Each is written down, and the next goes over it if it is not drawn.
    for (let at = order.starts[group] as number; at < (order.starts[group + 1] as number); at++) {
      const row = order.rows[at] as number;
      rows[count] = row;
      sorted[count] = order.values[at] as number;
      count += drawn[row] as number;
    }
    if (count === begin) continue;
    const own = rows.subarray(begin, count);
    let first = own[0] as number;
    for (let at = 1; at < own.length; at++) if ((own[at] as number) < first) first = own[at] as number;
    groups.push({ first, rows: own, values: sorted.subarray(begin, count) });
  }
  return groups.sort((a, b) => a.first - b.first);
}
