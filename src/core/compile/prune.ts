import { pieceFormulas, queriesOf } from "../chart/piece-formulas";
import type { PiecePlan } from "../chart/plan";
import type { WordPart } from "../chart/words";
import { columnsOf, type Formula, walk } from "../formula/tree";
import { stackedIn } from "../link/route";
import type { SelectionPlan } from "../link/selection";
import type { ControlPlan, OpensPlan, PlanPiece, PlanTable } from "../plan/plan";
import { formulasOf } from "../query/query";
import { neededOfOther } from "../steps/join";
import { columnsAfter, isMerging, narrowedTo, neededBefore, runStep, tablesOfStep } from "../steps/run";
import type { Step } from "../steps/step";
import { kindsOf, type Table } from "../table/table";
import { ancestry, type BuiltTable, type Compiling, routeOf, stepContext } from "./compiling";
import { followingOpen, opensPlan, openTables } from "./opens";
import { usesSettings } from "./steps";
import { tiedTable } from "./tied-table";

/** What of the tables goes into the file: packed tables, and how the others are made from them. */
export interface Packed {
  planned: PlanTable[];
  tables: Map<string, Table>;
  /** For each packed table and column, the pieces, controls and tables that need it. */
  neededBy: Map<string, Map<string, Set<string>>>;
  /** How rows of readers take the place of those that are packed. */
  opens?: OpensPlan;
}

interface Linked {
  /** Tables that must be made in the dashboard, because selections or settings reach above them. */
  live: Set<string>;
  /** Ties that selections travel along: the table that looked up, those in which it did, and who needs it. */
  ties: Map<string, Map<string, Set<string>>>;
  /**
   * Tables that were read and must be stacked or look up in the dashboard, because selections reach single parts of
   * them, or the rows from which what they look up is made.
   */
  stacking: Set<string>;
  /** Tables whose rows may be those that a reader puts in, or are made of such rows. */
  following: ReadonlySet<string>;
}

/** What selections ask of tables, by the ways that they take. */
class LinkedTables implements Linked {
  readonly live = new Set<string>();
  readonly ties: Linked["ties"] = new Map();
  readonly stacking = new Set<string>();

  constructor(
    private readonly compiling: Compiling,
    readonly following: ReadonlySet<string>,
  ) {
    for (const built of compiling.tables.values()) {
      const above = () => ancestry(compiling, built.name).some((name) => compiling.tables.get(name)?.usesSettings);
      if (built.from !== undefined && (following.has(built.name) || above())) this.live.add(built.name);
    }
  }

  private stepsOf(name: string): readonly Step[] {
    return this.compiling.tables.get(name)?.steps ?? [];
  }

  /** All tables from one up to below one that it is made from run in the dashboard. */
  private addPath(from: string, ancestor: string) {
    for (const name of ancestry(this.compiling, from)) {
      if (name === ancestor) break;
      this.live.add(name);
      for (const part of stackedIn(this.stepsOf(name)))
        if (ancestry(this.compiling, part).includes(ancestor)) this.addPath(part, ancestor);
    }
  }

  /** Steps that run in the dashboard: of a table that was read from the first of them, of others all. */
  private runs(name: string) {
    (this.compiling.tables.get(name)?.from === undefined ? this.stacking : this.live).add(name);
  }

  private merges(name: string, ancestor: string): boolean {
    const path = ancestry(this.compiling, name);
    return path.slice(0, path.indexOf(ancestor)).some((one) => this.stepsOf(one).some(isMerging));
  }

  /** Takes up the way of a choice of rows from one table to another, for a piece. */
  add(from: string, to: string, by: string) {
    const route = routeOf(this.compiling, from, to);
    if (!route) return;
    this.addPath(to, route.down);
    if (route.landed !== undefined) this.addPath(route.landed, route.down);
    if (route.via === undefined) this.addPath(from, route.up);
    else {
      this.add(from, route.via, by);
      this.addPath(route.via, route.up);
      const own = routeOf(this.compiling, from, route.via);
      // What is looked up is made of the rows left: it is looked up anew.
      if (own && this.merges(route.via, own.down)) this.runs(route.down);
    }
    if (route.stack) this.runs(route.stack === "into" ? route.down : route.up);
    if (!route.tie) return;
    const { left, right } = route.tie;
    const rights = this.ties.get(left) ?? new Map<string, Set<string>>();
    this.ties.set(left, rights.set(right, (rights.get(right) ?? new Set()).add(by)));
  }
}

function linkedTables(
  compiling: Compiling,
  pieces: readonly PlanPiece[],
  selections: readonly SelectionPlan[],
  mentions: ReadonlyMap<string, readonly string[]>,
  following: ReadonlySet<string>,
): Linked {
  const linked = new LinkedTables(compiling, following);
  const tableOf = new Map(pieces.map(({ name, plan }) => [name, plan.from]));
  for (const selection of selections) {
    const told = (mentions.get(selection.name) ?? []).map((target) => ({ target, effect: "filter" as const }));
    for (const { target, effect } of [...selection.effects, ...told]) {
      const table = tableOf.get(target);
      if (effect === "crosshair" || table === undefined || table === selection.table) continue;
      linked.add(selection.table, table, selection.source);
    }
  }
  return linked;
}

/** The name under which the finished part of a table with live steps is packed. */
const sourceName = (name: string) => `${name}/source`;

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
  const { live, ties } = linked;
  const needs = new Map<string, Map<string, Set<string>>>();
  const need = (table: string, column: string, by: string) => {
    const columns = needs.get(table) ?? new Map<string, Set<string>>();
    needs.set(table, columns);
    const who = columns.get(column) ?? new Set<string>();
    columns.set(column, who);
    who.add(by);
  };
  const needFormula = (table: string, formula: Formula, by: string) => {
    for (const column of columnsOf(formula)) need(table, column, by);
  };
  const used = new Set<string>();
  for (const { name, plan, live } of pieces) {
    for (const query of [
      ...queriesOf(plan),
      ...(live && Object.keys(live.query.channels).length ? [live.query] : []),
    ]) {
      used.add(query.from);
      if (!query.finished) for (const formula of formulasOf(query)) needFormula(query.from, formula, name);
    }
    if (plan.type === "chart")
      for (const sort of Object.values(plan.sort))
        if (sort && "by" in sort && !sort.finished) needFormula(plan.from, sort.by.formula, name);
  }
  for (const { live, name, plan } of pieces)
    for (const part of [...Object.values(live?.parts ?? {}).flat(), ...tooltipParts(plan)]) {
      const held = typeof part === "object" && "selection" in part ? part : undefined;
      const selection = held && selections.find((one) => one.name === held.selection);
      if (held && selection) need(selection.table, held.column, name);
    }
  for (const piece of pieces) {
    for (const formula of pieceFormulas(piece.plan)) {
      walk(formula, (node) => {
        const selection = node.type === "selected" ? selections.find(({ name }) => name === node.selection) : undefined;
        if (selection && node.type === "selected") need(selection.table, node.column, piece.name);
      });
    }
  }
  for (const selection of selections) {
    used.add(selection.table);
    const { axes, keys, columns = {}, ons = {}, outline, byMarks } = selection;
    const outlined = outline ? [outline.x, outline.y] : [];
    // What covers marks holds their keys; what they measure is known to their chart.
    const covered = byMarks ? [] : Object.values(axes);
    for (const formula of [...covered, ...outlined, ...[keys, columns, ons].flatMap((held) => Object.values(held))])
      if (formula) needFormula(selection.table, formula, selection.source);
    for (const column of selection.by) need(selection.table, column, selection.source);
  }
  for (const control of controls) {
    if (control.type !== "pick") continue;
    used.add(control.from);
    needFormula(control.from, control.channel.formula, control.name);
  }
  // From the last made to the first read, what a live table needs becomes the need of the one above.
  const order = [...compiling.tables.values()];
  for (const [left, rights] of ties) for (const name of [left, ...rights.keys()]) used.add(name);
  for (const name of [...used])
    for (const above of live.has(name) ? ancestry(compiling, name) : [name]) used.add(above);
  for (const built of [...order].reverse()) {
    if (!used.has(built.name)) continue;
    const isLive = live.has(built.name) && built.from !== undefined;
    const wanted = needs.get(built.name) ?? new Map<string, Set<string>>();
    // Look-up and stacked tables go along where the step that reads them runs in the dashboard.
    for (const { table, columns } of neededOfOthers(
      isLive ? built.steps : liveEnd(built, linked),
      new Set(wanted.keys()),
    )) {
      used.add(table);
      for (const column of columns) need(table, column, built.name);
    }
    // Rows that take the place of the packed ones go through all of its steps, whatever those read.
    if (open.has(built.name))
      for (const { table, columns } of neededOfOthers(built.steps, new Set(wanted.keys()))) {
        used.add(table);
        for (const column of columns) need(table, column, built.name);
      }
    if (!isLive) continue;
    const parent = built.from as string;
    used.add(parent);
    for (const [column, who] of neededThrough(built.steps, wanted)) for (const by of who) need(parent, column, by);
  }
  const planned: PlanTable[] = [];
  const tables = new Map<string, Table>();
  const neededBy = new Map<string, Map<string, Set<string>>>();
  for (const built of order) {
    if (!used.has(built.name)) continue;
    if (live.has(built.name) && built.from !== undefined) {
      planned.push({
        ...described(built),
        ...tiesFound(linked, built.name),
        from: built.from,
        steps: liveSteps(built.steps, availableIn(planned, built.from)),
      });
      continue;
    }
    const liveOnes = liveEnd(built, linked);
    if (liveOnes.length === 0) {
      const tied = tiedTable(built, [...(ties.get(built.name)?.keys() ?? [])]);
      for (const [right, column] of Object.entries(tied.names))
        for (const by of ties.get(built.name)?.get(right) ?? []) need(built.name, column, by);
      planned.push({
        ...described({ ...built, table: tied.table }, needs.get(built.name) ?? new Map()),
        ...(built.from === undefined ? {} : { root: ancestry(compiling, built.name).at(-1) as string }),
        ...(ties.has(built.name) ? { ties: tied.names } : {}),
      });
      tables.set(built.name, only(compiling, tied.table, needs.get(built.name)));
      neededBy.set(built.name, needs.get(built.name) ?? new Map());
      continue;
    }
    // A table that was read and whose later steps run in the dashboard is packed as it stood before them.
    const cut = built.steps.length - liveOnes.length;
    const inner = neededThrough(liveOnes, needs.get(built.name) ?? new Map());
    const before = only(compiling, runUpTo(compiling, built, cut), inner);
    const name = sourceName(built.name);
    planned.push({
      name,
      part: true,
      rowCount: before.rowCount,
      columns: Object.fromEntries(kindsOf(before)),
      orders: ordersOf(before),
    });
    tables.set(name, before);
    neededBy.set(name, inner);
    planned.push({
      ...described(built),
      ...tiesFound(linked, built.name),
      from: name,
      steps: liveSteps(liveOnes, new Set(before.columns.keys())),
    });
  }
  if (open.size === 0) return { planned, tables, neededBy };
  const opened = order.flatMap(({ name, steps }) => {
    if (!open.has(name) || !used.has(name)) return [];
    const columns = new Set(neededThrough(steps, needs.get(name) ?? new Map()).keys());
    return [[name, { columns, steps: liveSteps(steps, columns) }] as const];
  });
  return { planned, tables, neededBy, opens: opensPlan(compiling, new Map(opened)) };
}

/** What stands in tooltips that are lines of words. */
const tooltipParts = (plan: PiecePlan): WordPart[] =>
  plan.type === "chart" ? plan.layers.flatMap(({ says = [] }) => says) : [];

/** The ties of a table whose own steps find them in the dashboard. */
function tiesFound({ ties }: Linked, name: string): { ties?: Record<string, null> } {
  const rights = ties.get(name);
  return rights ? { ties: Object.fromEntries([...rights.keys()].map((right) => [right, null])) } : {};
}

/**
 * The steps of a table that must run in the dashboard: from the first that follows a setting, stacks what
 * selections reach, or reads a table whose rows readers may put in.
 */
function liveEnd(built: BuiltTable, { stacking, ties, following }: Linked): Step[] {
  const isStacking = stacking.has(built.name);
  const rights = ties.get(built.name);
  const isLive = (step: Step) =>
    (built.usesSettings && usesSettings(step)) ||
    tablesOfStep(step).some((other) => following.has(other)) ||
    (isStacking && (step.do === "stack" || (step.do === "join" && rights?.has(step.table) === true)));
  const cut = built.steps.findIndex(isLive);
  return cut < 0 ? [] : built.steps.slice(cut);
}

/** What steps that run in the dashboard need of other tables. */
function neededOfOthers(steps: readonly Step[], wanted: ReadonlySet<string>): { table: string; columns: string[] }[] {
  const found: { table: string; columns: string[] }[] = [];
  let columns = wanted;
  for (const step of [...steps].reverse()) {
    if (step.do === "join") found.push({ table: step.table, columns: neededOfOther(step, columns) });
    if (step.do === "stack") for (const table of step.tables) found.push({ table, columns: [...columns] });
    columns = neededBefore(step, columns);
  }
  return found;
}

/** Who needs which column of what goes into some steps. */
function neededThrough(steps: readonly Step[], needed: ReadonlyMap<string, Set<string>>): Map<string, Set<string>> {
  const result = new Map<string, Set<string>>();
  const add = (columns: ReadonlySet<string>, who: ReadonlySet<string>) => {
    for (const column of columns) {
      const all = result.get(column) ?? new Set<string>();
      result.set(column, all);
      for (const name of who) all.add(name);
    }
  };
  const everyone = new Set([...needed.values()].flatMap((who) => [...who]));
  const through = (start: ReadonlySet<string>) =>
    [...steps].reverse().reduce<Set<string>>((columns, step) => neededBefore(step, columns), new Set(start));
  // What the steps need for themselves, whatever is asked of them.
  add(through(new Set()), everyone);
  for (const [column, who] of needed) add(through(new Set([column])), who);
  return result;
}

function availableIn(planned: readonly PlanTable[], name: string): Set<string> {
  return new Set(Object.keys(planned.find((table) => table.name === name)?.columns ?? {}));
}

function liveSteps(steps: readonly Step[], available: ReadonlySet<string>): Step[] {
  let columns = new Set(available);
  return steps.map((step) => {
    const narrow = narrowedTo(step, columns);
    columns = columnsAfter(narrow, columns);
    return narrow;
  });
}

function runUpTo(compiling: Compiling, built: BuiltTable, cut: number): Table {
  let table = compiling.sourceTables.get(built.name) as Table;
  for (const step of built.steps.slice(0, cut)) table = runStep(step, table, stepContext(compiling)).table;
  return table;
}

function only({ cache }: Compiling, table: Table, needed: ReadonlyMap<string, unknown> | undefined): Table {
  return cache.choose(table, new Set(needed?.keys()));
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
