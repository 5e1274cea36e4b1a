import { evaluate, frameOf } from "../formula/evaluate";
import { columnsOf } from "../formula/tree";
import { columnOf } from "../formula/vector";
import { ranks, sortedRows } from "../table/compare";
import { type Table, takeRows } from "../table/table";
import type { SettingValues, SortKey, StepKind } from "./step";

/** Row numbers in the order of several keys; stable, missing last. */
export function sortOrder(keys: readonly SortKey[], table: Table, setting: SettingValues): Int32Array {
  const frame = frameOf(table, setting);
  const values = keys.map(({ by }) => {
    const order = by.type === "column" ? table.info.get(by.name)?.order : undefined;
    return ranks(columnOf(evaluate(by, frame), table.rowCount), order);
  });
  return sortedRows(
    table.rowCount,
    values,
    keys.map(({ descending }) => descending),
  );
}

export const sort: StepKind<"sort"> = {
  run(step, table, { setting }) {
    const rows = sortOrder(step.keys, table, setting);
    return { table: takeRows(table, rows), losses: [], origin: { type: "rows", rows } };
  },
  formulas: ({ keys }) => keys.map(({ by }) => by),
  needs: ({ keys }, wanted) => [...wanted, ...keys.flatMap(({ by }) => [...columnsOf(by)])],
  gives: (_, columns) => columns,
};
