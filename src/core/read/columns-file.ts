import type { Finding } from "../finding/finding";
import { valueAt } from "../table/column";
import { decodedOf, writeMoment } from "./decoded";
import { type ReadOptions, type ReadResult, tableOfColumns, unreadable } from "./texts";

/** Reads a Parquet file that was decoded ahead. */
export function readParquet(file: string, bytes: Uint8Array, options: ReadOptions): ReadResult {
  const decoded = decodedOf(bytes);
  if (decoded?.type === "problem") return unreadable(file, decoded.code, `${file} ${decoded.message}`);
  if (decoded?.type !== "columns")
    return unreadable(file, "not-decoded", `${file} was not decoded before the sheet was compiled`);
  const result = tableOfColumns(file, decoded.columns, decoded.rows, [...decoded.notes], options, (column, row) => {
    const value = valueAt(column, row);
    if (value === null) return null;
    return column.kind === "date" || column.kind === "datetime" ? writeMoment(value as number) : String(value);
  });
  const findings = decoded.left.map(
    ({ name, why }): Finding => ({
      code: "column-left-out",
      severity: "warning",
      file,
      message: `the column ${name} of ${file} was left out: it ${why}`,
    }),
  );
  return { ...result, findings };
}
