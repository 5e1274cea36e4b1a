import { isoDate, isoDatetime } from "../table/calendar";
import { type Column, textColumn } from "../table/column";
import type { SheetCells } from "./sheet-cells";

/**
 * Some files can only be read in steps that wait for one another: workbooks and Parquet. They are
 * decoded before a compile begins, and kept beside their bytes until these are forgotten.
 */
export interface Workbook {
  type: "workbook";
  sheets: SheetCells[];
}

/** A column that could not be read while others could. */
export interface LeftOut {
  name: string;
  why: string;
}

export interface ColumnsFile {
  type: "columns";
  rows: number;
  columns: [string, Column][];
  notes: string[];
  left: LeftOut[];
}

export interface Undecodable {
  type: "problem";
  code: string;
  message: string;
}

export type Decoded = Workbook | ColumnsFile | Undecodable;

const known = new WeakMap<Uint8Array, Decoded>();

export const keepDecoded = (bytes: Uint8Array, decoded: Decoded) => known.set(bytes, decoded);

export const decodedOf = (bytes: Uint8Array): Decoded | undefined => known.get(bytes);

/** A moment as a cell of text. */
export function writeMoment(seconds: number): string {
  return seconds % 86400 === 0 ? isoDate(seconds) : isoDatetime(seconds).replace("T", " ");
}

export const textsColumn = (texts: (string | null)[]): Column => textColumn(texts, texts.length);
