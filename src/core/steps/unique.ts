import { groupRows } from "../formula/groups";
import type { Column } from "../table/column";
import { type Table, takeRows } from "../table/table";
import type { Step, StepResult } from "./step";

/** Keeps the first of rows that are alike in the given columns. Missing equals missing here. */
export function unique(step: Step & { do: "unique" }, table: Table): StepResult {
  const groups = groupRows(step.columns.map((name) => table.columns.get(name) as Column), table.rowCount);
  const gone = table.rowCount - groups.count;
  return {
    table: takeRows(table, groups.firstRows),
    losses: gone ? [{ rows: gone, reason: "duplicates" }] : [],
    origin: { type: "merged", into: groups.of },
  };
}
