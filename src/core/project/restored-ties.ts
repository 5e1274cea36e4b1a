import { freeName } from "../advice/write-suggestions";
import { applyEdits } from "../finding/finding";
import { insertStep } from "../sheet/edit/step-edit";
import type { TableSpec } from "../sheet/schema-tables";
import type { Table } from "../table/table";
import type { DashboardFile } from "./dashboard-file";

/** A look-up that was done before packing: what it found ties rows of two tables for links and picks. */
interface Tie {
  right: string;
  /** The packed column of the rows that were found. */
  column: string;
  /** The columns that must be equal, where both were packed: `{left: right}`. */
  on?: Record<string, string>;
}

type Join = NonNullable<NonNullable<TableSpec["steps"]>[number]["join"]>;

/** Tables that were packed with columns of their own, under either name. */
export const packedTable = ({ tables }: DashboardFile, name: string): Table | undefined =>
  [tables.get(name), tables.get(`${name}/source`)].find((table) => table && table.columns.size > 0);

function pairsOf({ on }: Join): [string, string][] {
  if (typeof on === "string") return [[on, on]];
  return Array.isArray(on) ? on.map((name) => [name, name]) : Object.entries(on);
}

/** The look-ups of a table that are among its first, finished steps, as far as something is tied by them. */
function tiesOf(file: DashboardFile, name: string, { steps = [] }: TableSpec, finished: number): Tie[] {
  const own = packedTable(file, name);
  const columns = Object.assign(
    {},
    ...file.plan.tables
      .filter((table) => table.name === name || table.name === `${name}/source`)
      .map(({ ties }) => ties),
  ) as Record<string, string | null>;
  return Object.entries(columns).flatMap(([right, column]): Tie[] => {
    const other = packedTable(file, right);
    if (column === null || !own?.columns.has(column) || !other) return [];
    const join = steps.slice(0, finished).find((step) => step.join?.table === right)?.join;
    const pairs = join && pairsOf(join);
    const arePacked = pairs?.every(([left, there]) => own.columns.has(left) && other.columns.has(there));
    return [{ right, column, ...(pairs && arePacked ? { on: Object.fromEntries(pairs) } : {}) }];
  });
}

/** The name of a column that numbers the rows of a table from 0. */
const rowNumberIn = (table: Table) => freeName("row_number", new Set(table.columns.keys()));

/** What is done about the look-ups of a table when it is read from what was packed of it. */
export interface RestoredTies {
  /** Columns that are of no use any more. */
  hidden: ReadonlySet<string>;
  /** The text with steps that tie the rows again, before all others. */
  write: (text: string) => string;
  /** Tables whose rows need numbers for that. */
  numbered: readonly string[];
}

export function restoredTies(file: DashboardFile, name: string, spec: TableSpec, finished: number): RestoredTies {
  const ties = tiesOf(file, name, spec, finished);
  return {
    hidden: new Set(ties.filter(({ on }) => on).map(({ column }) => column)),
    numbered: ties.filter(({ on }) => !on).map(({ right }) => right),
    write: (text) =>
      ties.reduceRight((written, { right, column, on }) => {
        const other = packedTable(file, right) as Table;
        const [[left, there] = [column, rowNumberIn(other)], ...more] = Object.entries(on ?? {});
        const keys = left === there && more.length === 0 ? left : (on ?? { [left]: there });
        // The numbers of rows are nothing that anybody wants to see.
        const dropped = on ? written : inserted(written, name, { drop: [column] });
        return inserted(dropped, name, { join: { table: right, on: keys, get: [] } });
      }, text),
  };
}

function inserted(text: string, table: string, step: Parameters<typeof insertStep>[3]): string {
  const edits = insertStep(text, table, 0, step);
  return edits ? applyEdits(text, edits) : text;
}

/** The text with numbers for the rows of a table that others look up by them. */
export const withRowNumbers = (text: string, name: string, file: DashboardFile): string => {
  const table = packedTable(file, name);
  return table ? inserted(text, name, { add: { [rowNumberIn(table)]: "row() - 1" } }) : text;
};
