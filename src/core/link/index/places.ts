import { type LaidOut, laidOut } from "../../table/laid-out";
import type { SelectionState } from "../selection";

/** Rows that are gone over in one slice while something is made ahead of its first use. */
export const SLICE = 200_000;

/** Numbers of the first edge in a range and of the first one past it. */
export type Ends = [low: number, high: number];

/**
 * Where the rows of a table lie along an axis on which a brush moves: the stretch between two edges that
 * holds each, and, once asked for, the rows of every stretch.
 */
export class BrushPlaces {
  private readonly places: Int32Array;
  /** Rows whose places are known. */
  private known = 0;
  private order: LaidOut | undefined;

  constructor(
    readonly values: Float64Array,
    readonly edges: Float64Array,
  ) {
    this.places = new Int32Array(values.length);
  }

  /** The number of the last edge at or below each row's value; -1 outside and for missing. */
  get of(): Int32Array {
    this.find(this.places.length);
    return this.places;
  }

  /** Finds the places of so many more rows, ahead of their first use; false where all are known. */
  find(most: number): boolean {
    const { known, places } = this;
    if (known === places.length) return false;
    this.known = Math.min(places.length, known + most);
    findPlaces(this.values, this.edges, places, known, this.known);
    return true;
  }

  isOf(values: Float64Array, edges: Float64Array): boolean {
    return (
      this.values === values &&
      this.edges.length === edges.length &&
      this.edges.every((edge, place) => edge === edges[place])
    );
  }

  /** The ends of a range as numbers of edges; nothing if one is no edge. */
  ends(range: readonly [number, number] | undefined): Ends | undefined {
    if (!range) return undefined;
    const low = edgeAt(this.edges, range[0]);
    const high = edgeAt(this.edges, range[1]);
    return low < 0 || high < 0 ? undefined : [low, Math.max(low, high)];
  }

  /** Rows of the stretches that lie in one of two ranges and not in the other. */
  between(from: Ends, to: Ends): Int32Array[] {
    const [low, high] = [Math.max(from[0], to[0]), Math.min(from[1], to[1])];
    if (low >= high) return [this.rows(from), this.rows(to)];
    return [
      this.rows([Math.min(from[0], to[0]), Math.max(from[0], to[0])]),
      this.rows([Math.min(from[1], to[1]), Math.max(from[1], to[1])]),
    ];
  }

  private rows([low, high]: Ends): Int32Array {
    this.order ??= laidOut(this.of, this.edges.length);
    const { rows, starts } = this.order;
    return rows.subarray(starts[low], starts[high]);
  }
}

/** The brush that is in hand: the places of its rows along each axis that it has. */
export interface BrushInHand {
  selection: string;
  table: string;
  axes: Partial<Record<"x" | "y", BrushPlaces>>;
}

/** The ends of a state on every axis of a brush; nothing where it holds anything else, or an end is no edge. */
export function endsOf({ axes }: BrushInHand, state: SelectionState): Partial<Record<"x" | "y", Ends>> | undefined {
  if (state.keys || state.rows || state.outline || state.search || state.conditions) return undefined;
  const ends: Partial<Record<"x" | "y", Ends>> = {};
  for (const axis of ["x", "y"] as const) {
    const found = axes[axis]?.ends(state[axis]);
    if ((axes[axis] === undefined) !== (state[axis] === undefined) || (axes[axis] && !found)) return undefined;
    if (found) ends[axis] = found;
  }
  return ends;
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

/** For the values of some rows the number of the last edge at or below each, -1 outside `[first, last)`. */
function findPlaces(values: Float64Array, edges: Float64Array, places: Int32Array, from: number, to: number) {
  const last = edges.length - 1;
  const first = edges[0] as number;
  const end = edges[last] as number;
  const perEdge = last / (end - first);
  for (let row = from; row < to; row++) {
    const value = values[row] as number;
    if (!(value >= first && value < end)) {
      places[row] = -1;
      continue;
    }
    // Edges mostly lie evenly; where the guess is far off (a log axis) the search goes by halves.
    let low = ((value - first) * perEdge) | 0;
    if (low >= last) low = last - 1;
    if ((edges[low] as number) <= value && (edges[low + 1] as number) > value) {
      places[row] = low;
      continue;
    }
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
}
