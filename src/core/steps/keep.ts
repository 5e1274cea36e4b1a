import { evaluate, frameOf, rowsWhere } from "../formula/evaluate";
import { groupRows } from "../formula/groups";
import type { Column } from "../table/column";
import { type Table, takeRows } from "../table/table";
import type { SettingValues, Step, StepResult } from "./step";

/** The groups of `within`, or none where it is empty. */
export function groupsWithin(table: Table, within: readonly string[]): { of: Int32Array; count: number } | undefined {
  if (within.length === 0) return undefined;
  return groupRows(within.map((name) => table.columns.get(name) as Column), table.rowCount);
}

/** Keeps rows where the test is true; false and missing both leave, and are counted apart. */
export function keep(step: Step & { do: "keep" }, table: Table, setting: SettingValues): StepResult {
  const groups = groupsWithin(table, step.within);
  const test = evaluate(step.test, { ...frameOf(table, setting), ...(groups ? { groups } : {}) });
  const { rows, falseCount, missingCount } = rowsWhere(test, table.rowCount);
  const losses = [];
  if (falseCount) losses.push({ rows: falseCount, reason: "not true" });
  if (missingCount) losses.push({ rows: missingCount, reason: "missing" });
  return { table: takeRows(table, rows), losses, origin: { type: "rows", rows } };
}
