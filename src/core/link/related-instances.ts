import { ownOf } from "../finding/own";
import { settingsOf } from "../formula/tree";
import { followsSetting } from "../steps/chosen";
import { formulasOfStep, isMerging, tablesOfStep } from "../steps/run";
import type { Origin, Step, StepContext } from "../steps/step";
import type { Table } from "../table/table";
import { baseRowsOf } from "./base-rows";
import { type Instance, Instances } from "./instances";
import { type Elsewhere, type Made, makeTableBySteps, passDown, passUp, type RowChoice } from "./lineage";
import { selectionPass } from "./predicate";
import { prepareTogether, regrouped } from "./regroup";
import { familiesOf, passAcross, pathUp, type Route, routeBetween, stackedIn, type TableFamily } from "./route";

/**
 * The tables of a dashboard, made once for all rows and again for those that selections leave above a
 * merging step; and how a selection on one of them comes to the rows of another.
 */
export class RelatedInstances extends Instances {
  private readonly familyOf: (name: string) => TableFamily | undefined;
  /** Ways between tables, by their names; none where there is none. */
  private readonly routes = new Map<string, Route | null>();
  private readonly instanceOf = new WeakMap<Table, Instance>();

  constructor(...given: ConstructorParameters<typeof Instances>) {
    super(...given);
    this.familyOf = familiesOf([...this.tables.values()]);
  }

  override baseRows(table: Table): Int32Array | undefined {
    const instance = this.instanceOf.get(table);
    if (!instance || instance === this.base(instance.name)) return undefined;
    if (!instance.baseRows) {
      const base = this.base(instance.name);
      const { parent, made } = instance;
      if (!parent || !made || !base.made) return undefined;
      const above = this.baseRows(parent.table) ?? Int32Array.from({ length: parent.table.rowCount }, (_, row) => row);
      instance.baseRows = baseRowsOf(made, base.made, this.tables.get(instance.name)?.steps ?? [], above);
    }
    return instance.baseRows;
  }

  override rowsBeforeSettings(name: string): number | undefined {
    const first = this.tables.get(name)?.steps?.findIndex((step) => this.follows(step)) ?? -1;
    const { parent, made } = this.base(name);
    return first < 0 || !parent ? undefined : made?.origins.slice(0, first).reduce(rowsAfter, parent.table.rowCount);
  }

  /** True for a step that reads a setting, or a table whose rows follow one. */
  private follows(step: Step): boolean {
    const isMadeByOne = (name: string): boolean => {
      const { from, steps = [] } = this.tables.get(name) ?? {};
      return steps.some((own) => this.follows(own)) || (from !== undefined && isMadeByOne(from));
    };
    return followsSetting(step) || tablesOfStep(step).some(isMadeByOne);
  }

  /** Its own steps read it, or those of a table that it is made of. */
  protected override readsSetting(table: string, setting: string, seen: ReadonlySet<string> = new Set()): boolean {
    const plan = this.tables.get(table);
    if (!plan || seen.has(table)) return false;
    const steps = plan.steps ?? [];
    if (steps.some((step) => formulasOfStep(step).some((formula) => settingsOf(formula).has(setting)))) return true;
    const above = [...(plan.from === undefined ? [] : [plan.from]), ...steps.flatMap(tablesOfStep)];
    return above.some((name) => this.readsSetting(name, setting, new Set([...seen, table])));
  }

  override entersAbove(selection: string, table: string): boolean {
    if (this.states.plan(selection).table === table) return false;
    const route = this.routeOf(selection, table);
    if (!route) return false;
    // Looked up is what is made of the rows left.
    if (route.via !== undefined && this.entersAbove(selection, route.via)) return true;
    const path = pathUp(table, this.familyOf);
    if (path.slice(0, path.indexOf(route.down)).some((name) => this.tables.get(name)?.steps?.some(isMerging)))
      return true;
    if (route.stack !== "into") return false;
    const steps = this.tables.get(route.down)?.steps ?? [];
    return steps.slice(steps.findIndex((step) => stackedIn([step]).includes(route.up))).some(isMerging);
  }

  private routeOf(selection: string, table: string): Route | undefined {
    const { table: source } = this.states.plan(selection);
    const key = `${source} ${table}`;
    const known = this.routes.get(key);
    if (known !== undefined) return known ?? undefined;
    const route = routeBetween(source, table, this.familyOf);
    this.routes.set(key, route ?? null);
    return route;
  }

  /**
   * What a selection enters the steps of a table with: a choice among the rows of its parent, and among those
   * that are stacked under them.
   */
  private choiceFor(selection: string, name: string, parent: Instance): RowChoice {
    const route = this.routeOf(selection, name);
    if (route?.stack === "into" && route.down === name)
      return { pass: new Uint8Array(parent.table.rowCount).fill(1), elsewhere: this.elsewhere(selection, route) };
    return {
      pass: this.kept.held(selection, parent),
      ...(route ? { elsewhere: this.elsewhere(selection, route) } : {}),
    };
  }

  /**
   * What a selection says of tables that are stacked on its way down: something of those that it comes to as it
   * comes to the others.
   */
  private elsewhere(selection: string, route: Route): Elsewhere {
    return (other) => {
      if (route.stack === "into" && route.up === other) return this.passAbove(selection, route.up);
      const own = this.routeOf(selection, other);
      const meets =
        other === this.states.plan(selection).table ||
        (own !== undefined &&
          (pathUp(other, this.familyOf).includes(route.down) || (own.tie !== undefined && route.tie !== undefined)));
      return meets && !this.entersAbove(selection, other) ? this.kept.held(selection, this.base(other)) : undefined;
    };
  }

  protected override make(name: string, upstream: readonly string[]): Instance {
    const plan = this.tables.get(name);
    const given = this.packed.get(name);
    let instance: Instance;
    if (given && plan?.from === undefined) instance = this.newInstance(name, given);
    else {
      const from = plan?.from as string;
      const steps = plan?.steps ?? [];
      const above = upstream.filter((selection) => this.entersAbove(selection, from));
      const parent = this.instance(from, above);
      const entering = upstream.filter((selection) => !above.includes(selection));
      const anew = (other: string) =>
        entering.filter(
          (selection) => this.routeOf(selection, name)?.via === other && this.entersAbove(selection, other),
        );
      const context = {
        setting: this.setting,
        table: (other: string) => this.instance(other, anew(other)).table,
      };
      const isAnew = (selection: string) => {
        const via = this.routeOf(selection, name)?.via;
        return via !== undefined && this.entersAbove(selection, via);
      };
      const isPlain = above.length === 0 && entering.length > 0 && !entering.some(isAnew);
      const made =
        (isPlain ? this.regrouped(name, steps, entering, context) : undefined) ??
        makeTableBySteps(
          parent.table,
          steps,
          context,
          entering.map((selection) => this.choiceFor(selection, name, parent)),
        );
      // Instances are found by their tables; one without steps has one of its own all the same.
      const table = made.table === parent.table ? { ...made.table } : made.table;
      instance = { ...this.newInstance(name, table), parent, made };
    }
    this.instanceOf.set(instance.table, instance);
    if (upstream.length) this.forgetOld(name);
    return instance;
  }

  /**
   * A table made again over the rows that selections leave just above a step that puts rows together; nothing
   * where its first merging step does otherwise.
   */
  private regrouped(
    name: string,
    steps: readonly Step[],
    entering: readonly string[],
    context: StepContext,
  ): Made | undefined {
    const { made } = this.base(name);
    const above = this.above(name);
    return above && made && regrouped(made, steps, this.kept.answer(above.prepared, above.rows, entering), context);
  }

  override above(name: string): NonNullable<Instance["above"]> | undefined {
    const base = this.base(name);
    if (base.above === undefined) base.above = this.aboveOf(base, this.tables.get(name)?.steps ?? []);
    return base.above ?? undefined;
  }

  private aboveOf({ name, parent, made }: Instance, steps: readonly Step[]): Instance["above"] {
    if (!parent || !made?.above) return null;
    const { table, at } = made.above;
    const prepared = prepareTogether(steps[at] as Step, table, this.setting);
    if (!prepared) return null;
    const enters = (selection: string) => {
      const { pass, elsewhere } = this.choiceFor(selection, name, parent);
      return passDown(pass, made.origins.slice(0, at), elsewhere);
    };
    // Where no step above it moves rows, these are those of the table that the steps begin with.
    const isSame = made.origins.slice(0, at).every(({ type }) => type === "same");
    return { prepared, rows: isSame ? parent : { ...this.newInstance(name, table), enters } };
  }

  /** Only the newest few filtered instances of a table are worth their memory. */
  private forgetOld(name: string) {
    const keys = [...this.instances.keys()].filter((key) => key.startsWith(`${name} `) && key !== `${name} `);
    for (const key of keys.slice(0, Math.max(0, keys.length - 3))) this.instances.delete(key);
  }

  override pass(selection: string, instance: Instance): Uint8Array {
    if (instance.enters) return instance.enters(selection);
    const plan = this.states.plan(selection);
    const state = this.states.get(selection) ?? {};
    if (plan.table === instance.name) {
      const base = this.baseRows(instance.table);
      const own = () => selectionPass(plan, state, instance.columns);
      if (!base) return own();
      // Selections do not depend on selections: a row made again is picked as the one that it is with none on.
      const pass = this.kept.held(selection, this.base(instance.name));
      const others = !state.rows && base.includes(-1) ? own() : undefined;
      return Uint8Array.from(base, (row, at) => (row < 0 ? (others?.[at] ?? 0) : (pass[row] as number)));
    }
    const route = this.routeOf(selection, instance.name);
    if (!route) return new Uint8Array(instance.table.rowCount).fill(1);
    // Up from the source's rows to the rows that both tables share, that are tied, or that are stacked.
    let pass =
      route.via === undefined ? this.passAbove(selection, route.up) : this.passBy(selection, route.via, route.up);
    if (route.tie) pass = this.acrossTie(pass, route.tie, route.landed ?? route.down);
    if (route.landed !== undefined) pass = this.lift(pass, this.base(route.landed), route.down);
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
    const source = this.base(this.states.plan(selection).table);
    return this.lift(this.kept.held(selection, source), source, above);
  }

  /** Which rows of a table a selection holds that comes to another one first, which is made of it. */
  private passBy(selection: string, via: string, above: string): Uint8Array {
    const instance = this.base(via);
    return this.lift(this.kept.held(selection, instance), instance, above);
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
      this.lift(part, this.base(table), above).forEach((holds, row) => {
        if (holds) lifted[row] = 1;
      });
    }
    return lifted;
  }

  /** A choice of the rows of a table that stacks as a choice of the rows of one of its parts. */
  private outOfStack(pass: Uint8Array, outer: string, part: string): Uint8Array {
    const { parent, made } = this.base(outer);
    let found = new Uint8Array(this.base(part).table.rowCount);
    if (parent && made) {
      passUp(pass, made.origins, parent.table.rowCount, (table, own) => {
        if (table === part) found = found.map((holds, row) => holds | (own[row] as number));
      });
    }
    return found;
  }

  private acrossTie(pass: Uint8Array, { left, right }: NonNullable<Route["tie"]>, to: string): Uint8Array {
    const instance = this.base(left);
    const name = ownOf(this.tables.get(left)?.ties ?? {}, right);
    const column = typeof name === "string" ? instance.table.columns.get(name) : undefined;
    const match = column && column.kind !== "text" ? column.values : instance.made?.ties.get(right);
    if (!match) throw new RangeError(`${left} was not looked up in ${right}`);
    return passAcross(pass, match, to === left, this.base(to).table.rowCount);
  }
}

const rowsAfter = (count: number, origin: Origin): number =>
  origin.type === "same" ? count : origin.type === "rows" ? origin.rows.length : origin.count;

/** A choice of rows with no selection on as one of the rows that were made of those left. */
const ofBaseRows = (pass: Uint8Array, base: Int32Array): Uint8Array =>
  Uint8Array.from(base, (row) => (row < 0 ? 0 : (pass[row] as number)));
