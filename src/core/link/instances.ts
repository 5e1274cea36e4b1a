import { Optional } from "../finding/kit";
import { settingsOf } from "../formula/tree";
import type { Prepared } from "../query/prepare";
import type { SettingValues, Step } from "../steps/step";
import type { Table } from "../table/table";
import type { HeldRows } from "./index/held";
import type { PassingRows } from "./index/passing";
import type { Made } from "./lineage";
import { FormulaColumns, selectionPass } from "./predicate";
import type { Left } from "./regroup";
import type { SelectionStates } from "./states";

/** A table as the engine knows it: given, or made from another by live steps. */
export interface EngineTable {
  name: string;
  from?: string;
  steps?: Step[];
  /**
   * Tables in which its rows were looked up, with its column of the rows that they found; none where its own
   * steps do that.
   */
  ties?: Readonly<Record<string, string | null>>;
}

/** The rows of a table under some choice of rows above a merging step. */
export interface Instance {
  name: string;
  table: Table;
  parent?: Instance;
  made?: Made;
  /** Its rows in the table with no selection on, once asked for. */
  baseRows?: Int32Array;
  columns: FormulaColumns;
  /** The rows that each selection holds, and those that pass several, as far as they were asked for. */
  held: Map<string, HeldRows>;
  passing: Map<string, PassingRows>;
  /** The rows above its first merging step, where that step puts rows together: what it asks is made ready once. */
  above?: { rows: Instance; prepared: Prepared } | null;
  /** How a selection comes to rows that are no table of their own. */
  enters?: (selection: string) => Uint8Array;
}

/** What is kept up as selections move. */
export interface KeptUp {
  /** Which rows of an instance a selection holds; who wants to keep them makes a copy. */
  held: (selection: string, instance: Instance) => Uint8Array;
  /** Answers a question over those rows of an instance that some selections leave. */
  answer: (prepared: Prepared, rows: Instance, selections: readonly string[]) => Left;
}

/** The tables of a dashboard in which none is made of another or looks something up there. */
export class Instances {
  protected readonly instances = new Map<string, Instance>();

  constructor(
    protected readonly tables: ReadonlyMap<string, EngineTable>,
    protected readonly packed: ReadonlyMap<string, Table>,
    protected readonly states: SelectionStates,
    protected readonly setting: SettingValues,
    protected readonly kept: KeptUp,
  ) {}

  /**
   * For each row of a table that an answer is prepared over, its row in the table with no selection on; -1 where
   * that has none. Nothing where these are the same rows.
   */
  baseRows(_table: Table): Int32Array | undefined {
    return undefined;
  }

  /** Rows of a table with no selection on, before any step that follows a setting; nothing where none does. */
  rowsBeforeSettings(_name: string): number | undefined {
    return undefined;
  }

  /** True for a table whose rows follow a setting. */
  protected readsSetting(_table: string, _setting: string): boolean {
    return false;
  }

  /** Lets go of what a setting has made otherwise than it is now; selections that follow it may hold other rows. */
  followSetting(setting: string) {
    for (const [key, { name }] of this.instances) if (this.readsSetting(name, setting)) this.instances.delete(key);
    for (const { columns } of this.instances.values()) columns.forget(setting);
    for (const name of this.states.names()) {
      const { table, axes, ons, keys, columns, outline } = this.states.plan(name);
      const formulas = [axes, ons ?? {}, keys, columns ?? {}, outline ? { x: outline.x, y: outline.y } : {}];
      const follows =
        this.readsSetting(table, setting) ||
        formulas.some((own) => Object.values(own).some((formula) => settingsOf(formula).has(setting)));
      if (follows) this.states.touch(name);
    }
  }

  /** True if between the selection's rows and the table's a step merges rows, so that the steps must run again. */
  entersAbove(_selection: string, _table: string): boolean {
    return false;
  }

  /** A table with no selection on. */
  base(name: string): Instance {
    return this.instance(name, []);
  }

  /** A table made of the rows that some selections, which enter above it, leave. */
  instance(name: string, upstream: readonly string[]): Instance {
    const key = `${name} ${this.states.signature(upstream)}`;
    const known = this.instances.get(key);
    if (known) return known;
    const instance = this.make(name, upstream);
    this.instances.set(key, instance);
    return instance;
  }

  protected make(name: string, _upstream: readonly string[]): Instance {
    return this.newInstance(name, this.packed.get(name) as Table);
  }

  /** The rows that go into a table's first merging step, where that puts rows together, and what it asks of them. */
  above(_name: string): NonNullable<Instance["above"]> | undefined {
    return undefined;
  }

  protected newInstance(name: string, table: Table): Instance {
    return { name, table, columns: new FormulaColumns(table, this.setting), held: new Map(), passing: new Map() };
  }

  /** Which rows of an instance a selection holds, found anew; who wants to keep them makes a copy. */
  pass(selection: string, { name, table, columns }: Instance): Uint8Array {
    const plan = this.states.plan(selection);
    if (plan.table === name) return selectionPass(plan, this.states.get(selection) ?? {}, columns);
    return new Uint8Array(table.rowCount).fill(1);
  }
}

/** Tables that are made of one another, or look something up in one another; a dashboard has them where some do. */
export const RELATED = new Optional<typeof Instances>("ways of rows from table to table");

/** True where a table is made of another by steps that run in a dashboard, or has looked something up in one. */
export const areRelated = (tables: readonly Pick<EngineTable, "from" | "ties">[]): boolean =>
  tables.some(({ from, ties }) => from !== undefined || ties !== undefined);

/** The tables of a dashboard. */
export function instancesOf(
  tables: readonly EngineTable[],
  packed: ReadonlyMap<string, Table>,
  states: SelectionStates,
  setting: SettingValues,
  kept: KeptUp,
): Instances {
  const Kind = areRelated(tables) ? RELATED.get() : Instances;
  return new Kind(new Map(tables.map((table) => [table.name, table])), packed, states, setting, kept);
}
