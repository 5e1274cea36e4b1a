import { evaluate } from "../formula/evaluate";
import { columnsOf } from "../formula/tree";
import { columnOf } from "../formula/vector";
import { columnsWithin, frameWithin } from "./keep";
import { withMade } from "./made-columns";
import type { Loss, StepKind } from "./step";
import { valueLosses } from "./value-losses";

function hasMissing(values: Float64Array): boolean {
  for (let row = 0; row < values.length; row++) {
    const value = values[row] as number;
    if (value !== value) return true;
  }
  return false;
}

/** Adds or replaces columns one after the other, each seeing those above it. */
export const add: StepKind<"add"> = {
  run(step, table, context) {
    const frame = frameWithin(table, step, context);
    const notes: Loss[] = [];
    let result = table;
    for (const { name, formula } of step.columns) {
      const own = { ...frame, column: (wanted: string) => result.columns.get(wanted) };
      const vector = evaluate(formula, own);
      const column = columnOf(vector, table.rowCount);
      // Only where something is missing can something have been lost.
      if (column.kind === "text" || hasMissing(column.values)) notes.push(...valueLosses(formula, own, name));
      const columns = new Map(result.columns);
      columns.set(name, column);
      result = { ...result, columns, info: withMade(result.info, [{ name, formula }]) };
    }
    return { table: result, losses: [], ...(notes.length ? { notes } : {}), origin: { type: "same" } };
  },
  formulas: ({ columns, order }) => [...columns.map(({ formula }) => formula), ...order.map(({ by }) => by)],
  needs(step, wanted) {
    const needed = new Set(wanted);
    for (const { name, formula } of [...step.columns].reverse()) {
      if (!needed.delete(name)) continue;
      for (const column of columnsOf(formula)) needed.add(column);
    }
    return [...needed, ...columnsWithin(step)];
  },
  gives: ({ columns: added }, columns) => [...columns, ...added.map(({ name }) => name)],
  narrowed: (step, available) => ({
    ...step,
    columns: step.columns.filter(({ formula }) =>
      [...columnsOf(formula)].every((name) => available.has(name) || step.columns.some((other) => other.name === name)),
    ),
  }),
};
