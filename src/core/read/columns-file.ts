import { valueAt } from "../table/column";
import { decodedOf, writeMoment } from "./decoded";
import { type ReadOptions, type ReadResult, tableOfColumns, unreadable } from "./texts";

/** Reads a Parquet file that was decoded ahead. */
export function readParquet(file: string, bytes: Uint8Array, options: ReadOptions): ReadResult {
  const decoded = decodedOf(bytes);
  if (decoded?.type === "problem") return unreadable(file, decoded.code, `${file} ${decoded.message}`);
  if (decoded?.type !== "columns") return unreadable(file, "not-decoded", `${file} was not decoded before the sheet was compiled`);
  return tableOfColumns(file, decoded.columns, decoded.rows, [...decoded.notes], options, (column, row) => {
    const value = valueAt(column, row);
    if (value === null) return null;
    return column.kind === "date" || column.kind === "datetime" ? writeMoment(value as number) : String(value);
  });
}
