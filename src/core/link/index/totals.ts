import type { RowFilter } from "../../formula/measures";
import { isSubtractable } from "../../query/answer";
import type { Prepared } from "../../query/prepare";
import type { SelectionPlan } from "../selection";

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
export class BrushIndex {
  /** The stretch between edges that holds each row's value; -1 outside and for missing. */
  private readonly places: Int32Array;
  private readonly byPrepared = new Map<Prepared, Running>();
  private bytes = 0;
  /** Rows in the order of their places, for bits that follow the brush. */
  private order: { rows: Int32Array; starts: Int32Array } | undefined;
  private lastRange: [number, number] = [0, 0];
  /** The bits were set by someone else since. */
  private stale = false;

  constructor(
    readonly plan: SelectionPlan,
    private readonly axis: "x" | "y",
    private readonly values: Float64Array,
    private readonly edges: Float64Array,
    private readonly range: () => [number, number] | undefined,
  ) {
    this.places = placesOf(values, edges);
  }

  matches(plan: SelectionPlan, axis: "x" | "y", values: Float64Array, edges: Float64Array): boolean {
    return (
      this.plan === plan &&
      this.axis === axis &&
      this.values === values &&
      this.edges.length === edges.length &&
      this.edges.every((edge, place) => edge === edges[place])
    );
  }

  /** Numbers of the first edge in the brush and the first one past it; none if an end is no edge. */
  private ends(): [number, number] | undefined {
    const range = this.range();
    if (!range) return undefined;
    const low = edgeAt(this.edges, range[0]);
    const high = edgeAt(this.edges, range[1]);
    return low < 0 || high < 0 ? undefined : [low, Math.max(low, high)];
  }

  /** Totals of every contribution per group for the brush as it stands; none where no table can be kept. */
  totals(prepared: Prepared, key: string, others: RowFilter | null): Float64Array[] | undefined {
    const ends = this.ends();
    if (!ends || !isSubtractable(prepared)) return undefined;
    const running = this.running(prepared, key);
    if (!running) return undefined;
    this.count(running, prepared, others, Number.POSITIVE_INFINITY);
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
    const cells = this.edges.length * groupCount;
    const bytes = cells * 8 * contributions.length;
    if (bytes > MOST_PER_TARGET || (!known && this.bytes + bytes > MOST_IN_ALL)) return undefined;
    if (!known) this.bytes += bytes;
    const running = { key, totals: contributions.map(() => new Float64Array(cells)), next: 0 };
    this.byPrepared.set(prepared, running);
    return running;
  }

  /** Counts up to so many more rows; behind the last one the totals are made to run. */
  private count(running: Running, prepared: Prepared, others: RowFilter | null, most: number) {
    if (running.next === undefined) return;
    const { groupCount, groups, contributions } = prepared;
    const { places } = this;
    const { totals } = running;
    const counts = totals[0] as Float64Array;
    const measured = contributions.length - 1;
    const end = Math.min(groups.length, running.next + most);
    for (let row = running.next; row < end; row++) {
      const place = places[row] as number;
      const group = groups[row] as number;
      if (place < 0 || group < 0) continue;
      if (others && ((others.bits[row] as number) & others.mask) !== 0) continue;
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

  /** Lets bits follow the brush, touching only rows that enter or leave it. False where its ends are no edges. */
  syncBits(bits: Uint32Array, bit: number, fresh: boolean): boolean {
    const ends = this.ends();
    if (!ends) {
      this.stale = true;
      return false;
    }
    this.order ??= rowsByPlace(this.places, this.edges.length);
    const { rows, starts } = this.order;
    if (fresh || this.stale) {
      this.stale = false;
      for (let row = 0; row < bits.length; row++) bits[row] = (bits[row] as number) | bit;
      this.lastRange = [0, 0];
    }
    const [from, to] = [this.lastRange, ends];
    const set = (lowEdge: number, highEdge: number, fails: boolean) => {
      for (let at = starts[lowEdge] as number; at < (starts[highEdge] as number); at++) {
        const row = rows[at] as number;
        bits[row] = fails ? (bits[row] as number) | bit : (bits[row] as number) & ~bit;
      }
    };
    const [low, high] = [Math.max(from[0], to[0]), Math.min(from[1], to[1])];
    if (low >= high) {
      set(from[0], from[1], true);
      set(to[0], to[1], false);
    } else {
      if (from[0] < to[0]) set(from[0], to[0], true);
      else set(to[0], from[0], false);
      if (from[1] > to[1]) set(to[1], from[1], true);
      else set(from[1], to[1], false);
    }
    this.lastRange = ends;
    return true;
  }
}

/** The number of an edge with exactly this value, or -1. */
function edgeAt(edges: Float64Array, value: number): number {
  let low = 0;
  let high = edges.length - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((edges[middle] as number) < value) low = middle + 1;
    else high = middle;
  }
  return edges[low] === value ? low : -1;
}

/** For every value the number of the last edge at or below it, -1 outside `[first, last)`. */
function placesOf(values: Float64Array, edges: Float64Array): Int32Array {
  const places = new Int32Array(values.length);
  const last = edges.length - 1;
  const [first, end] = [edges[0] as number, edges[last] as number];
  const perEdge = last / (end - first);
  for (let row = 0; row < values.length; row++) {
    const value = values[row] as number;
    if (!(value >= first && value < end)) {
      places[row] = -1;
      continue;
    }
    // Edges mostly lie evenly; where the guess is far off (a log axis) the search goes by halves.
    let low = Math.min(last - 1, Math.max(0, Math.floor((value - first) * perEdge)));
    let high = low;
    if ((edges[low] as number) > value) {
      high = low - 1;
      low = (edges[high] as number) <= value ? high : 0;
    } else if ((edges[low + 1] as number) <= value) {
      low += 1;
      high = (edges[low + 1] as number) > value ? low : last - 1;
    }
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if ((edges[middle] as number) <= value) low = middle;
      else high = middle - 1;
    }
    places[row] = low;
  }
  return places;
}

/** Row numbers laid out by place; those without a place are left out. */
function rowsByPlace(places: Int32Array, edgeCount: number): { rows: Int32Array; starts: Int32Array } {
  const starts = new Int32Array(edgeCount + 1);
  for (const place of places) if (place >= 0) starts[place + 1] = (starts[place + 1] as number) + 1;
  for (let i = 0; i < edgeCount; i++) starts[i + 1] = (starts[i + 1] as number) + (starts[i] as number);
  const next = starts.slice();
  const rows = new Int32Array(starts[edgeCount] as number);
  for (let row = 0; row < places.length; row++) {
    const place = places[row] as number;
    if (place < 0) continue;
    rows[next[place] as number] = row;
    next[place] = (next[place] as number) + 1;
  }
  return { rows, starts };
}
