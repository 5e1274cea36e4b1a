import type { Asked, Engine } from "../link/engine";
import { familiesOf, pathUp, routeBetween } from "../link/route";
import type { SelectionPlan } from "../link/selection";
import type { PickControlPlan, Plan } from "../plan/plan";
import { tablesDrawn } from "../plan/tables-drawn";
import type { Answer } from "../query/answer";
import type { Channel, Query } from "../query/query";

const countChannel: Channel = {
  formula: { type: "call", name: "count", arguments: [] },
  text: "count()",
  kind: "number",
  aggregate: true,
  label: "rows",
};

function countQuery(from: string): Query {
  return { from, channels: { n: countChannel }, groupBy: [], grouped: true };
}

/**
 * How many rows are left of the tables of a dashboard, how many a selection holds, and how many each value of a
 * control would bring: each is a question of its own to the engine.
 */
export class RowCounts {
  private readonly controlQuestions = new Map<string, Asked>();
  private readonly heldQuestions = new Map<string, Asked>();
  private readonly tableQuestions = new Map<string, Asked>();

  constructor(
    private readonly plan: Plan,
    private readonly engine: Engine,
    private readonly selections: ReadonlyMap<string, SelectionPlan>,
  ) {
    for (const control of plan.controls)
      if (control.type === "pick") this.controlQuestions.set(control.name, this.controlQuestion(control));
    for (const table of plan.tables) {
      if (!this.isCounted(table.name)) continue;
      this.tableQuestions.set(table.name, {
        query: countQuery(table.name),
        options: {},
        filters: this.filteringTable(table.name).filter((name) => this.selections.get(name)?.everywhere),
      });
    }
  }

  /** Rows of each counted table that pass everything, and all of them: those before a setting leaves out any. */
  left(): Record<string, { left: number; all: number }> {
    const counts: Record<string, { left: number; all: number }> = {};
    for (const [name, asked] of this.tableQuestions) {
      const all = this.engine.rowsBeforeSettings(name) ?? this.engine.all(asked).counts[0] ?? 0;
      counts[name] = { left: this.engine.answer(asked).counts[0] ?? 0, all };
    }
    return counts;
  }

  /** How many rows a selection holds by itself. */
  held(name: string): number {
    const plan = this.selections.get(name);
    if (!plan) return 0;
    let asked = this.heldQuestions.get(name);
    if (!asked) {
      asked = { query: countQuery(plan.table), options: {}, filters: [name] };
      this.heldQuestions.set(name, asked);
    }
    return this.engine.answer(asked).counts[0] ?? 0;
  }

  /** Values of a pick control with how many rows each would bring, under every other selection. */
  ofControl(name: string): { answer: Answer; all: Answer } | undefined {
    const asked = this.controlQuestions.get(name);
    return asked && { answer: this.engine.answer(asked), all: this.engine.all(asked) };
  }

  /** All of these questions, for those who warm the index. */
  asked(): Asked[] {
    return [...this.tableQuestions.values(), ...this.controlQuestions.values()];
  }

  /**
   * Tables that were read, not derived, are the ones whose rows are counted; a derived one only where nothing is
   * drawn of the rows that it was made of.
   */
  private isCounted(name: string): boolean {
    const planned = (wanted: string) => this.plan.tables.find((table) => table.name === wanted);
    const table = planned(name);
    if (!table || table.part || !this.isDrawn(name)) return false;
    if (table.root !== undefined && this.isCounted(table.root)) return false;
    return table.from === undefined || planned(table.from)?.part === true;
  }

  /** True for tables from which some piece draws its marks, by itself or by a table made of it. */
  private isDrawn(name: string): boolean {
    const familyOf = familiesOf(this.plan.tables);
    return this.plan.pieces.some(({ plan }) => {
      const queries = plan.type === "chart" ? plan.layers.map(({ query }) => query) : [plan.query];
      return queries.some(({ from }) => pathUp(from, familyOf).includes(name));
    });
  }

  private controlQuestion(control: PickControlPlan): Asked {
    const query: Query = {
      from: control.from,
      channels: { key: control.channel, n: countChannel },
      groupBy: ["key"],
      grouped: true,
    };
    return { query, options: {}, filters: this.sharingTargets(control) };
  }

  /** Every other selection that leaves out or fades rows where a control does something too. */
  private sharingTargets(control: PickControlPlan): string[] {
    const own = this.selections.get(control.name)?.effects.map(({ target }) => target) ?? [];
    return this.filteringTable(control.from).filter(
      (name) =>
        name !== control.name &&
        this.selections
          .get(name)
          ?.effects.some(({ effect, target }) => (effect === "filter" || effect === "fade") && own.includes(target)),
    );
  }

  /**
   * Selections by which a table's rows are counted: those within its family, and those of others that filter
   * something in it.
   */
  private filteringTable(table: string): string[] {
    const familyOf = familiesOf(this.plan.tables);
    const isRelated = (name: string) => {
      const route = routeBetween(table, name, familyOf);
      return route !== undefined && route.tie === undefined;
    };
    const tables = new Map(this.plan.pieces.map(({ name, plan }) => [name, tablesDrawn(plan)]));
    const counts = (selection: SelectionPlan) =>
      selection.effects.some(
        ({ effect, target }) =>
          effect !== "crosshair" && [selection.table, ...(tables.get(target) ?? [])].some(isRelated),
      );
    return this.plan.selections
      .filter((selection) => routeBetween(selection.table, table, familyOf) !== undefined && counts(selection))
      .map(({ name }) => name);
  }
}
