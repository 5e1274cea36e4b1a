import type { Column } from "./column";
import { sortedByValue } from "./radix-sort";
import { allRows } from "./table";

/**
 * Orders rows of a column: numbers by value, text by code unit, ordered text by its own order;
 * missing last in both directions. The result is a rank per row so that sorting by several
 * columns compares numbers only.
 */
export function ranks(column: Column, order?: readonly string[]): Float64Array {
  if (column.kind !== "text") return column.values;
  const places = textPlaces(column.dictionary, column.ordered === true, order);
  const result = new Float64Array(column.codes.length);
  for (let row = 0; row < result.length; row++) {
    const code = column.codes[row] as number;
    result[row] = code < 0 ? Number.NaN : (places[code] as number);
  }
  return result;
}

/** For each dictionary entry, its place among the sorted entries. Named values of `order` come first. */
export function textPlaces(dictionary: readonly string[], ordered: boolean, order?: readonly string[]): Int32Array {
  const named = new Map((order ?? []).map((value, place) => [value, place]));
  const codes = dictionary.map((_, code) => code);
  codes.sort((a, b) => {
    const textA = dictionary[a] as string;
    const textB = dictionary[b] as string;
    const placeA = named.get(textA) ?? Number.POSITIVE_INFINITY;
    const placeB = named.get(textB) ?? Number.POSITIVE_INFINITY;
    if (placeA !== placeB) return placeA - placeB;
    if (ordered) return a - b;
    return textA < textB ? -1 : textA > textB ? 1 : a - b;
  });
  const places = new Int32Array(dictionary.length);
  codes.forEach((code, place) => {
    places[code] = place;
  });
  return places;
}

/** Row numbers sorted by several rank arrays, stable; `descending[i]` turns the i-th around; missing stays last. */
export function sortedRows(length: number, keys: readonly Float64Array[], descending: readonly boolean[]): Int32Array {
  const rows = allRows(length);
  if (keys.length === 1 && !descending[0]) return sortedByValue(keys[0] as Float64Array, rows);
  return rows.sort((a, b) => {
    for (let k = 0; k < keys.length; k++) {
      const key = keys[k] as Float64Array;
      const left = key[a] as number;
      const right = key[b] as number;
      if (left === right) continue;
      const leftMissing = left !== left;
      const rightMissing = right !== right;
      if (leftMissing && rightMissing) continue;
      if (leftMissing) return 1;
      if (rightMissing) return -1;
      return (left < right ? -1 : 1) * (descending[k] ? -1 : 1);
    }
    return a - b;
  });
}
