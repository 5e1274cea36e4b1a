import type { Formula } from "../formula/tree";
import type { Scalar } from "../table/column";
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

/** A step, checked and free of names that are not there: plain data that also travels into a dashboard. */
export type Step =
  | { do: "keep"; test: Formula; within: string[] }
  | { do: "add"; columns: NamedResult[]; within: string[] }
  | { do: "only"; columns: string[] }
  | { do: "rename"; names: [string, string][] }
  | { do: "unique"; columns: string[] }
  | { do: "group"; by: NamedResult[]; get: NamedResult[] }
  | { do: "sort"; keys: SortKey[] }
  | { do: "first" | "last"; rows: Formula; within: string[] };

/** A reason for which rows left, and how many. */
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
  why?: string;
}

/**
 * Where the rows of a result come from, so that a selection can be carried along:
 * the same rows, a choice of rows, or several rows merged into one.
 */
export type Origin =
  | { type: "same" }
  /** Row i of the result is row `rows[i]` of what went in. */
  | { type: "rows"; rows: Int32Array }
  /** Row i of what went in is part of row `into[i]` of the result; -1 is part of none. */
  | { type: "merged"; into: Int32Array };

export interface StepResult {
  table: Table;
  losses: Loss[];
  origin: Origin;
}

/** Values of settings while steps run. */
export type SettingValues = (name: string) => Scalar;

/** True for steps after which a row of the result can stand for several rows. */
export function isMerging(step: Step): boolean {
  return step.do === "group" || step.do === "unique";
}
