import type { Column, Kind } from "./column";
import { gather, kindOf } from "./column";

/** What the sheet says of a column apart from its values: words, formats, colours, order. */
export interface ColumnInfo {
  label?: string;
  unit?: string;
  format?: string;
  /** Its whole numbers name something, as years do: their thousands are not parted. */
  unparted?: true;
  /** Each number stands for itself, such as a mean or a rate: they do not add up. */
  single?: true;
  /** Its days stand for a month or a year. */
  period?: "month" | "quarter" | "year";
  /** Values in the order in which they stand wherever the column makes categories. */
  order?: string[];
  colors?: Record<string, string>;
  /** What parts several values in one cell. */
  split?: string;
  /** `image`: its texts are addresses of pictures. */
  role?: "image";
}

/** An immutable table: columns of equal length, in order, with what is said of them. */
export interface Table {
  rowCount: number;
  columns: ReadonlyMap<string, Column>;
  info: ReadonlyMap<string, ColumnInfo>;
}

export function makeTable(
  rowCount: number,
  columns: Iterable<readonly [string, Column]>,
  info: ReadonlyMap<string, ColumnInfo> = new Map(),
): Table {
  return { rowCount, columns: new Map(columns), info };
}

export const emptyTable: Table = makeTable(0, []);

/** The table with only the given rows, in their order. */
export function takeRows(table: Table, rows: Int32Array): Table {
  const columns = new Map<string, Column>();
  for (const [name, column] of table.columns) columns.set(name, gather(column, rows));
  return { rowCount: rows.length, columns, info: table.info };
}

export function kindsOf(table: Table): Map<string, Kind> {
  return new Map([...table.columns].map(([name, column]) => [name, kindOf(column)]));
}

/** Row numbers from 0 up to, not including, `length`. */
export function allRows(length: number): Int32Array {
  const rows = new Int32Array(length);
  for (let i = 0; i < length; i++) rows[i] = i;
  return rows;
}
