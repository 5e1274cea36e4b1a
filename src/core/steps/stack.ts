import { keepRoom } from "../finding/limits";
import { oneAfterTheOther } from "../table/one-after-other";
import type { Table } from "../table/table";
import type { StackedPart, StepKind } from "./step";

/** Rows of other tables with the same columns, under those that are there. */
export const stack: StepKind<"stack"> = {
  run(step, table, context) {
    keepRoom(
      step.tables.reduce((rows, name) => rows + context.table(name).rowCount, table.rowCount),
      table.columns.size,
      "the stack",
    );
    let columns = new Map(table.columns);
    let rowCount = table.rowCount;
    const parts: StackedPart[] = [];
    for (const name of step.tables) {
      const other: Table = context.table(name);
      columns = new Map(
        [...columns].map(([own, column]) => [own, oneAfterTheOther(column, other.columns.get(own), other.rowCount)]),
      );
      parts.push({ table: name, first: rowCount, count: other.rowCount });
      rowCount += other.rowCount;
    }
    const rows = new Int32Array(rowCount).fill(-1);
    for (let row = 0; row < table.rowCount; row++) rows[row] = row;
    return { table: { ...table, rowCount, columns }, losses: [], origin: { type: "rows", rows, parts } };
  },
  formulas: () => [],
  needs: (_, wanted) => wanted,
  gives: (_, columns) => columns,
};
