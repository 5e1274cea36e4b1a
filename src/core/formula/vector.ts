import { keepBound } from "../finding/limits";
import type { Column, NumericKind, Scalar } from "../table/column";

/**
 * What a formula evaluates to: a column, or one value that stands for every row (`step` 0).
 * Loops read `values[row * step]`, so constants cost no memory.
 */
export interface NumericVector {
  kind: NumericKind;
  values: Float64Array;
  step: 0 | 1;
}

export interface TextVector {
  kind: "text";
  codes: Int32Array;
  dictionary: readonly string[];
  ordered?: boolean;
  place?: boolean;
  step: 0 | 1;
}

export type Vector = NumericVector | TextVector;

export function constantNumber(value: number, kind: NumericKind = "number"): NumericVector {
  return { kind, values: Float64Array.of(value), step: 0 };
}

export function constantText(value: string | null): TextVector {
  return {
    kind: "text",
    codes: Int32Array.of(value === null ? -1 : 0),
    dictionary: value === null ? [] : [value],
    step: 0,
  };
}

export function constantOf(value: Scalar, kind: NumericKind = "number"): Vector {
  if (typeof value === "string") return constantText(value);
  if (value === null) return constantNumber(Number.NaN);
  return typeof value === "boolean" ? constantNumber(value ? 1 : 0, "boolean") : constantNumber(value, kind);
}

export function vectorOf(column: Column): Vector {
  return { ...column, step: 1 };
}

/** The vector as a column of `length` rows; constants are spread. */
export function columnOf(vector: Vector, length: number): Column {
  if (vector.kind === "text") {
    const codes = vector.step ? vector.codes : new Int32Array(length).fill(vector.codes[0] as number);
    const column: Column = { kind: "text", codes, dictionary: vector.dictionary };
    if (vector.ordered) column.ordered = true;
    if (vector.place) column.place = true;
    return column;
  }
  const values = vector.step ? vector.values : new Float64Array(length).fill(vector.values[0] as number);
  return { kind: vector.kind, values };
}

/** Builds a numeric vector row by row; constant when `step` is 0. */
export function fillNumeric(
  kind: NumericKind,
  length: number,
  step: 0 | 1,
  value: (row: number) => number,
): NumericVector {
  const values = new Float64Array(step ? length : 1);
  for (let row = 0; row < values.length; row++) values[row] = value(row);
  return { kind, values, step };
}

/** 1 if any of the vectors has a value a row. */
export function stepOf(vectors: readonly Vector[]): 0 | 1 {
  return vectors.some((vector) => vector.step === 1) ? 1 : 0;
}

/** The text of a row, or `null`. */
export function textAt(vector: TextVector, row: number): string | null {
  const code = vector.codes[row * vector.step] as number;
  return code < 0 ? null : (vector.dictionary[code] as string);
}

/** Counts the signs of the texts that a formula makes, and stops where they are too many. */
function roomForTexts(): (text: string) => void {
  let total = 0;
  return (text) => {
    total += text.length;
    keepBound("textLength", text.length, "a text that a formula makes");
    keepBound("columnTextLength", total, "a column that a formula makes");
  };
}

/** Texts made row by row, sharing equal ones. */
export function fillText(length: number, step: 0 | 1, value: (row: number) => string | null): TextVector {
  const codes = new Int32Array(step ? length : 1);
  const dictionary: string[] = [];
  const take = roomForTexts();
  const seen = new Map<string, number>();
  for (let row = 0; row < codes.length; row++) {
    const text = value(row);
    if (text === null) {
      codes[row] = -1;
      continue;
    }
    let code = seen.get(text);
    if (code === undefined) {
      take(text);
      code = dictionary.length;
      seen.set(text, code);
      dictionary.push(text);
    }
    codes[row] = code;
  }
  return { kind: "text", codes, dictionary, step };
}

/**
 * A text vector whose every dictionary entry went through `change`; equal results are shared. `null` becomes
 * missing.
 */
export function mapTexts(vector: TextVector, change: (text: string) => string | null): TextVector {
  const dictionary: string[] = [];
  const take = roomForTexts();
  const seen = new Map<string, number>();
  const recode = Int32Array.from(vector.dictionary, (text) => {
    const changed = change(text);
    if (changed === null) return -1;
    let code = seen.get(changed);
    if (code === undefined) {
      take(changed);
      code = dictionary.length;
      seen.set(changed, code);
      dictionary.push(changed);
    }
    return code;
  });
  const codes = vector.codes.map((code) => (code < 0 ? -1 : (recode[code] as number)));
  return { kind: "text", codes, dictionary, step: vector.step };
}

/** A number for every dictionary entry, read off row by row; `NaN` where the text is missing. */
export function measureTexts(vector: TextVector, kind: NumericKind, measure: (text: string) => number): NumericVector {
  const byCode = Float64Array.from(vector.dictionary, measure);
  const values = new Float64Array(vector.codes.length);
  for (let row = 0; row < values.length; row++) {
    const code = vector.codes[row] as number;
    values[row] = code < 0 ? Number.NaN : (byCode[code] as number);
  }
  return { kind, values, step: vector.step };
}
