import { keepRoom } from "../finding/limits";
import { type Column, gather, isAllMissing, type NumericColumn, type TextColumn } from "../table/column";
import type { Table } from "../table/table";
import type { StackedPart, StepKind } from "./step";

const lengthOf = (column: Column) => (column.kind === "text" ? column.codes : column.values).length;

/** Two columns of one kind as one, the second after the first; a column that is not there is all missing. */
export function oneAfterTheOther(above: Column, below: Column | undefined, belowRows = 0): Column {
  // A column without a known value is of any kind.
  if (below && (above.kind === "text") !== (below.kind === "text")) {
    if (isAllMissing(below)) return oneAfterTheOther(above, undefined, lengthOf(below));
    return gather(
      below,
      Int32Array.from({ length: lengthOf(above) + lengthOf(below) }, (_, row) => row - lengthOf(above)).map((row) =>
        Math.max(-1, row),
      ),
    );
  }
  if (above.kind === "text") return texts(above, below as TextColumn | undefined, belowRows);
  const added = (below as NumericColumn | undefined)?.values ?? new Float64Array(belowRows).fill(Number.NaN);
  const values = new Float64Array(above.values.length + added.length);
  values.set(above.values);
  values.set(added, above.values.length);
  // A date beside datetimes is the moment at which it begins.
  return {
    kind:
      below && below.kind !== above.kind && (below.kind === "datetime" || above.kind === "datetime")
        ? "datetime"
        : above.kind,
    values,
  };
}

function texts(above: TextColumn, below: TextColumn | undefined, belowRows: number): TextColumn {
  const dictionary = [...above.dictionary];
  const known = new Map(dictionary.map((text, code) => [text, code]));
  const recode = Int32Array.from(below?.dictionary ?? [], (text) => {
    const code = known.get(text) ?? dictionary.push(text) - 1;
    known.set(text, code);
    return code;
  });
  const added = below?.codes.map((code) => recode[code] ?? -1) ?? new Int32Array(belowRows).fill(-1);
  const codes = new Int32Array(above.codes.length + added.length);
  codes.set(above.codes);
  codes.set(added, above.codes.length);
  return { ...above, codes, dictionary };
}

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
