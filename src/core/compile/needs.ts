import { pieceFormulas, queriesOf } from "../chart/piece-formulas";
import type { PiecePlan } from "../chart/plan";
import type { WordPart } from "../chart/words";
import { columnsOf, type Formula, walk } from "../formula/tree";
import type { SelectionPlan } from "../link/selection";
import type { ControlPlan, PlanPiece } from "../plan/plan";
import { formulasOf } from "../query/query";
import { neededOfOther } from "../steps/join";
import { neededBefore } from "../steps/run";
import type { Step } from "../steps/step";

/** The columns of a table that are needed, each with the pieces, controls and tables that need it. */
export type NeededColumns = Map<string, Set<string>>;

/** What a report asks of its tables: which it uses at all, and which of their columns. */
export class Needs {
  readonly used = new Set<string>();
  private readonly columns = new Map<string, NeededColumns>();

  of(table: string): NeededColumns {
    const columns = this.columns.get(table) ?? new Map<string, Set<string>>();
    this.columns.set(table, columns);
    return columns;
  }

  add(table: string, column: string, by: string) {
    const columns = this.of(table);
    columns.set(column, (columns.get(column) ?? new Set<string>()).add(by));
  }

  private addFormula(table: string, formula: Formula, by: string) {
    for (const column of columnsOf(formula)) this.add(table, column, by);
  }

  /** What a piece shows, also where it speaks of what is selected. */
  addPiece({ name, plan, live }: PlanPiece, selections: readonly SelectionPlan[]) {
    const lines = live && Object.keys(live.query.channels).length ? [live.query] : [];
    for (const query of [...queriesOf(plan), ...lines]) {
      this.used.add(query.from);
      if (!query.finished) for (const formula of formulasOf(query)) this.addFormula(query.from, formula, name);
    }
    if (plan.type === "chart")
      for (const sort of Object.values(plan.sort))
        if (sort && "by" in sort && !sort.finished) this.addFormula(plan.from, sort.by.formula, name);
    const selected = (wanted: string, column: string) => {
      const selection = selections.find((one) => one.name === wanted);
      if (selection) this.add(selection.table, column, name);
    };
    for (const part of [...Object.values(live?.parts ?? {}).flat(), ...tooltipParts(plan)])
      if (typeof part === "object" && "selection" in part) selected(part.selection, part.column);
    for (const formula of pieceFormulas(plan))
      walk(formula, (node) => {
        if (node.type === "selected") selected(node.selection, node.column);
      });
  }

  /** What a selection is told by. */
  addSelection({ table, source, axes, keys, columns = {}, ons = {}, outline, byMarks, by }: SelectionPlan) {
    this.used.add(table);
    const outlined = outline ? [outline.x, outline.y] : [];
    // What covers marks holds their keys; what they measure is known to their chart.
    const covered = byMarks ? [] : Object.values(axes);
    const held = [keys, columns, ons].flatMap((formulas) => Object.values(formulas));
    for (const formula of [...covered, ...outlined, ...held]) if (formula) this.addFormula(table, formula, source);
    for (const column of by) this.add(table, column, source);
  }

  /** What a control offers. */
  addControl(control: ControlPlan) {
    if (control.type !== "pick") return;
    this.used.add(control.from);
    this.addFormula(control.from, control.channel.formula, control.name);
  }

  /** What steps of a table that run in the dashboard look up or stack. */
  addLookedUp(table: string, steps: readonly Step[]) {
    for (const other of neededOfOthers(steps, new Set(this.of(table).keys()))) {
      this.used.add(other.table);
      for (const column of other.columns) this.add(other.table, column, table);
    }
  }

  /** What a table that is made in the dashboard by steps needs of the one from which it is made. */
  addParent(table: string, parent: string, steps: readonly Step[]) {
    this.used.add(parent);
    for (const [column, who] of neededThrough(steps, this.of(table)))
      for (const by of who) this.add(parent, column, by);
  }
}

/** What stands in tooltips that are lines of words. */
const tooltipParts = (plan: PiecePlan): WordPart[] =>
  plan.type === "chart" ? plan.layers.flatMap(({ says = [] }) => says) : [];

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
export function neededThrough(steps: readonly Step[], needed: NeededColumns): NeededColumns {
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
