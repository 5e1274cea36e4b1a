import type { Column } from "./column";
import { namesThings } from "./column-names";
import type { ColumnInfo, Table } from "./table";

const FIRST_YEAR = 1500;
const LAST_YEAR = 2199;

const isYear = (value: number) => value >= FIRST_YEAR && value <= LAST_YEAR;

const known = new WeakMap<Column, { whole: boolean; years: boolean }>();

/** Whether the known numbers of a column are all whole, and all years. */
function wholeIn(column: Column): { whole: boolean; years: boolean } {
  let found = known.get(column);
  if (found === undefined) {
    found = { whole: false, years: true };
    for (const value of column.kind === "number" ? column.values : []) {
      if (value !== value) continue;
      found.whole = Number.isInteger(value);
      if (!found.whole) break;
      found.years &&= isYear(value);
    }
    known.set(column, found);
  }
  return found;
}

/**
 * The table with what its values say of its columns: which of them are whole numbers that name something, as years
 * do, and numbers of orders.
 */
export function withUnparted(table: Table): Table {
  const unparted = [...table.columns].filter(([name, column]) => {
    if (table.info.get(name)?.format) return false;
    const { whole, years } = wholeIn(column);
    return whole && (years || namesThings(name));
  });
  if (unparted.length === 0) return table;
  const info = new Map<string, ColumnInfo>(table.info);
  for (const [name] of unparted) info.set(name, { ...info.get(name), unparted: true });
  return { ...table, info };
}
