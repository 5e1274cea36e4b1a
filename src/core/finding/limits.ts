/** One bound of the house: what it bounds, and what is said where there is more. */
interface Limit {
  /** What is counted. */
  of: string;
  /** Where it is met. */
  at: string;
  /** What is said, and what to do. */
  told: string;
}

const limit = (of: string, at: string, told: string): Limit => ({ of, at, told });

/** Every bound of reading and computing as a number. What is said of them stands in {@link BOUNDS}. */
export const LIMITS = {
  sheetLength: 4_000_000,
  sheetDepth: 100,
  formulaLength: 20_000,
  formulaBrackets: 200,
  formulaDepth: 500,
  patternLength: 1_000,
  textLength: 16_000_000,
  columnTextLength: 256_000_000,
  pictureBytes: 4_000_000,
  fileBytes: 600_000_000,
  fileText: 500_000_000,
  fileColumns: 20_000,
  headLength: 1_000,
  madeRows: 5_000_000,
  tableRows: 20_000_000,
  tableCells: 100_000_000,
  sparseCells: 5_000_000,
  unpackedBytes: 2_000_000_000,
  emptyStretches: 4_000_000,
  stretches: 1_000_000,
};

export type BoundName = keyof typeof LIMITS;

/**
 * What is said of every bound, in one place: docs/limits.md is made from this. Bounds keep
 * a small text from taking all memory; whatever real tables hold stays far below them.
 */
export const BOUNDS: Readonly<Record<BoundName, Limit>> = {
  sheetLength: limit("characters of a sheet", "the sheet", "put tables into files beside the sheet"),
  sheetDepth: limit("levels of maps and lists in a sheet", "the sheet", "a sheet of the language has ten or so"),
  formulaLength: limit("characters of a formula", "any formula", "add its parts as columns of their own"),
  formulaBrackets: limit("levels of brackets in a formula", "any formula", "add its parts as columns of their own"),
  formulaDepth: limit(
    "levels of a formula: brackets, signs and operations within one another",
    "any formula",
    "add its parts as columns of their own",
  ),
  patternLength: limit(
    "characters of a pattern with * and ?",
    "read:, glob() and lists of columns",
    "write a shorter pattern",
  ),
  textLength: limit("characters of one text that a formula makes", "replace() and concat()", "make shorter texts"),
  columnTextLength: limit(
    "characters of all different texts that a formula makes in a column",
    "replace() and concat()",
    "make shorter texts, or keep fewer rows before",
  ),
  pictureBytes: limit(
    "bytes of a picture",
    "style: logo and columns of pictures",
    "make the picture smaller before it goes along",
  ),
  fileBytes: limit("bytes of a file", "the workbench", "a browser cannot hold it; the terminal can: ./still build"),
  fileText: limit(
    "bytes of a file of text",
    "CSV, JSON, GPX, GeoJSON",
    "part the file and read its parts by a pattern, or keep it as Parquet",
  ),
  fileColumns: limit(
    "columns of a file",
    "every reader",
    "leave out what is not needed, or make one measure in many columns long",
  ),
  headLength: limit("characters of a column's name", "every reader", "name the columns, or say header: none"),
  madeRows: limit("rows that a table makes up", "make:", "make fewer"),
  tableRows: limit("rows of a table", "make:, stack, unpivot and every reader", "keep or group rows before"),
  tableCells: limit(
    "cells of a table: its rows by its columns",
    "stack, unpivot, pivot and every reader",
    "keep fewer rows or columns before",
  ),
  sparseCells: limit(
    "cells of a sheet of a workbook of which not one in a hundred holds something",
    "workbooks",
    "put the table together in its sheet",
  ),
  unpackedBytes: limit("bytes that a workbook or Parquet file takes unpacked", "workbooks, Parquet", "part the file"),
  emptyStretches: limit(
    "bins or periods of all series together of which empty ones are drawn",
    "charts along bins or periods",
    "take wider bins or fewer series",
  ),
  stretches: limit(
    "bins or periods of an axis",
    "bin(), bin_width(), by_minute() and their kin",
    "take wider bins or a larger grain",
  ),
};

/** A number as it is written in words. */
export const counted = (count: number): string =>
  Math.abs(count) < 1e21 ? String(Math.round(count)).replace(/\B(?=(?:\d{3})+$)/g, ",") : String(count);

/**
 * Thrown where a computation meets a bound: what was begun cannot be finished by half. It is caught
 * where a step, a piece or a file begins, and becomes a finding there.
 */
export class TooLarge extends Error {
  override readonly name = "TooLarge";
}

/** What is said of a bound: the number there was, the one there may be, and what to do. */
export function boundMessage(name: BoundName, found: number, what: string): string {
  const { of, told } = BOUNDS[name];
  return (
    `${what} has ${counted(found)} ${of.split(/ of | that /)[0]}; at most ` +
    `${counted(LIMITS[name])} are taken. ${told.slice(0, 1).toUpperCase()}${told.slice(1)}`
  );
}

/** Keeps the bounds of a table that is about to be made. */
export function keepRoom(rows: number, columns: number, what: string) {
  keepBound("tableRows", rows, what);
  keepBound("tableCells", rows * columns, what);
}

/** Keeps a bound. */
export function keepBound(name: BoundName, found: number, what: string) {
  if (!(found <= LIMITS[name])) throw new TooLarge(boundMessage(name, found, what));
}
