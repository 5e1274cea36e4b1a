import { evaluate, frameOf } from "../formula/evaluate";
import { groupRows } from "../formula/groups";
import { columnsOf } from "../formula/tree";
import { columnOf } from "../formula/vector";
import { type Column, gather, type TextColumn } from "../table/column";
import { oneAfterTheOther } from "../table/one-after-other";
import { allRows } from "../table/table";
import { columnsWithin } from "./keep";
import { sortOrder } from "./sort";
import type { Loss, StepKind } from "./step";

const isMissingAt = (column: Column, row: number) =>
  column.kind === "text" ? (column.codes[row] as number) < 0 : Number.isNaN(column.values[row]);

/** The column with missing values taken from the same rows of another; how many there were. */
function filled(column: Column, from: Column): { column: Column; count: number } {
  const length = column.kind === "text" ? column.codes.length : column.values.length;
  const rows = new Int32Array(length);
  let count = 0;
  for (let row = 0; row < length; row++) {
    const missing = isMissingAt(column, row) && !isMissingAt(from, row);
    rows[row] = missing ? length + row : row;
    if (missing) count += 1;
  }
  if (count === 0) return { column, count };
  const both = gather(oneAfterTheOther(column, from), rows);
  return {
    column: both.kind === "text" ? { ...(column as TextColumn), ...both } : { ...both, kind: column.kind as never },
    count,
  };
}

/** Values in place of missing ones. */
export const fill: StepKind<"fill"> = {
  run(step, table, { setting }) {
    const columns = new Map(table.columns);
    const notes: Loss[] = [];
    for (const { name, formula } of step.values) {
      const value = columnOf(evaluate(formula, frameOf(table, setting)), table.rowCount);
      const result = filled(table.columns.get(name) as Column, value);
      columns.set(name, result.column);
      if (result.count) notes.push({ rows: result.count, reason: `filled in ${name}` });
    }
    return { table: { ...table, columns }, losses: [], ...(notes.length ? { notes } : {}), origin: { type: "same" } };
  },
  formulas: ({ values }) => values.map(({ formula }) => formula),
  needs: ({ values }, wanted) => [
    ...wanted,
    ...values.filter(({ name }) => wanted.has(name)).flatMap(({ formula }) => [...columnsOf(formula)]),
  ],
  gives: (_, columns) => columns,
  narrowed: (step, available) => ({ ...step, values: step.values.filter(({ name }) => available.has(name)) }),
};

/** The last known value in place of missing ones, in an order, by itself in each group. */
export const fillForward: StepKind<"fill_forward"> = {
  run(step, table, { setting }) {
    const order = step.order.length ? sortOrder(step.order, table, setting) : allRows(table.rowCount);
    const { of, count: groups } = step.within.length
      ? groupRows(
          step.within.map((name) => table.columns.get(name) as Column),
          table.rowCount,
        )
      : { of: new Int32Array(table.rowCount), count: 1 };
    const columns = new Map(table.columns);
    const notes: Loss[] = [];
    for (const name of step.columns) {
      const column = table.columns.get(name) as Column;
      const last = new Int32Array(groups).fill(-1);
      const rows = new Int32Array(table.rowCount);
      let count = 0;
      for (const row of order) {
        const group = of[row] as number;
        if (!isMissingAt(column, row)) last[group] = row;
        else if ((last[group] as number) >= 0) count += 1;
        rows[row] = last[group] as number;
      }
      columns.set(name, gather(column, rows));
      if (count) notes.push({ rows: count, reason: `filled in ${name}` });
    }
    return { table: { ...table, columns }, losses: [], ...(notes.length ? { notes } : {}), origin: { type: "same" } };
  },
  formulas: ({ order }) => order.map(({ by }) => by),
  needs: (step, wanted) => [...wanted, ...columnsWithin(step)],
  gives: (_, columns) => columns,
  narrowed: (step, available) => ({ ...step, columns: step.columns.filter((name) => available.has(name)) }),
};
