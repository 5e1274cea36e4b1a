import { extentOf } from "../../table/extent";
import { type Cover, OUT, RowPlaces, SOME, WHOLE } from "./row-places";

/** Rows by where their values lie between the edges of an axis. */
export function axisPlaces(values: Float64Array, edges: Float64Array): RowPlaces {
  return new RowPlaces(values.length, edges.length - 1, (places, from, to) =>
    findBetween(values, edges, places, from, to),
  );
}

/**
 * What a range `[low, high)` covers of places between edges: an end that is no edge covers its place in part.
 * Nothing where it holds rows beyond the edges, which have no place.
 */
export function coverOfRange(
  values: Float64Array,
  edges: Float64Array,
  [low, high]: readonly [number, number],
): Cover | undefined {
  const [first, last] = [edges[0] as number, edges[edges.length - 1] as number];
  const [least, most] = (low < first || high > last ? extentOf(values) : undefined) ?? [first, first];
  if ((low < first && least < first) || (high > last && most >= last)) return undefined;
  return {
    parts: partsOfRange(edges, low, high),
    columns: [values],
    holds: ([own], at) => ((own as Float64Array)[at] as number) >= low && ((own as Float64Array)[at] as number) < high,
  };
}

/** How much of each stretch between two edges a range holds. */
export function partsOfRange(edges: Float64Array, low: number, high: number): Uint8Array {
  const parts = new Uint8Array(edges.length - 1);
  for (let place = 0; place < parts.length; place++) {
    const [from, to] = [edges[place] as number, edges[place + 1] as number];
    if (to <= low || from >= high) parts[place] = OUT;
    else parts[place] = low <= from && to <= high ? WHOLE : SOME;
  }
  return parts;
}

/** For the values of some rows the number of the last edge at or below each, -1 outside `[first, last)`. */
export function findBetween(values: Float64Array, edges: Float64Array, places: Int32Array, from: number, to: number) {
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
