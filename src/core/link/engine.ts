import { ownOf } from "../finding/own";
import type { RowFilter } from "../formula/measures";
import { type Formula, walk } from "../formula/tree";
import type { Vector } from "../formula/vector";
import { type Answer, answerFromTotals, answerQuery } from "../query/answer";
import { type AnswerWhole, answerWhole } from "../query/cache";
import { type Prepared, type PrepareOptions, prepareQuery } from "../query/prepare";
import type { Query } from "../query/query";
import { isMerging } from "../steps/run";
import type { Step } from "../steps/step";
import { type Column, gather, type Scalar } from "../table/column";
import type { Table } from "../table/table";
import { baseRowsOf } from "./base-rows";
import { BrushIndex } from "./index/totals";
import { type Elsewhere, type Made, makeTableBySteps, passDown, passUp, type RowChoice } from "./lineage";
import { FormulaColumns, selectionPass } from "./predicate";
import { familiesOf, passAcross, pathUp, type Route, routeBetween, stackedIn, type TableFamily } from "./route";
import { isEmptyState, type SelectionPlan, type SelectionState } from "./selection";

/** A table as the engine knows it: given, or made from another by live steps. */
export interface EngineTable {
  name: string;
  from?: string;
  steps?: Step[];
  /** Tables in which its rows were looked up, with its column of the rows that they found; none where its own steps do that. */
  ties?: Readonly<Record<string, string | null>>;
}

/** The rows of a table under some choice of rows above a merging step, with one bit a selection. */
interface Instance {
  name: string;
  table: Table;
  parent?: Instance;
  made?: Made;
  /** Its rows in the table with no selection on, once asked for. */
  baseRows?: Int32Array;
  columns: FormulaColumns;
  bits: Uint32Array;
  /** The state of each selection that stands in `bits`. */
  synced: Map<string, number>;
}

/** A question asked again and again as selections change. */
export interface Asked {
  query: Query;
  options: PrepareOptions;
  /** Names of the selections that decide which rows count. */
  filters: readonly string[];
}

interface AskedState {
  all?: { key: string; answer: Answer };
  prepared: Map<string, Prepared>;
  answers: Map<string, Answer>;
}

/** Selections with a bit of their own in every row; those beyond are looked up whenever they are asked for. */
const BITS = 31;

/**
 * Holds tables, settings and selections, and answers questions about the rows that pass.
 * It has no interface and no clock: the build asks it for the first picture, the viewer for all others.
 */
export class Engine {
  private readonly settings = new Map<string, Scalar>();
  private settingsVersion = 0;
  private readonly states = new Map<string, SelectionState>();
  private readonly versions = new Map<string, number>();
  private readonly plans: Map<string, SelectionPlan>;
  private readonly slots: Map<string, number>;
  private readonly tables: Map<string, EngineTable>;
  private readonly familyOf: (name: string) => TableFamily | undefined;
  private instances = new Map<string, Instance>();
  /** Ways between tables, by their names; none where there is none. */
  private readonly routes = new Map<string, Route | null>();
  private readonly asked = new WeakMap<Asked, AskedState>();
  private readonly instanceOf = new WeakMap<Table, Instance>();
  private readonly spoken = new WeakMap<Asked, { rows: string[]; groups: string[] }>();
  private brush: BrushIndex | undefined;

  constructor(
    tables: readonly EngineTable[],
    readonly packed: ReadonlyMap<string, Table>,
    selections: readonly SelectionPlan[],
    settings: Readonly<Record<string, Scalar>>,
    private readonly whole: AnswerWhole = answerWhole,
  ) {
    this.tables = new Map(tables.map((table) => [table.name, table]));
    this.familyOf = familiesOf(tables);
    this.plans = new Map(selections.map((plan) => [plan.name, plan]));
    this.slots = new Map(selections.slice(0, BITS).map((plan, slot) => [plan.name, slot]));
    for (const [name, value] of Object.entries(settings)) this.settings.set(name, value);
  }

  readonly setting = (name: string): Scalar => this.settings.get(name) ?? null;

  setSetting(name: string, value: Scalar) {
    if (this.settings.get(name) === value) return;
    this.settings.set(name, value);
    this.settingsVersion += 1;
    this.instances = new Map();
    this.brush = undefined;
  }

  state(selection: string): SelectionState | undefined {
    return this.states.get(selection);
  }

  /** Sets or, with nothing, drops a selection. */
  select(selection: string, state: SelectionState | undefined) {
    if (isEmptyState(state)) this.states.delete(selection);
    else this.states.set(selection, state as SelectionState);
    this.versions.set(selection, (this.versions.get(selection) ?? 0) + 1);
  }

  isActive(selection: string): boolean {
    return this.states.has(selection);
  }

  /** The rows of a table with no selection on. */
  tableOf(name: string): Table {
    return this.baseInstance(name).table;
  }

  /** For each row of a table that an answer is prepared over, its row in the table with no selection on; -1 where that has none. */
  baseRows(table: Table): Int32Array | undefined {
    const instance = this.instanceOf.get(table);
    if (!instance || instance === this.baseInstance(instance.name)) return undefined;
    if (!instance.baseRows) {
      const base = this.baseInstance(instance.name);
      const { parent, made } = instance;
      if (!parent || !made || !base.made) return undefined;
      const above = this.baseRows(parent.table) ?? Int32Array.from({ length: parent.table.rowCount }, (_, row) => row);
      instance.baseRows = baseRowsOf(made, base.made, this.tables.get(instance.name)?.steps ?? [], above);
    }
    return instance.baseRows;
  }

  columnsOf(name: string): FormulaColumns {
    return this.baseInstance(name).columns;
  }

  /** The answer with no selection on. */
  all(asked: Asked): Answer {
    const state = this.stateOf(asked);
    const key = String(this.settingsVersion);
    if (state.all?.key !== key) {
      const { query, options } = asked;
      const answer = this.whole(
        { query, options, setting: this.setting, settings: this.settings },
        this.baseInstance(query.from).table,
      );
      state.all = { key, answer };
      state.prepared.clear();
      state.answers.clear();
      state.prepared.set("", answer.prepared);
    }
    return state.all.answer;
  }

  /** The answer over the rows that pass the active ones among some selections. */
  answer(asked: Asked, filters: readonly string[] = asked.filters): Answer {
    const { rows, groups } = this.spokenOf(asked);
    const answer = this.answerPlain(asked, filters, rows);
    if (groups.length === 0) return answer;
    return { ...answer, of: new Map(groups.map((name) => [name, this.answerPlain(asked, [name], rows)])) };
  }

  /** Selections that a question's formulas speak of: row by row, and as rows to be aggregated. */
  private spokenOf(asked: Asked): { rows: string[]; groups: string[] } {
    let spoken = this.spoken.get(asked);
    if (!spoken) {
      const [rows, groups] = [new Set<string>(), new Set<string>()];
      const { channels, keep } = asked.query;
      for (const formula of [...Object.values(channels).map((channel) => channel.formula), ...(keep ? [keep] : [])]) {
        walk(formula, (node) => {
          if (node.type === "selected" || node.type === "picked") rows.add(node.selection);
          else if (node.type === "of" && node.selection !== "all") groups.add(node.selection);
        });
      }
      spoken = { rows: [...rows], groups: [...groups] };
      this.spoken.set(asked, spoken);
    }
    return spoken;
  }

  /** What formulas ask of selections, for the rows of an instance. */
  private told(instance: Instance): (node: Formula) => Vector | undefined {
    return (node) => {
      if (node.type !== "picked" && node.type !== "selected") return undefined;
      const plan = this.plans.get(node.selection);
      if (!plan || !this.states.has(node.selection)) return undefined;
      if (node.type === "picked")
        return { kind: "boolean", values: Float64Array.from(this.pass(node.selection, instance)), step: 1 };
      const source = this.baseInstance(plan.table);
      const column = source.table.columns.get(node.column);
      return column && onlyValue(column, selectionPass(plan, this.states.get(node.selection) ?? {}, source.columns));
    };
  }

  private answerPlain(asked: Asked, filters: readonly string[], spoken: readonly string[]): Answer {
    const all = this.all(asked);
    const active = filters.filter((name) => this.states.has(name));
    const told = spoken.filter((name) => this.states.has(name));
    if (active.length === 0 && told.length === 0) return all;
    const state = this.stateOf(asked);
    const from = asked.query.from;
    const upstream = active.filter((name) => this.entersAbove(name, from));
    const here = active.filter((name) => !upstream.includes(name));
    const key = `${this.signature(active)}|${this.signature(told)}`;
    const known = state.answers.get(key);
    if (known) return known;
    const upstreamKey = told.length ? `${this.signature(upstream)}|${this.signature(told)}` : this.signature(upstream);
    let prepared = state.prepared.get(upstreamKey);
    const instance = this.instance(from, upstream);
    if (!prepared) {
      prepared = prepareQuery(asked.query, instance.table, this.setting, {
        ...asked.options,
        fixedEdges: all.prepared.edges,
        ...(told.length ? { given: this.told(instance) } : {}),
      });
      if (state.prepared.size > 4)
        for (const old of [...state.prepared.keys()].slice(1, -2)) state.prepared.delete(old);
      state.prepared.set(upstreamKey, prepared);
    }
    const answer = this.answerHere(prepared, instance, here, upstream.length === 0 && told.length === 0);
    if (state.answers.size > 6) state.answers.delete(state.answers.keys().next().value as string);
    state.answers.set(key, answer);
    return answer;
  }

  private answerHere(prepared: Prepared, instance: Instance, here: readonly string[], isBase: boolean): Answer {
    if (here.length === 0) return answerQuery(prepared, null);
    const { brush } = this;
    if (brush && isBase && here.includes(brush.plan.name) && brush.plan.table === instance.name) {
      const others = here.filter((name) => name !== brush.plan.name);
      const othersKey = this.signature(others);
      const filter = this.filterOf(instance, others);
      const totals = brush.totals(prepared, othersKey, filter);
      if (totals) return answerFromTotals(prepared, totals, null);
    }
    return answerQuery(prepared, this.filterOf(instance, here));
  }

  /**
   * Makes a brush the active one: from now on its moves are answered from an index over `edges`.
   * Its ends must be values of `edges`.
   */
  activate(selection: string, axis: "x" | "y", edges: Float64Array) {
    const plan = this.plans.get(selection);
    const formula = plan?.axes[axis];
    if (!plan || !formula || plan.by.length || plan.inclusive) return;
    const instance = this.baseInstance(plan.table);
    const column = instance.columns.get(formula);
    if (column.kind === "text") return;
    if (this.brush?.matches(plan, axis, column.values, edges)) return;
    this.brush = new BrushIndex(plan, axis, column.values, edges, () => this.states.get(selection)?.[axis]);
    instance.synced.delete(selection);
  }

  /** Prepares a slice of the active brush's tables for a question ahead of its first move. False once nothing is left to do. */
  warm(asked: Asked): boolean {
    const { brush } = this;
    if (!brush || asked.query.from !== brush.plan.table || !asked.filters.includes(brush.plan.name)) return false;
    const { prepared } = this.all(asked);
    const others = asked.filters.filter(
      (name) => name !== brush.plan.name && this.states.has(name) && !this.entersAbove(name, asked.query.from),
    );
    const instance = this.baseInstance(asked.query.from);
    const filter = this.filterOf(instance, others);
    return brush.warm(prepared, this.signature(others), filter);
  }

  private stateOf(asked: Asked): AskedState {
    let state = this.asked.get(asked);
    if (!state) {
      state = { prepared: new Map(), answers: new Map() };
      this.asked.set(asked, state);
    }
    return state;
  }

  /** Names and versions of selections: equal texts mean equal choices of rows. */
  private signature(names: readonly string[]): string {
    return names.map((name) => `${name}@${this.versions.get(name) ?? 0}`).join(" ");
  }

  private routeOf(selection: string, table: string): Route | undefined {
    const { table: source } = this.plans.get(selection) as SelectionPlan;
    const key = `${source} ${table}`;
    const known = this.routes.get(key);
    if (known !== undefined) return known ?? undefined;
    const route = routeBetween(source, table, this.familyOf);
    this.routes.set(key, route ?? null);
    return route;
  }

  /** True if between the selection's rows and the table's a step merges rows, so that the steps must run again. */
  private entersAbove(selection: string, table: string): boolean {
    if (this.plans.get(selection)?.table === table) return false;
    const route = this.routeOf(selection, table);
    if (!route) return false;
    const path = pathUp(table, this.familyOf);
    if (path.slice(0, path.indexOf(route.down)).some((name) => this.tables.get(name)?.steps?.some(isMerging)))
      return true;
    if (route.stack !== "into") return false;
    const steps = this.tables.get(route.down)?.steps ?? [];
    return steps.slice(steps.findIndex((step) => stackedIn([step]).includes(route.up))).some(isMerging);
  }

  /** What a selection enters the steps of a table with: a choice among the rows of its parent, and among those that are stacked under them. */
  private choiceFor(selection: string, name: string, parent: Instance): RowChoice {
    const route = this.routeOf(selection, name);
    if (route?.stack === "into" && route.down === name)
      return { pass: new Uint8Array(parent.table.rowCount).fill(1), elsewhere: this.elsewhere(selection, route) };
    return { pass: this.pass(selection, parent), ...(route ? { elsewhere: this.elsewhere(selection, route) } : {}) };
  }

  /** What a selection says of tables that are stacked on its way down: something of those that it comes to as it comes to the others. */
  private elsewhere(selection: string, route: Route): Elsewhere {
    return (other) => {
      if (route.stack === "into" && route.up === other) return this.passAbove(selection, route.up);
      const own = this.routeOf(selection, other);
      const meets =
        other === this.plans.get(selection)?.table ||
        (own !== undefined &&
          (pathUp(other, this.familyOf).includes(route.down) || (own.tie !== undefined && route.tie !== undefined)));
      return meets && !this.entersAbove(selection, other) ? this.pass(selection, this.baseInstance(other)) : undefined;
    };
  }

  private baseInstance(name: string): Instance {
    return this.instance(name, []);
  }

  private instance(name: string, upstream: readonly string[]): Instance {
    const key = `${name} ${this.signature(upstream)}`;
    const known = this.instances.get(key);
    if (known) return known;
    const plan = this.tables.get(name);
    const given = this.packed.get(name);
    let instance: Instance;
    if (given && plan?.from === undefined) instance = this.newInstance(name, given);
    else {
      const from = plan?.from as string;
      const steps = plan?.steps ?? [];
      const above = upstream.filter((selection) => this.entersAbove(selection, from));
      const parent = this.instance(from, above);
      const choices = upstream
        .filter((selection) => !above.includes(selection))
        .map((selection) => this.choiceFor(selection, name, parent));
      const made = makeTableBySteps(
        parent.table,
        steps,
        { setting: this.setting, table: (other) => this.baseInstance(other).table },
        choices,
      );
      // Instances are found by their tables; one without steps has one of its own all the same.
      const table = made.table === parent.table ? { ...made.table } : made.table;
      instance = { ...this.newInstance(name, table), parent, made };
    }
    this.instanceOf.set(instance.table, instance);
    if (upstream.length) this.forgetOld(name);
    this.instances.set(key, instance);
    return instance;
  }

  /** Only the newest few filtered instances of a table are worth their memory. */
  private forgetOld(name: string) {
    const keys = [...this.instances.keys()].filter((key) => key.startsWith(`${name} `) && key !== `${name} `);
    for (const key of keys.slice(0, Math.max(0, keys.length - 3))) this.instances.delete(key);
  }

  private newInstance(name: string, table: Table): Instance {
    return {
      name,
      table,
      columns: new FormulaColumns(table, this.setting),
      bits: new Uint32Array(table.rowCount),
      synced: new Map(),
    };
  }

  /** Which rows of an instance a selection holds. */
  private pass(selection: string, instance: Instance): Uint8Array {
    const plan = this.plans.get(selection) as SelectionPlan;
    const state = this.states.get(selection) ?? {};
    if (plan.table === instance.name) {
      const base = state.rows ? this.baseRows(instance.table) : undefined;
      if (!base) return selectionPass(plan, state, instance.columns);
      const pass = selectionPass(plan, state, this.baseInstance(instance.name).columns);
      return ofBaseRows(pass, base);
    }
    const route = this.routeOf(selection, instance.name);
    if (!route) return new Uint8Array(instance.table.rowCount).fill(1);
    // Up from the source's rows to the rows that both tables share, that are tied, or that are stacked.
    let pass = this.passAbove(selection, route.up);
    if (route.tie) pass = this.acrossTie(pass, route.tie, route.down);
    if (route.stack === "out of") pass = this.outOfStack(pass, route.up, route.down);
    // Down from there to the rows asked for, through steps that do not merge.
    const chain: Instance[] = [];
    for (let below: Instance | undefined = instance; below && below.name !== route.down; below = below.parent)
      chain.unshift(below);
    // What was found speaks of rows with no selection on; here they may have been made of those that are left.
    const top = chain[0]?.parent ?? instance;
    const base = top.name === route.down ? this.baseRows(top.table) : undefined;
    if (base) pass = ofBaseRows(pass, base);
    const elsewhere = this.elsewhere(selection, route);
    if (route.stack === "into") {
      const outer = chain[0]?.parent ?? instance;
      pass = passDown(new Uint8Array(outer.parent?.table.rowCount ?? 0).fill(1), outer.made?.origins ?? [], elsewhere);
    }
    for (const below of chain) pass = passDown(pass, below.made?.origins ?? [], elsewhere);
    return pass;
  }

  /** Which rows of a table above its own a selection holds. */
  private passAbove(selection: string, above: string): Uint8Array {
    const plan = this.plans.get(selection) as SelectionPlan;
    const source = this.baseInstance(plan.table);
    return this.lift(selectionPass(plan, this.states.get(selection) ?? {}, source.columns), source, above);
  }

  /** A choice of rows as a choice among those of a table above, by way of every part that was stacked from there. */
  private lift(pass: Uint8Array, from: Instance, above: string): Uint8Array {
    if (from.name === above || !from.parent || !from.made) return pass;
    const parts: [string, Uint8Array][] = [];
    const lifted = this.lift(
      passUp(pass, from.made.origins, from.parent.table.rowCount, (...part) => parts.push(part)),
      from.parent,
      above,
    );
    for (const [table, part] of parts) {
      if (!pathUp(table, this.familyOf).includes(above)) continue;
      this.lift(part, this.baseInstance(table), above).forEach((holds, row) => {
        if (holds) lifted[row] = 1;
      });
    }
    return lifted;
  }

  /** A choice of the rows of a table that stacks as a choice of the rows of one of its parts. */
  private outOfStack(pass: Uint8Array, outer: string, part: string): Uint8Array {
    const { parent, made } = this.baseInstance(outer);
    let found = new Uint8Array(this.baseInstance(part).table.rowCount);
    if (parent && made) {
      passUp(pass, made.origins, parent.table.rowCount, (table, own) => {
        if (table === part) found = found.map((holds, row) => holds | (own[row] as number));
      });
    }
    return found;
  }

  private acrossTie(pass: Uint8Array, { left, right }: NonNullable<Route["tie"]>, to: string): Uint8Array {
    const instance = this.baseInstance(left);
    const name = ownOf(this.tables.get(left)?.ties ?? {}, right);
    const column = typeof name === "string" ? instance.table.columns.get(name) : undefined;
    const match = column && column.kind !== "text" ? column.values : instance.made?.ties.get(right);
    if (!match) throw new RangeError(`${left} was not looked up in ${right}`);
    return passAcross(pass, match, to === left, this.baseInstance(to).table.rowCount);
  }

  /** Which rows of a table pass some selections, however many there are. */
  private filterOf(instance: Instance, names: readonly string[]): RowFilter | null {
    if (names.length === 0) return null;
    const own = names.filter((name) => this.slots.has(name));
    const mask = this.sync(instance, own);
    if (own.length === names.length) return { bits: instance.bits, mask };
    const failed = instance.bits.map((bits) => (bits & mask ? 1 : 0));
    for (const name of names) {
      if (this.slots.has(name)) continue;
      const pass = this.pass(name, instance);
      for (let row = 0; row < failed.length; row++) if (!pass[row]) failed[row] = 1;
    }
    return { bits: failed, mask: 1 };
  }

  /** Brings the bits of some selections up to date; answers their mask. A set bit means the row fails. */
  private sync(instance: Instance, names: readonly string[]): number {
    let mask = 0;
    for (const name of names) {
      const slot = this.slots.get(name) as number;
      const bit = 2 ** slot;
      mask = (mask | bit) >>> 0;
      const version = this.versions.get(name) ?? 0;
      if (instance.synced.get(name) === version) continue;
      const fresh = !instance.synced.has(name);
      instance.synced.set(name, version);
      const { brush } = this;
      if (
        brush &&
        brush.plan.name === name &&
        instance === this.instances.get(`${brush.plan.table} `) &&
        brush.syncBits(instance.bits, bit, fresh)
      )
        continue;
      const pass = this.pass(name, instance);
      for (let row = 0; row < pass.length; row++)
        instance.bits[row] = pass[row] ? (instance.bits[row] as number) & ~bit : (instance.bits[row] as number) | bit;
    }
    return mask | 0;
  }
}

/** A choice of rows with no selection on as one of the rows that were made of those left. */
const ofBaseRows = (pass: Uint8Array, base: Int32Array): Uint8Array =>
  Uint8Array.from(base, (row) => (row < 0 ? 0 : (pass[row] as number)));

/** The value that all chosen rows have in a column; missing where they have several, or none. */
function onlyValue(column: Column, pass: Uint8Array): Vector {
  let only = -1;
  const same = (row: number) =>
    column.kind === "text" ? column.codes[row] === column.codes[only] : column.values[row] === column.values[only];
  for (let row = 0; row < pass.length; row++) {
    const known = column.kind === "text" ? (column.codes[row] as number) >= 0 : !Number.isNaN(column.values[row]);
    if (!pass[row] || !known) continue;
    if (only >= 0 && !same(row)) {
      only = -1;
      break;
    }
    only = row;
  }
  return { ...gather(column, Int32Array.of(only)), step: 0 };
}
