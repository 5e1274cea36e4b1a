import type { Column } from "../table/column";
import type { Vector } from "./vector";

/** Rows put together by equal values; groups are numbered in order of first appearance. */
export interface Grouping {
  /** The group of each row; -1 for rows that belong to none. */
  of: Int32Array;
  count: number;
  /** The first row of each group. */
  firstRows: Int32Array;
}

/** Keys that are numbered already: equal numbers mean equal values, -1 is missing. */
export interface Codes {
  codes: Int32Array;
  count: number;
}

export type GroupKey = Column | Vector | Codes;

/** Numbers per row such that equal numbers mean equal values; -1 is missing. */
function codesOf(vector: GroupKey, length: number): Codes {
  if (!("kind" in vector)) return vector;
  const step = "step" in vector ? vector.step : 1;
  // Immutable columns can lend their codes.
  if (vector.kind === "text" && step === 1) return { codes: vector.codes, count: vector.dictionary.length };
  const codes = new Int32Array(length);
  if (vector.kind === "text") {
    for (let row = 0; row < length; row++) codes[row] = vector.codes[row * step] as number;
    return { codes, count: vector.dictionary.length };
  }
  const seen = new Map<number, number>();
  const { values } = vector;
  // Neighbouring rows are often alike, as in tables that stand in the order of time.
  let last = Number.NaN;
  let lastCode = -1;
  for (let row = 0; row < length; row++) {
    const value = values[row * step] as number;
    if (value === last) {
      codes[row] = lastCode;
      continue;
    }
    if (value !== value) {
      codes[row] = -1;
      continue;
    }
    let code = seen.get(value);
    if (code === undefined) {
      code = seen.size;
      seen.set(value, code);
    }
    codes[row] = code;
    last = value;
    lastCode = code;
  }
  return { codes, count: seen.size };
}

/** Groups rows by the values of several vectors. `leaveOut[row]` of 1 keeps a row out of every group. */
export function groupRows(keys: readonly GroupKey[], length: number, leaveOut?: Uint8Array): Grouping {
  const known = keys.map((key) => codesOf(key, length));
  const cells = known.reduce((product, { count }) => product * (count + 1), 1);
  if (cells <= Math.max(1 << 16, length * 4)) return groupByCells(known, cells, length, leaveOut);
  let of = new Int32Array(length);
  let count = length > 0 ? 1 : 0;
  for (const { codes, count: codeCount } of known) {
    const width = codeCount + 1;
    const next = new Int32Array(length);
    let nextCount = 0;
    const slots = new Map<number, number>();
    for (let row = 0; row < length; row++) {
      const slot = (of[row] as number) * width + (codes[row] as number) + 1;
      let group = slots.get(slot);
      if (group === undefined) {
        group = nextCount++;
        slots.set(slot, group);
      }
      next[row] = group;
    }
    of = next;
    count = nextCount;
  }
  if (leaveOut?.includes(1)) ({ of, count } = compact(of, count, leaveOut));
  const firstRows = new Int32Array(count).fill(-1);
  for (let row = 0; row < length; row++) {
    const group = of[row] as number;
    if (group >= 0 && (firstRows[group] as number) < 0) firstRows[group] = row;
  }
  return { of, count, firstRows };
}

/** The same where all combinations of keys are few: each has a cell, and cells are numbered in order of appearance. */
function groupByCells(
  keys: readonly Codes[],
  cells: number,
  length: number,
  leaveOut: Uint8Array | undefined,
): Grouping {
  const of = new Int32Array(length);
  for (const { codes, count } of keys) {
    const width = count + 1;
    for (let row = 0; row < length; row++) of[row] = (of[row] as number) * width + (codes[row] as number) + 1;
  }
  const groups = new Int32Array(cells).fill(-1);
  const first: number[] = [];
  for (let row = 0; row < length; row++) {
    if (leaveOut !== undefined && leaveOut[row] === 1) {
      of[row] = -1;
      continue;
    }
    const cell = of[row] as number;
    let group = groups[cell] as number;
    if (group < 0) {
      group = first.length;
      groups[cell] = group;
      first.push(row);
    }
    of[row] = group;
  }
  return { of, count: first.length, firstRows: Int32Array.from(first) };
}

/** Takes rows out and numbers the remaining groups anew. */
function compact(of: Int32Array, count: number, leaveOut: Uint8Array): { of: Int32Array<ArrayBuffer>; count: number } {
  const renumbered = new Int32Array(count).fill(-1);
  const next = new Int32Array(of.length);
  let nextCount = 0;
  for (let row = 0; row < of.length; row++) {
    if (leaveOut[row]) {
      next[row] = -1;
      continue;
    }
    const group = of[row] as number;
    if ((renumbered[group] as number) < 0) renumbered[group] = nextCount++;
    next[row] = renumbered[group] as number;
  }
  return { of: next, count: nextCount };
}
