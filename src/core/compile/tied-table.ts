import type { Column } from "../table/column";
import type { Table } from "../table/table";
import type { BuiltTable } from "./compiling";

const known = new WeakMap<Int32Array, Column>();

/** The rows that were found as a column of numbers; kept, so that the same ties are packed once. */
function columnOfTie(match: Int32Array): Column {
  let column = known.get(match);
  if (!column) {
    column = { kind: "number", values: Float64Array.from(match, (row) => (row < 0 ? Number.NaN : row)) };
    known.set(match, column);
  }
  return column;
}

const tables = new WeakMap<Table["columns"], Map<string, { table: Table; names: Record<string, string> }>>();

/**
 * A table with a column for each of some look-up tables, of the rows there that its rows found, and the names of
 * these columns.
 */
export function tiedTable(
  { table, ties }: BuiltTable,
  rights: readonly string[],
): { table: Table; names: Record<string, string> } {
  if (rights.length === 0) return { table, names: {} };
  const made = tables.get(table.columns) ?? new Map<string, { table: Table; names: Record<string, string> }>();
  tables.set(table.columns, made);
  const key = JSON.stringify(rights);
  let result = made.get(key);
  if (!result) {
    const columns = new Map(table.columns);
    const names: Record<string, string> = {};
    for (const right of rights) {
      let name = `row in ${right}`;
      while (columns.has(name)) name += "′";
      names[right] = name;
      columns.set(name, columnOfTie(ties.get(right) as Int32Array));
    }
    result = { table: { ...table, columns }, names };
    made.set(key, result);
  }
  return { ...result, table: { ...table, columns: result.table.columns } };
}
