import { evaluate, frameOf } from "../formula/evaluate";
import type { NumericVector } from "../formula/vector";
import { type Table, takeRows } from "../table/table";
import { groupsWithin } from "./keep";
import type { SettingValues, Step, StepResult } from "./step";

/** Keeps the first or last rows, of the table or of each group; their order stays. */
export function first(step: Step & { do: "first" | "last" }, table: Table, setting: SettingValues): StepResult {
  const wanted = (evaluate(step.rows, frameOf(table, setting)) as NumericVector).values[0] as number;
  const limit = wanted >= 0 ? Math.floor(wanted) : 0;
  const groups = groupsWithin(table, step.within) ?? { of: new Int32Array(table.rowCount), count: 1 };
  const seen = new Int32Array(groups.count);
  const kept: number[] = [];
  for (let i = 0; i < table.rowCount; i++) {
    const row = step.do === "first" ? i : table.rowCount - 1 - i;
    const of = groups.of[row] as number;
    const count = seen[of] as number;
    if (count >= limit) continue;
    seen[of] = count + 1;
    kept.push(row);
  }
  if (step.do === "last") kept.reverse();
  const rows = Int32Array.from(kept);
  const gone = table.rowCount - rows.length;
  return { table: takeRows(table, rows), losses: gone ? [{ rows: gone, reason: `beyond the ${step.do} ${limit}` }] : [], origin: { type: "rows", rows } };
}
