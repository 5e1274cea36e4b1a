import type { SelectionPlan } from "../link/selection";
import type { ControlPlan, OpensPlan, PlanPiece, PlanTable } from "../plan/plan";
import { columnsAfter, narrowedTo, runStep } from "../steps/run";
import type { Step } from "../steps/step";
import { kindsOf, type Table } from "../table/table";
import { ancestry, type BuiltTable, type Compiling, stepContext } from "./compiling";
import { type LinkedTables, linkedTables, liveEnd, tiesFound } from "./linked-tables";
import { type NeededColumns, Needs, neededThrough } from "./needs";
import { followingOpen, opensPlan, openTables } from "./opens";
import { tiedTable } from "./tied-table";

/** What of the tables goes into the file: packed tables, and how the others are made from them. */
export interface Packed {
  planned: PlanTable[];
  tables: Map<string, Table>;
  /** For each packed table and column, the pieces, controls and tables that need it. */
  neededBy: Map<string, NeededColumns>;
  /** How rows of readers take the place of those that are packed. */
  opens?: OpensPlan;
}

/** A report of which it is to be decided what goes along. */
interface Whole {
  compiling: Compiling;
  linked: LinkedTables;
  needs: Needs;
  /** Tables whose rows readers may put others in the place of. */
  open: ReadonlySet<string>;
}

/** The name under which the finished part of a table with live steps is packed. */
const sourceName = (name: string) => `${name}/source`;

/** The table from which one is made in the dashboard, if it is. */
const liveParent = ({ linked }: Whole, { name, from }: BuiltTable) => (linked.live.has(name) ? from : undefined);

/** Decides what is packed and leaves out every column that nothing needs. */
export function prune(
  compiling: Compiling,
  pieces: readonly PlanPiece[],
  controls: readonly ControlPlan[],
  selections: readonly SelectionPlan[],
  mentions: ReadonlyMap<string, readonly string[]> = new Map(),
): Packed {
  const open = openTables(compiling);
  const linked = linkedTables(compiling, pieces, selections, mentions, followingOpen(compiling, open));
  const needs = new Needs();
  for (const piece of pieces) needs.addPiece(piece, selections);
  for (const selection of selections) needs.addSelection(selection);
  for (const control of controls) needs.addControl(control);
  const whole = { compiling, linked, needs, open };
  const order = [...compiling.tables.values()];
  passUp(whole, order);
  const packed: Packed = { planned: [], tables: new Map(), neededBy: new Map() };
  for (const built of order) if (needs.used.has(built.name)) pack(whole, built, packed);
  return open.size ? { ...packed, opens: opened(whole, order) } : packed;
}

/** From the last made to the first read, what a live table needs becomes the need of the one above. */
function passUp(whole: Whole, order: readonly BuiltTable[]) {
  const { compiling, linked, needs, open } = whole;
  for (const [left, rights] of linked.ties) for (const name of [left, ...rights.keys()]) needs.used.add(name);
  for (const name of [...needs.used])
    for (const above of linked.live.has(name) ? ancestry(compiling, name) : [name]) needs.used.add(above);
  for (const built of [...order].reverse()) {
    const { name, steps } = built;
    if (!needs.used.has(name)) continue;
    const parent = liveParent(whole, built);
    // Look-up and stacked tables go along where the step that reads them runs in the dashboard.
    needs.addLookedUp(name, parent === undefined ? liveEnd(built, linked) : steps);
    // Rows that take the place of the packed ones go through all of its steps, whatever those read.
    if (open.has(name)) needs.addLookedUp(name, steps);
    if (parent !== undefined) needs.addParent(name, parent, steps);
  }
}

/** Packs a table as it is, as it stood before the steps that run in the dashboard, or as those steps alone. */
function pack(whole: Whole, built: BuiltTable, packed: Packed) {
  const { linked } = whole;
  const from = liveParent(whole, built);
  const liveOnes = from === undefined ? liveEnd(built, linked) : [];
  if (from === undefined && liveOnes.length === 0) packFinished(whole, built, packed);
  else if (from === undefined) packBefore(whole, built, liveOnes, packed);
  else {
    const steps = liveSteps(built.steps, availableIn(packed.planned, from), whole.needs);
    packed.planned.push({ ...described(built), ...tiesFound(linked, built.name), from, steps });
  }
}

/** A table of which no step runs in the dashboard; what it ties goes along as numbers of rows. */
function packFinished({ compiling, linked, needs }: Whole, built: BuiltTable, { planned, tables, neededBy }: Packed) {
  const { name, from } = built;
  const ties = linked.ties.get(name);
  const tied = tiedTable(built, [...(ties?.keys() ?? [])]);
  for (const [right, column] of Object.entries(tied.names))
    for (const by of ties?.get(right) ?? []) needs.add(name, column, by);
  const columns = needs.of(name);
  planned.push({
    ...described({ ...built, table: tied.table }, columns),
    ...(from === undefined ? {} : { root: ancestry(compiling, name).at(-1) as string }),
    ...(ties ? { ties: tied.names } : {}),
  });
  tables.set(name, only(compiling, tied.table, columns));
  neededBy.set(name, columns);
}

/** A table whose later steps run in the dashboard is packed as it stood before them. */
function packBefore(
  { compiling, linked, needs }: Whole,
  built: BuiltTable,
  liveOnes: readonly Step[],
  { planned, tables, neededBy }: Packed,
) {
  const inner = neededThrough(liveOnes, needs.of(built.name));
  const before = only(compiling, runUpTo(compiling, built, built.steps.length - liveOnes.length), inner);
  const name = sourceName(built.name);
  const columns = Object.fromEntries(kindsOf(before));
  planned.push({ name, part: true, rowCount: before.rowCount, columns, orders: ordersOf(before) });
  tables.set(name, before);
  neededBy.set(name, inner);
  const steps = liveSteps(liveOnes, new Set(before.columns.keys()), needs);
  planned.push({ ...described(built), ...tiesFound(linked, built.name), from: name, steps });
}

/** How rows that readers put in become those of each table that they may be put into. */
function opened({ compiling, needs, open }: Whole, order: readonly BuiltTable[]): OpensPlan {
  const tables = order.flatMap(({ name, steps }) => {
    if (!open.has(name) || !needs.used.has(name)) return [];
    const columns = new Set(neededThrough(steps, needs.of(name)).keys());
    return [[name, { columns, steps: liveSteps(steps, columns, needs) }] as const];
  });
  return opensPlan(compiling, new Map(tables));
}

function availableIn(planned: readonly PlanTable[], name: string): Set<string> {
  return new Set(Object.keys(planned.find((table) => table.name === name)?.columns ?? {}));
}

/** Steps as they run in the dashboard: of columns that are there, in their own table and in those that they read. */
function liveSteps(steps: readonly Step[], available: ReadonlySet<string>, needs: Needs): Step[] {
  const columnsOf = (table: string) => new Set(needs.of(table).keys());
  let columns = new Set(available);
  return steps.map((step) => {
    const narrow = narrowedTo(step, columns, columnsOf);
    columns = columnsAfter(narrow, columns);
    return narrow;
  });
}

function runUpTo(compiling: Compiling, built: BuiltTable, cut: number): Table {
  let table = compiling.sourceTables.get(built.name) as Table;
  for (const step of built.steps.slice(0, cut)) table = runStep(step, table, stepContext(compiling)).table;
  return table;
}

function only({ cache }: Compiling, table: Table, needed: ReadonlyMap<string, unknown>): Table {
  return cache.choose(table, new Set(needed.keys()));
}

function ordersOf(table: Table): Record<string, string[]> {
  const orders: Record<string, string[]> = {};
  for (const [name, { order }] of table.info) if (order) orders[name] = order;
  return orders;
}

function described(built: BuiltTable, needed?: ReadonlyMap<string, unknown>): PlanTable {
  const columns = Object.fromEntries(
    [...kindsOf(built.table)].filter(([name]) => needed === undefined || needed.has(name)),
  );
  const { label } = built.spec;
  return {
    name: built.name,
    ...(label === undefined ? {} : { label }),
    rowCount: built.table.rowCount,
    columns,
    orders: ordersOf(built.table),
  };
}
