import { isoDate, isoDatetime } from "../table/calendar";
import type { Column, Scalar } from "../table/column";
import { textPlaces } from "../table/compare";

/** A category: how it is known, and what orders it. Missing is a category of its own, always last. */
export interface Category {
  /** The text by which it is known and compared; `null` for missing. */
  name: string | null;
  value: Scalar;
}

export const MISSING_NAME = "missing";

/** Names of the values of a column, by row or group: texts as they are, others as rows() gives them. */
export function nameAt(column: Column, row: number): string | null {
  if (column.kind === "text") {
    const code = column.codes[row] as number;
    return code < 0 ? null : (column.dictionary[code] as string);
  }
  const value = column.values[row] as number;
  if (value !== value) return null;
  if (column.kind === "boolean") return value ? "true" : "false";
  if (column.kind === "date") return isoDate(value);
  return column.kind === "datetime" ? isoDatetime(value) : String(value);
}

/** The value as rows() and states speak of it: dates as ISO text, missing as `null`. */
export function plainValue(column: Column, row: number): Scalar {
  if (column.kind === "text" || column.kind === "date" || column.kind === "datetime") return nameAt(column, row);
  const value = column.values[row] as number;
  if (value !== value) return null;
  return column.kind === "boolean" ? value === 1 : value;
}

/**
 * The distinct values of a column in their default order: those of `order` first, else ordered
 * texts in their own order, other texts by code unit, numbers by value; missing last.
 */
export function categoriesOf(column: Column, order?: readonly string[]): Category[] {
  const found = new Map<string | null, Category>();
  if (column.kind === "text") {
    const used = new Uint8Array(column.dictionary.length);
    let missing = false;
    for (const code of column.codes) {
      if (code < 0) missing = true;
      else used[code] = 1;
    }
    const places = textPlaces(column.dictionary, column.ordered === true, order);
    const codes = [...used.keys()]
      .filter((code) => used[code])
      .sort((a, b) => (places[a] as number) - (places[b] as number));
    for (const code of codes)
      found.set(column.dictionary[code] as string, {
        name: column.dictionary[code] as string,
        value: column.dictionary[code] as string,
      });
    if (missing) found.set(null, { name: null, value: null });
    return [...found.values()];
  }
  const values = new Set<number>();
  let missing = false;
  for (const value of column.values) {
    if (value !== value) missing = true;
    else values.add(value);
  }
  const sorted = Float64Array.from(values).sort();
  const names = [...sorted].map((value): Category => {
    const one: Column = { kind: column.kind, values: Float64Array.of(value) };
    return { name: nameAt(one, 0), value: plainValue(one, 0) };
  });
  if (order) {
    const places = new Map(order.map((name, place) => [name, place]));
    names.sort(
      (a, b) => (places.get(a.name as string) ?? order.length) - (places.get(b.name as string) ?? order.length),
    );
  }
  return missing ? [...names, { name: null, value: null }] : names;
}
