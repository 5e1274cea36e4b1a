import { constantValue } from "../formula/constant";
import { chance } from "../formula/draws";
import { evaluate, frameOf } from "../formula/evaluate";
import type { Formula } from "../formula/tree";
import type { NumericVector } from "../formula/vector";
import { type Table, takeRows } from "../table/table";
import { groupsWithin } from "./keep";
import type { StepContext, StepKind, StepOf, StepResult } from "./step";

function limitOf(rows: Formula, table: Table, { setting }: StepContext): number {
  const wanted = (evaluate(rows, frameOf(table, setting)) as NumericVector).values[0] as number;
  return wanted >= 0 ? Math.floor(wanted) : 0;
}

function kept(table: Table, rows: Int32Array, reason: string): StepResult {
  const gone = table.rowCount - rows.length;
  return { table: takeRows(table, rows), losses: gone ? [{ rows: gone, reason }] : [], origin: { type: "rows", rows } };
}

/** Keeps the first or last rows, of the table or of each group; their order stays. */
const ends = <End extends "first" | "last">(end: End): StepKind<End> => ({
  run(given, table, context) {
    const step = given as StepOf<"first" | "last">;
    const limit = limitOf(step.rows, table, context);
    const groups = groupsWithin(table, step.within) ?? { of: new Int32Array(table.rowCount), count: 1 };
    const seen = new Int32Array(groups.count);
    const rows: number[] = [];
    for (let i = 0; i < table.rowCount; i++) {
      const row = end === "first" ? i : table.rowCount - 1 - i;
      const of = groups.of[row] as number;
      const count = seen[of] as number;
      if (count >= limit) continue;
      seen[of] = count + 1;
      rows.push(row);
    }
    if (end === "last") rows.reverse();
    return kept(table, Int32Array.from(rows), `beyond the ${end} ${limit}`);
  },
  formulas: (step) => [(step as StepOf<"first" | "last">).rows],
  needs: (step, wanted) => [...wanted, ...(step as StepOf<"first" | "last">).within],
  gives: (_, columns) => columns,
  cuts: true,
});

export const first = ends("first");
export const last = ends("last");

/** Draws a number of rows, each set of them equally likely, from a seed: every build draws the same. */
export const sample: StepKind<"sample"> = {
  run(step, table, context) {
    const limit = Math.min(limitOf(step.rows, table, context), table.rowCount);
    const seed = Number(constantValue(step.seed, context.setting) ?? 0);
    const lots = Float64Array.from({ length: table.rowCount }, (_, row) => chance(seed, 0, row));
    const order = Int32Array.from({ length: table.rowCount }, (_, row) => row).sort(
      (a, b) => (lots[a] as number) - (lots[b] as number),
    );
    return kept(table, order.slice(0, limit).sort(), `not in the sample of ${limit}`);
  },
  formulas: ({ rows, seed }) => [rows, seed],
  needs: (_, wanted) => wanted,
  gives: (_, columns) => columns,
  cuts: true,
};
