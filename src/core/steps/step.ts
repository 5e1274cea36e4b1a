import type { Formula } from "../formula/tree";
import type { Vector } from "../formula/vector";
import type { Column, Scalar } from "../table/column";
import type { Table } from "../table/table";

/** One key of a sort: a formula, possibly turned around. */
export interface SortKey {
  by: Formula;
  descending: boolean;
}

export interface NamedResult {
  name: string;
  formula: Formula;
}

/** The kinds that old heads can be read as when they become values. */
export type HeadKind = "text" | "number" | "date";

/** A step, checked and free of names that are not there: plain data that also travels into a dashboard. */
export type Step =
  | { do: "keep"; test: Formula; within: string[]; order: SortKey[] }
  | { do: "add"; columns: NamedResult[]; within: string[]; order: SortKey[] }
  | { do: "only"; columns: string[] }
  | { do: "rename"; names: [string, string][] }
  | { do: "unique"; columns: string[] }
  | { do: "group"; by: NamedResult[]; get: NamedResult[] }
  | { do: "sort"; keys: SortKey[] }
  | { do: "first" | "last"; rows: Formula; within: string[] }
  | { do: "sample"; rows: Formula; seed: Formula }
  | { do: "unpivot"; columns: string[]; name: string; nameKind: HeadKind; value: string }
  /** `heads` are the columns that come of the values of `name`, as they stood with no selection on. */
  | { do: "pivot"; by: string[]; name: string; value: Formula; heads: string[] }
  /** `on` pairs columns of this table with columns of the other; `get` new names with the other's columns. */
  | { do: "join"; table: string; on: [string, string][]; get: [string, string][]; unmatched: "keep" | "drop" }
  | { do: "stack"; tables: string[] }
  | { do: "fill"; values: NamedResult[] }
  | { do: "fill_forward"; columns: string[]; within: string[]; order: SortKey[] }
  | { do: "smooth"; x: NamedResult; y: NamedResult; span: Formula; by: NamedResult[] }
  | { do: "density"; of: NamedResult; kernel: Formula; adjust: Formula; by: NamedResult[] }
  | { do: "words"; of: Formula; skip: boolean };

export type StepName = Step["do"];
export type StepOf<Name extends StepName> = Extract<Step, { do: Name }>;

/** A reason for which rows left or values were lost, and how many. */
export interface Loss {
  rows: number;
  reason: string;
}

/** What a step did, in numbers: one line of the ledger. */
export interface LedgerLine {
  /** The step as text, such as `unique call_id`. */
  step: string;
  rowsIn: number;
  rowsOut: number;
  losses: Loss[];
  /** What is to be known although no row left: divisions by zero, several matches. */
  notes?: Loss[];
  why?: string;
  /** The step is switched off: the rows passed unchanged. */
  off?: boolean;
}

/**
 * Where the rows of a result come from, so that a selection can be carried along: the same rows,
 * a choice of rows (one may come several times), several rows merged into one, or both at once.
 * `keys`: by what rows were put together, for each row of the result.
 */
export type Origin =
  | { type: "same" }
  /** Row i of the result is made of row `rows[i]` of what went in; -1: of none of them, but of one in `parts`. */
  | { type: "rows"; rows: Int32Array; parts?: readonly StackedPart[] }
  /** Row i of what went in is part of row `into[i]` of the result, which has `count` rows; -1 is part of none. */
  | { type: "merged"; into: Int32Array; count: number; keys?: readonly Column[] }
  /** Pair by pair: row `from[i]` of what went in is part of row `to[i]` of the result, which has `count` rows. */
  | { type: "pairs"; from: Int32Array; to: Int32Array; count: number; keys?: readonly Column[] };

/** All rows of another table, in their order, that stand in a result from row `first` on. */
export interface StackedPart {
  table: string;
  first: number;
  count: number;
}

export interface StepResult {
  table: Table;
  losses: Loss[];
  notes?: Loss[];
  origin: Origin;
  /** For each row of the result the row of another table that it found; -1 where it found none. */
  tie?: { table: string; match: Int32Array };
}

/** Values of settings while steps run. */
export type SettingValues = (name: string) => Scalar;

/** What a step can see beside its own table. */
export interface StepContext {
  setting: SettingValues;
  /** Other tables by name, for join and stack, as they stand with no selection on. */
  table: (name: string) => Table;
}

/** One kind of step: what it does, and what planning has to know of it. */
export interface StepKind<Name extends StepName> {
  /** Pure: the same table, step and context give the same result, at build time and in a dashboard. */
  run: (step: StepOf<Name>, table: Table, context: StepContext) => StepResult;
  /** Every formula of the step. */
  formulas: (step: StepOf<Name>) => Formula[];
  /** The columns of its input that the step needs for itself, and to give these of its result. */
  needs: (step: StepOf<Name>, wanted: ReadonlySet<string>) => Iterable<string>;
  /** The columns of its result, from those of its input. */
  gives: (step: StepOf<Name>, columns: ReadonlySet<string>) => Iterable<string>;
  /** After it a row of the result can stand for several rows: selections must enter above it. */
  merges?: boolean;
  /** For a step that puts rows together by keys alone: what it asks of them, and what it makes of the answers. */
  together?: {
    keys: (step: StepOf<Name>) => Formula[];
    aggregates: (step: StepOf<Name>) => Formula[];
    /** The columns of its result, from the keys of the groups and what each aggregate is in them. */
    columns: (
      step: StepOf<Name>,
      groups: { count: number; keys: readonly Column[] },
      answer: (aggregate: Formula) => Vector,
      setting: SettingValues,
    ) => Map<string, Column>;
  };
  /** It leaves rows out by what they or the others hold: of other rows above it may leave other rows. */
  cuts?: boolean;
  /** The step over a table that lacks columns which nothing needs. */
  narrowed?: (
    step: StepOf<Name>,
    available: ReadonlySet<string>,
    columnsOf: (table: string) => ReadonlySet<string>,
  ) => StepOf<Name>;
}
