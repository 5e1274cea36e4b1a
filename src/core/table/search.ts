import type { Column, TextColumn } from "./column";
import type { Table } from "./table";

/** Which entries of a dictionary hold a text, without regard to capitals. */
function entriesWith({ dictionary }: TextColumn, wanted: string): Uint8Array {
  return Uint8Array.from(dictionary, (text) => (text.toLowerCase().includes(wanted) ? 1 : 0));
}

/**
 * Rows in which any column, as it is written out, holds a text; capitals do not matter.
 * `write` says how a column's values look in the table that is searched.
 */
export function rowsWith(
  table: Table,
  text: string,
  write: (name: string, column: Column) => (row: number) => string,
): Int32Array {
  const wanted = text.trim().toLowerCase();
  const found = new Uint8Array(table.rowCount);
  // Letters are in no number, so that columns of numbers need not be written out for them.
  const numeric = /^[\d.,:+\-/ %a-z]*$/.test(wanted) && /\d/.test(wanted);
  for (const [name, column] of table.columns) {
    if (column.kind === "text") {
      if (column.place) continue;
      const holds = entriesWith(column, wanted);
      for (let row = 0; row < table.rowCount; row++) if (holds[column.codes[row] as number]) found[row] = 1;
    } else if (numeric || column.kind === "boolean" || column.kind === "date" || column.kind === "datetime") {
      const written = write(name, column);
      const known = new Map<number, boolean>();
      for (let row = 0; row < table.rowCount; row++) {
        if (found[row]) continue;
        const value = column.values[row] as number;
        if (value !== value) continue;
        let holds = known.get(value);
        if (holds === undefined) {
          holds = written(row).toLowerCase().includes(wanted);
          if (known.size < 50_000) known.set(value, holds);
        }
        if (holds) found[row] = 1;
      }
    }
  }
  const rows = new Int32Array(found.reduce((sum, flag) => sum + flag, 0));
  let at = 0;
  for (let row = 0; row < found.length; row++) if (found[row]) rows[at++] = row;
  return rows;
}
