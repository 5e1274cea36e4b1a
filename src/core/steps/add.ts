import { evaluate, frameOf } from "../formula/evaluate";
import { columnOf } from "../formula/vector";
import type { Table } from "../table/table";
import { groupsWithin } from "./keep";
import type { SettingValues, Step, StepResult } from "./step";

/** Adds or replaces columns one after the other, each seeing those above it. */
export function add(step: Step & { do: "add" }, table: Table, setting: SettingValues): StepResult {
  const groups = groupsWithin(table, step.within);
  let result = table;
  for (const { name, formula } of step.columns) {
    const vector = evaluate(formula, { ...frameOf(result, setting), ...(groups ? { groups } : {}) });
    const columns = new Map(result.columns);
    columns.set(name, columnOf(vector, table.rowCount));
    result = { ...result, columns };
  }
  return { table: result, losses: [], origin: { type: "same" } };
}
