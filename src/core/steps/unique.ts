import { groupRows } from "../formula/groups";
import { type Column, gather } from "../table/column";
import { takeRows } from "../table/table";
import type { StepKind } from "./step";

/** Keeps the first of rows that are alike in the given columns. Missing equals missing here. */
export const unique: StepKind<"unique"> = {
  run(step, table) {
    const keys = step.columns.map((name) => table.columns.get(name) as Column);
    const groups = groupRows(keys, table.rowCount);
    const gone = table.rowCount - groups.count;
    return {
      table: takeRows(table, groups.firstRows),
      losses: gone ? [{ rows: gone, reason: gone === 1 ? "duplicate" : "duplicates" }] : [],
      origin: {
        type: "merged",
        into: groups.of,
        count: groups.count,
        keys: keys.map((key) => gather(key, groups.firstRows)),
      },
    };
  },
  formulas: () => [],
  needs: ({ columns }, wanted) => [...wanted, ...columns],
  gives: (_, columns) => columns,
  merges: true,
};
