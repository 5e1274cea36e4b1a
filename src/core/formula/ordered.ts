import { Optional } from "../finding/kit";
import type { LaidOut } from "../table/laid-out";

/**
 * How often each row fails what is asked of it; the rows with 0 count. A row can fail more than one
 * selection, and counts again once the last of them has let go of it.
 */
export type RowFilter = Uint8Array | Uint16Array;

/** What an ordered measure asks of the rows of a group that count, in its order. */
export type Ask =
  /**
   * The value at a place among `count` of them, counted from 0; between two places it is interpolated. `NaN` is
   * none.
   */
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
export interface ScanOrder extends LaidOut {
  /** The place of each row in the order, -1 for rows that are not in it; once asked for. */
  places?: Int32Array;
  /**
   * The number of the stretch of equal values that each place lies in, and how many stretches there are; once
   * asked for.
   */
  runs?: { of: Int32Array; count: number };
}

/** How many of the rows in an order count, kept up as rows come and go. */
export interface OrderCounts {
  /** Counts anew what counts. */
  recount(filter: RowFilter): void;
  /** A row has begun to count, or counts no more. */
  change(row: number, by: 1 | -1): void;
  /** What a measure with this order asks, for every group. */
  answer(measure: Ordered, filter: RowFilter): Float64Array;
}

/** How ordered measures are answered. */
export interface OrderedWays {
  /** Lays the known rows of every group side by side. `groups[row]` is -1 for rows that belong to none. */
  layOut(measure: Ordered, groups: Int32Array, groupCount: number): ScanOrder;
  /** Answers an ordered measure for every group by going over all rows that count. */
  answer(
    measure: Ordered,
    groups: Int32Array,
    groupCount: number,
    filter: RowFilter | null,
    order?: () => ScanOrder,
  ): Float64Array;
  counts(order: ScanOrder, groups: Int32Array, groupCount: number): OrderCounts;
}

/** These ways; a dashboard has them where one of its formulas asks for an order. */
export const ORDERED = new Optional<OrderedWays>("ordered measures");

/** The place of a quantile among `count` sorted values, at (n-1)p; `NaN` where there is none. */
export const quantilePlace = (count: number, p: number): number =>
  count === 0 || !(p >= 0 && p <= 1) ? Number.NaN : (count - 1) * p;

/** The value at a place of values in rising order, interpolated between two. */
export function valueAtPlace(place: number, at: (place: number) => number): number {
  if (place !== place) return Number.NaN;
  const below = Math.floor(place);
  const low = at(below);
  const part = place - below;
  return part === 0 ? low : low + (at(below + 1) - low) * part;
}
