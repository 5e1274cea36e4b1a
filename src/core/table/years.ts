import type { Column } from "./column";
import type { ColumnInfo, Table } from "./table";

const FIRST_YEAR = 1500;
const LAST_YEAR = 2199;

const known = new WeakMap<Column, boolean>();

/** True for numbers that are all years, as far as they are known. */
function holdsYears(column: Column): boolean {
  if (column.kind !== "number") return false;
  let found = known.get(column);
  if (found === undefined) {
    found = false;
    for (const value of column.values) {
      if (value !== value) continue;
      found = Number.isInteger(value) && value >= FIRST_YEAR && value <= LAST_YEAR;
      if (!found) break;
    }
    known.set(column, found);
  }
  return found;
}

/** The table with what its values say of its columns: which of them hold years. */
export function withYears(table: Table): Table {
  const years = [...table.columns].filter(([name, column]) => !table.info.get(name)?.format && holdsYears(column));
  if (years.length === 0) return table;
  const info = new Map<string, ColumnInfo>(table.info);
  for (const [name] of years) info.set(name, { ...info.get(name), years: true });
  return { ...table, info };
}
