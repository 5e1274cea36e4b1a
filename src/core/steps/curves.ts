import { evaluate, frameOf } from "../formula/evaluate";
import { groupRows } from "../formula/groups";
import type { NumericVector, TextVector } from "../formula/vector";
import { columnOf } from "../formula/vector";
import { densityCurve, KERNELS, type Kernel } from "../stat/kernel-density";
import { type Curve, smoothCurve } from "../stat/local-regression";
import { type Column, gather, type NumericColumn } from "../table/column";
import type { Table } from "../table/table";
import { columnsOfAll } from "./keep";
import type { NamedResult, StepContext, StepKind, StepResult } from "./step";

/** Fits a curve to the rows of each group; the result has one row for each of its places. */
function perGroup(
  table: Table,
  { setting }: StepContext,
  by: readonly NamedResult[],
  named: readonly [string, string],
  of: readonly NumericColumn[],
  curveOf: (columns: Float64Array[]) => Curve,
): StepResult {
  const frame = frameOf(table, setting);
  const keys = by.map(({ formula }) => columnOf(evaluate(formula, frame), table.rowCount));
  const groups = groupRows(keys, table.rowCount);
  const rowsOf: number[][] = Array.from({ length: groups.count }, () => []);
  for (let row = 0; row < table.rowCount; row++) rowsOf[groups.of[row] as number]?.push(row);
  const xs: number[] = [];
  const ys: number[] = [];
  const first: number[] = [];
  rowsOf.forEach((rows, group) => {
    const curve = curveOf(of.map(({ values }) => Float64Array.from(rows, (row) => values[row] as number)));
    curve.x.forEach((x, at) => {
      xs.push(x);
      ys.push(curve.y[at] as number);
      first.push(groups.firstRows[group] as number);
    });
  });
  const rows = Int32Array.from(first);
  const columns = new Map<string, Column>(by.map(({ name }, at) => [name, gather(keys[at] as Column, rows)]));
  columns.set(named[0], { kind: (of[0] as NumericColumn).kind, values: Float64Array.from(xs) });
  columns.set(named[1], { kind: of[1]?.kind ?? "number", values: Float64Array.from(ys) });
  return {
    table: { rowCount: xs.length, columns, info: table.info },
    losses: [],
    origin: { type: "merged", into: new Int32Array(table.rowCount).fill(-1), count: xs.length },
  };
}

const numbersIn = (table: Table, context: StepContext, { formula }: NamedResult) =>
  columnOf(evaluate(formula, frameOf(table, context.setting)), table.rowCount) as NumericColumn;

/** A smooth curve through the rows of each group, at 200 places. */
export const smooth: StepKind<"smooth"> = {
  run(step, table, context) {
    const span = (evaluate(step.span, frameOf(table, context.setting)) as NumericVector).values[0] as number;
    const of = [numbersIn(table, context, step.x), numbersIn(table, context, step.y)];
    return perGroup(table, context, step.by, [step.x.name, step.y.name], of, ([x, y]) =>
      smoothCurve(x as Float64Array, y as Float64Array, span),
    );
  },
  formulas: ({ x, y, span, by }) => [x.formula, y.formula, span, ...by.map(({ formula }) => formula)],
  needs: ({ x, y, by }) => columnsOfAll([x, y, ...by].map(({ formula }) => formula)),
  gives: ({ x, y, by }) => [...by, x, y].map(({ name }) => name),
  merges: true,
};

/** How densely the values of each group lie, at 200 places. */
export const density: StepKind<"density"> = {
  run(step, table, context) {
    const frame = frameOf(table, context.setting);
    const adjust = (evaluate(step.adjust, frame) as NumericVector).values[0] as number;
    const kernel = evaluate(step.kernel, frame) as TextVector;
    const wanted = kernel.dictionary[kernel.codes[0] as number] as Kernel;
    return perGroup(
      table,
      context,
      step.by,
      [step.of.name, "density"],
      [numbersIn(table, context, step.of)],
      ([values]) => densityCurve(values as Float64Array, KERNELS.includes(wanted) ? wanted : "gaussian", adjust),
    );
  },
  formulas: ({ of, kernel, adjust, by }) => [of.formula, kernel, adjust, ...by.map(({ formula }) => formula)],
  needs: ({ of, by }) => columnsOfAll([of, ...by].map(({ formula }) => formula)),
  gives: ({ of, by }) => [...by.map(({ name }) => name), of.name, "density"],
  merges: true,
};
