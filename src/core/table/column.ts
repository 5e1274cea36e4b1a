/**
 * Columns are typed arrays. Missing is kept in place: `NaN` in numbers, code -1 in text;
 * the arithmetic of missing then needs no second array to be read beside the first.
 * (In a packed dashboard missing becomes a bit set, see dashboard/pack.)
 */

/**
 * What a column holds. Durations are seconds; dates and datetimes are seconds since 1970-01-01T00:00 on a clock
 * without zone.
 */
export type Kind = "number" | "text" | "boolean" | "date" | "datetime" | "duration" | "place";

export type NumericKind = "number" | "boolean" | "date" | "datetime" | "duration";

export interface NumericColumn {
  kind: NumericKind;
  /** One value a row; `NaN` is missing; booleans are 0 and 1. */
  values: Float64Array;
}

export interface TextColumn {
  kind: "text";
  /** One code a row, a place in `dictionary`; -1 is missing. */
  codes: Int32Array;
  dictionary: readonly string[];
  /** The dictionary stands in an order of its own (months, weekdays), to be kept when sorting. */
  ordered?: boolean;
  /** The texts are GeoJSON geometries: the column is of the kind `place`. */
  place?: boolean;
}

export type Column = NumericColumn | TextColumn;

/** The kind of a column as the language knows it. */
export const kindOf = (column: Column): Kind => (column.kind === "text" && column.place ? "place" : column.kind);

/** Whether the values of a column are figures, which stand under one another at their right; the others are words. */
export const isFigures = (column: Column | undefined): boolean =>
  column !== undefined && column.kind !== "text" && column.kind !== "boolean";

/** The values of a cell that holds several; each once, none empty. */
export function valuesIn(text: string, split: string): string[] {
  return [...new Set(text.split(split).map((value) => value.trim()))].filter((value) => value !== "");
}

/** True for a column in which nothing is known: its kind is only a guess. */
export function isAllMissing(column: Column): boolean {
  return column.kind === "text"
    ? column.codes.every((code) => code < 0)
    : column.values.every((value) => value !== value);
}

/** A single value as it leaves a column. Kind is known from where it came. */
export type Scalar = number | string | boolean | null;

/** Builds a text column, sharing equal texts. `null` is missing. */
export function textColumn(texts: Iterable<string | null>, length: number): TextColumn {
  const codes = new Int32Array(length);
  const dictionary: string[] = [];
  const seen = new Map<string, number>();
  let row = 0;
  for (const text of texts) {
    if (text === null) {
      codes[row++] = -1;
      continue;
    }
    let code = seen.get(text);
    if (code === undefined) {
      code = dictionary.length;
      seen.set(text, code);
      dictionary.push(text);
    }
    codes[row++] = code;
  }
  return { kind: "text", codes, dictionary };
}

/** The value at a row; missing is `null`, booleans are booleans. */
export function valueAt(column: Column, row: number): Scalar {
  if (column.kind === "text") {
    const code = column.codes[row] as number;
    return code < 0 ? null : (column.dictionary[code] as string);
  }
  const value = column.values[row] as number;
  if (Number.isNaN(value)) return null;
  return column.kind === "boolean" ? value === 1 : value;
}

/** The column at the given rows, in their order; missing where a row is -1. Text keeps its dictionary. */
export function gather(column: Column, rows: Int32Array): Column {
  const length = rows.length;
  if (column.kind === "text") {
    const codes = new Int32Array(length);
    const from = column.codes;
    for (let i = 0; i < length; i++) {
      const row = rows[i] as number;
      codes[i] = row < 0 ? -1 : (from[row] as number);
    }
    return { ...column, codes };
  }
  const values = new Float64Array(length);
  const from = column.values;
  for (let i = 0; i < length; i++) {
    const row = rows[i] as number;
    values[i] = row < 0 ? Number.NaN : (from[row] as number);
  }
  return { kind: column.kind, values };
}
