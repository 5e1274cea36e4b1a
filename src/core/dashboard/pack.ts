import { deflateSync } from "fflate";
import { type Column, kindOf, type TextColumn } from "../table/column";
import type { Table } from "../table/table";
import { type Encoding, type PackedColumn, type PackedTable, toPlanes } from "./encoding";

/** One shot with pinned options: the same bytes everywhere. */
const DEFLATE = { level: 6, mem: 8 } as const;

export interface PackResult {
  table: PackedTable;
  /** Deflated bytes, one block a column. */
  blocks: Uint8Array[];
}

/** Columns are immutable: one that was packed before need not be packed again while an author writes. */
const known = new WeakMap<Column, { column: PackedColumn; block: Uint8Array }>();

/** Packs all columns of a table so that unpacking gives exactly the same values. */
export function packTable(name: string, table: Table): PackResult {
  const columns: PackedColumn[] = [];
  const blocks: Uint8Array[] = [];
  for (const [columnName, column] of table.columns) {
    let packed = known.get(column);
    if (packed?.column.name !== columnName) {
      packed = packColumn(columnName, column);
      known.set(column, packed);
    }
    columns.push(packed.column);
    blocks.push(packed.block);
  }
  return { table: { name, rowCount: table.rowCount, columns }, blocks };
}

function packColumn(name: string, column: Column): { column: PackedColumn; block: Uint8Array } {
  const text = column.kind === "text" ? compactText(column) : undefined;
  const values = text
    ? Float64Array.from(text.codes, (code) => (code < 0 ? Number.NaN : code))
    : (column as Exclude<Column, TextColumn>).values;
  const missing = missingBits(values);
  const { encoding, bytes } = encodeNumbers(values);
  const dictionary = text ? new TextEncoder().encode(JSON.stringify(text.dictionary)) : new Uint8Array(0);
  const whole = new Uint8Array(missing.length + bytes.length + dictionary.length);
  whole.set(missing, 0);
  whole.set(bytes, missing.length);
  whole.set(dictionary, missing.length + bytes.length);
  return {
    column: {
      name,
      kind: kindOf(column),
      encoding,
      missingBytes: missing.length,
      dictionaryBytes: dictionary.length,
      ...(text?.ordered ? { ordered: true } : {}),
    },
    block: deflateSync(whole, DEFLATE),
  };
}

/** The dictionary with only the entries in use, by code unit unless it has an order of its own. */
function compactText(column: TextColumn): TextColumn {
  const used = new Uint8Array(column.dictionary.length);
  for (const code of column.codes) if (code >= 0) used[code] = 1;
  const kept = [...used.keys()].filter((code) => used[code]);
  if (!column.ordered && !isMostlyRising(column.codes)) {
    kept.sort((a, b) => ((column.dictionary[a] as string) < (column.dictionary[b] as string) ? -1 : 1));
  }
  const recode = new Int32Array(column.dictionary.length).fill(-1);
  kept.forEach((code, place) => {
    recode[code] = place;
  });
  return {
    kind: "text",
    codes: column.codes.map((code) => (code < 0 ? -1 : (recode[code] as number))),
    dictionary: kept.map((code) => column.dictionary[code] as string),
    ...(column.ordered ? { ordered: true } : {}),
  };
}

/** Codes of names that hardly repeat rise with the rows and then pack to next to nothing; sorting would undo that. */
function isMostlyRising(codes: Int32Array): boolean {
  let rising = 0;
  for (let row = 1; row < codes.length; row++) if ((codes[row] as number) >= (codes[row - 1] as number)) rising += 1;
  return rising > codes.length * 0.9;
}

function missingBits(values: Float64Array): Uint8Array {
  const bits = new Uint8Array(Math.ceil(values.length / 8));
  let any = false;
  for (let row = 0; row < values.length; row++) {
    if (!Number.isNaN(values[row])) continue;
    any = true;
    bits[row >> 3] = (bits[row >> 3] as number) | (1 << (row & 7));
  }
  return any ? bits : new Uint8Array(0);
}

/** The narrowest way to write numbers that loses nothing. */
function encodeNumbers(values: Float64Array): { encoding: Encoding; bytes: Uint8Array } {
  for (let divisor = 1; divisor <= 1_000_000; divisor *= 10) {
    const whole = wholeNumbers(values, divisor);
    if (whole) return encodeWhole(whole, divisor);
  }
  const single = values.every((value) => Number.isNaN(value) || Math.fround(value) === value);
  const filled = values.map((value) => (Number.isNaN(value) ? 0 : value));
  const width = single ? 4 : 8;
  const typed = single ? Float32Array.from(filled) : filled;
  return {
    encoding: { width, type: "float", divisor: 1, base: 0, delta: false },
    bytes: toPlanes(new Uint8Array(typed.buffer, typed.byteOffset, typed.byteLength), width),
  };
}

/**
 * Values times the divisor as whole numbers, missing as the number before; nothing if one is not whole or loses
 * its sign.
 */
function wholeNumbers(values: Float64Array, divisor: number): Float64Array | undefined {
  const whole = new Float64Array(values.length);
  let last = 0;
  for (let row = 0; row < values.length; row++) {
    const value = values[row] as number;
    if (value === value) {
      const scaled = Math.round(value * divisor);
      if (scaled / divisor !== value || Math.abs(scaled) > 2 ** 51 || Object.is(value, -0)) return undefined;
      last = scaled;
    }
    whole[row] = last;
  }
  return whole;
}

function spanOf(values: Float64Array): [number, number] {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const value of values) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return low <= high ? [low, high] : [0, 0];
}

const widthFor = (span: number): Encoding["width"] => (span < 256 ? 1 : span < 65536 ? 2 : span < 4294967296 ? 4 : 8);

function encodeWhole(whole: Float64Array, divisor: number): { encoding: Encoding; bytes: Uint8Array } {
  const [low, high] = spanOf(whole);
  const folded = new Float64Array(whole.length);
  let previous = low;
  let largest = 0;
  let sum = 0;
  for (let row = 0; row < whole.length; row++) {
    const difference = (whole[row] as number) - previous;
    previous = whole[row] as number;
    const fold = difference < 0 ? -2 * difference - 1 : 2 * difference;
    folded[row] = fold;
    sum += fold;
    if (fold > largest) largest = fold;
  }
  const plainWidth = widthFor(high - low);
  const deltaWidth = widthFor(largest);
  // Differences are worth it where they need fewer bits on the average, or fewer bytes at all.
  const average = whole.length ? sum / whole.length : 0;
  const delta = deltaWidth < 8 && (deltaWidth < plainWidth || (deltaWidth === plainWidth && average * 16 < high - low));
  const width = delta ? deltaWidth : plainWidth;
  const encoding: Encoding = { width, type: width === 8 ? "float" : "integer", divisor, base: low, delta };
  const shifted = delta ? folded : whole.map((value) => value - low);
  const typed =
    width === 1
      ? Uint8Array.from(shifted)
      : width === 2
        ? Uint16Array.from(shifted)
        : width === 4
          ? Uint32Array.from(shifted)
          : shifted;
  return { encoding, bytes: toPlanes(new Uint8Array(typed.buffer, typed.byteOffset, typed.byteLength), width) };
}
