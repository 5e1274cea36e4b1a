import { stackedIn } from "../link/route";
import type { SelectionPlan } from "../link/selection";
import type { PlanPiece } from "../plan/plan";
import { tablesDrawn } from "../plan/tables-drawn";
import { isMerging, tablesOfStep } from "../steps/run";
import type { Step } from "../steps/step";
import { ancestry, type BuiltTable, type Compiling, followsSettings, routeOf } from "./compiling";
import { usesSettings } from "./steps";

/** What selections ask of tables, by the ways that they take. */
export class LinkedTables {
  /** Tables that must be made in the dashboard, because selections or settings reach above them. */
  readonly live = new Set<string>();
  /** Ties that selections travel along: the table that looked up, those in which it did, and who needs it. */
  readonly ties = new Map<string, Map<string, Set<string>>>();
  /**
   * Tables that were read and must be stacked or look up in the dashboard, because selections reach single parts of
   * them, or the rows from which what they look up is made, or because their rows follow a setting.
   */
  readonly stacking = new Set<string>();

  /** @param following tables whose rows may be those that a reader puts in, or are made of such rows */
  constructor(
    readonly compiling: Compiling,
    readonly following: ReadonlySet<string>,
  ) {
    for (const built of compiling.tables.values()) {
      if (built.from !== undefined && (following.has(built.name) || followsSettings(compiling, built.name)))
        this.live.add(built.name);
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
    // A table that is made anew for every setting finds its ties anew too.
    if (this.compiling.tables.get(left)?.usesSettings) this.runs(left);
    const rights = this.ties.get(left) ?? new Map<string, Set<string>>();
    this.ties.set(left, rights.set(right, (rights.get(right) ?? new Set()).add(by)));
  }
}

/** What is asked of tables by all selections of a report, and by the words that speak of them. */
export function linkedTables(
  compiling: Compiling,
  pieces: readonly PlanPiece[],
  selections: readonly SelectionPlan[],
  mentions: ReadonlyMap<string, readonly string[]>,
  following: ReadonlySet<string>,
): LinkedTables {
  const linked = new LinkedTables(compiling, following);
  const tablesOf = new Map(pieces.map(({ name, plan }) => [name, tablesDrawn(plan)]));
  for (const selection of selections) {
    const told = (mentions.get(selection.name) ?? []).map((target) => ({ target, effect: "filter" as const }));
    for (const { target, effect } of [...selection.effects, ...told]) {
      if (effect === "crosshair") continue;
      for (const table of tablesOf.get(target) ?? [])
        if (table !== selection.table) linked.add(selection.table, table, selection.source);
    }
  }
  return linked;
}

/** The ties of a table whose own steps find them in the dashboard. */
export function tiesFound({ ties }: LinkedTables, name: string): { ties?: Record<string, null> } {
  const rights = ties.get(name);
  return rights ? { ties: Object.fromEntries([...rights.keys()].map((right) => [right, null])) } : {};
}

/**
 * The steps of a table that must run in the dashboard: from the first that follows a setting, stacks what
 * selections reach, or reads a table whose rows follow a setting or may be put in by readers.
 */
export function liveEnd(built: BuiltTable, { compiling, stacking, ties, following }: LinkedTables): Step[] {
  const isStacking = stacking.has(built.name);
  const rights = ties.get(built.name);
  const isLive = (step: Step) =>
    (built.usesSettings && usesSettings(step)) ||
    tablesOfStep(step).some((other) => following.has(other) || followsSettings(compiling, other)) ||
    (isStacking && (step.do === "stack" || (step.do === "join" && rights?.has(step.table) === true)));
  const cut = built.steps.findIndex(isLive);
  return cut < 0 ? [] : built.steps.slice(cut);
}
