import { familiesOf, pathUp } from "../link/route";
import type { OpenTable, Plan, PlanTable } from "../plan/plan";
import type { ReadResult } from "../read/texts";
import { makeTable, type Table } from "../table/table";
import { chooseColors, isTargetOf, tablesAbove } from "./colors";
import { Model } from "./model";

/** The name under which rows that a reader has put in stand; no author knows it. */
const givenName = (table: string) => `${table}/given`;

/** Columns that a table needs and that are not there. */
export const columnsAmiss = ({ columns }: OpenTable, names: Iterable<string>): string[] => {
  const there = new Set(names);
  return Object.keys(columns).filter((column) => !there.has(column));
};

/**
 * A dashboard of other rows: the plan and the packed tables with those of a reader in the place of some, which
 * go through all steps of their tables. It shows what a build from those rows would show, with the words of this one.
 */
export function withGivenRows(
  plan: Plan,
  packed: ReadonlyMap<string, Table>,
  given: ReadonlyMap<string, ReadResult["table"]>,
): { plan: Plan; tables: Map<string, Table> } {
  const tables = new Map(packed);
  const planned: PlanTable[] = [];
  for (const own of plan.tables) {
    const rows = given.get(own.name);
    const opened = plan.opens?.tables[own.name];
    // What was packed of it, finished or as it stood before its last steps, is not needed any more.
    if (own.part && own.name.endsWith("/source") && given.has(own.name.slice(0, -"/source".length))) {
      tables.delete(own.name);
      continue;
    }
    if (!rows || !opened) {
      planned.push(own);
      continue;
    }
    tables.delete(own.name);
    const name = givenName(own.name);
    const wanted = new Set(Object.keys(opened.columns));
    const chosen = [...rows.columns].filter(([column]) => wanted.has(column));
    tables.set(name, makeTable(rows.rowCount, chosen));
    const columns = Object.fromEntries(chosen.map(([column, { kind }]) => [column, kind]));
    planned.push({ name, part: true, rowCount: rows.rowCount, columns, orders: opened.orders });
    const ties = own.ties && Object.fromEntries(Object.keys(own.ties).map((right) => [right, null]));
    planned.push({ ...own, from: name, steps: opened.steps, ...(ties ? { ties } : {}) });
  }
  const uncolored = { ...plan, tables: planned };
  return { plan: { ...uncolored, colors: colorsOf(uncolored, tables) }, tables };
}

/** Colours follow the rows, as they do in a build. */
function colorsOf(plan: Plan, tables: ReadonlyMap<string, Table>): Plan["colors"] {
  const { engine } = new Model(plan, tables);
  const familyOf = familiesOf(plan.tables);
  const { said, house } = plan.opens as NonNullable<Plan["opens"]>;
  return chooseColors(plan.pieces, {
    tableOf: (name) => engine.tableOf(name),
    before: () => undefined,
    above: (name) =>
      tablesAbove(pathUp(name, familyOf), (one) => plan.tables.find((own) => own.name === one)?.steps ?? []),
    isReached: isTargetOf(plan.selections),
    setting: engine.setting,
    saidOf: (table, column) => said[`${table}.${column}`],
    ...(house === undefined ? {} : { house }),
    tooLarge: (_, fault) => {
      throw fault;
    },
  });
}
