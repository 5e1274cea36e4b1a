import type { RowFilter } from "../../formula/ordered";
import { isSubtractable } from "../../query/answer";
import type { Prepared } from "../../query/prepare";
import type { BrushPlaces, Ends } from "./places";

/** Most bytes of one target's running totals, and of all together. */
const MOST_PER_TARGET = 8 << 20;
const MOST_IN_ALL = 64 << 20;

interface Running {
  key: string;
  /** One array a contribution: totals of all rows below an edge, by edge and group. */
  totals: Float64Array[];
  /** The first row that is not counted yet; all are, and the totals run, once it is `undefined`. */
  next: number | undefined;
}

/** Rows that are counted in one slice while a table is made ahead of its first use. */
const SLICE = 200_000;

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
   * Totals of every contribution per group for a range of the brush; none where no table can be kept,
   * or where it is not made yet: a move never waits for a table.
   */
  totals(prepared: Prepared, key: string, ends: Ends): Float64Array[] | undefined {
    const running = this.byPrepared.get(prepared);
    if (running?.key !== key || running.next !== undefined) return undefined;
    const { groupCount } = prepared;
    const [low, high] = [ends[0] * groupCount, ends[1] * groupCount];
    return running.totals.map((table) => {
      const totals = new Float64Array(groupCount);
      for (let group = 0; group < groupCount; group++)
        totals[group] = (table[high + group] as number) - (table[low + group] as number);
      return totals;
    });
  }

  /** Makes a slice of the table of a target before it is asked for. False once there is nothing left to do. */
  warm(prepared: Prepared, key: string, others: RowFilter | null): boolean {
    const running = isSubtractable(prepared) ? this.running(prepared, key) : undefined;
    if (!running || running.next === undefined) return false;
    this.count(running, prepared, others, SLICE);
    return true;
  }

  private running(prepared: Prepared, key: string): Running | undefined {
    const known = this.byPrepared.get(prepared);
    if (known?.key === key) return known;
    const { groupCount, contributions } = prepared;
    const cells = this.places.edges.length * groupCount;
    const bytes = cells * 8 * contributions.length;
    if (bytes > MOST_PER_TARGET || (!known && this.bytes + bytes > MOST_IN_ALL)) return undefined;
    if (!known) this.bytes += bytes;
    const running = { key, totals: contributions.map(() => new Float64Array(cells)), next: 0 };
    this.byPrepared.set(prepared, running);
    return running;
  }

  /** Counts up to so many more rows; behind the last one the totals are made to run. */
  private count(running: Running, prepared: Prepared, others: RowFilter | null, most: number) {
    const { groupCount, groups, contributions } = prepared;
    const places = this.places.of;
    const { totals } = running;
    const counts = totals[0] as Float64Array;
    const measured = contributions.length - 1;
    const end = Math.min(groups.length, (running.next ?? 0) + most);
    for (let row = running.next ?? 0; row < end; row++) {
      const place = places[row] as number;
      const group = groups[row] as number;
      if (place < 0 || group < 0) continue;
      if (others && others[row] !== 0) continue;
      // A row between edges i and i + 1 counts from edge i + 1 on.
      const cell = (place + 1) * groupCount + group;
      // The first contribution always counts rows.
      counts[cell] = (counts[cell] as number) + 1;
      for (let at = 1; at <= measured; at++) {
        const table = totals[at] as Float64Array;
        table[cell] = (table[cell] as number) + ((contributions[at] as Float64Array)[row] as number);
      }
    }
    running.next = end < groups.length ? end : undefined;
    if (running.next !== undefined) return;
    for (const table of totals)
      for (let cell = groupCount; cell < table.length; cell++)
        table[cell] = (table[cell] as number) + (table[cell - groupCount] as number);
  }
}
