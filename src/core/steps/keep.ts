import { evaluate, type Frame, frameOf, rowsWhere } from "../formula/evaluate";
import { groupRows } from "../formula/groups";
import { columnsOf, type Formula } from "../formula/tree";
import type { Column } from "../table/column";
import { type Table, takeRows } from "../table/table";
import { sortOrder } from "./sort";
import type { SortKey, StepContext, StepKind } from "./step";
import { valueLosses } from "./value-losses";

/** The groups of `within`, or none where it is empty. */
export function groupsWithin(table: Table, within: readonly string[]): { of: Int32Array; count: number } | undefined {
  if (within.length === 0) return undefined;
  return groupRows(
    within.map((name) => table.columns.get(name) as Column),
    table.rowCount,
  );
}

/** The frame of a step whose formulas may look at groups and at other rows. */
export function frameWithin(
  table: Table,
  { within, order }: { within: readonly string[]; order: readonly SortKey[] },
  { setting }: StepContext,
): Frame {
  const groups = groupsWithin(table, within);
  return {
    ...frameOf(table, setting),
    ...(groups ? { groups } : {}),
    ...(order.length ? { order: sortOrder(order, table, setting) } : {}),
  };
}

/** Columns that `within` and `order` read. */
export function columnsWithin({ within, order }: { within: readonly string[]; order: readonly SortKey[] }): string[] {
  return [...within, ...order.flatMap(({ by }) => [...columnsOf(by)])];
}

export const columnsOfAll = (formulas: readonly Formula[]): string[] =>
  formulas.flatMap((formula) => [...columnsOf(formula)]);

/** Keeps rows where the test is true; false and missing both leave, and are counted apart. */
export const keep: StepKind<"keep"> = {
  run(step, table, context) {
    const frame = frameWithin(table, step, context);
    const test = evaluate(step.test, frame);
    const { rows, falseCount, missingCount } = rowsWhere(test, table.rowCount);
    const losses = [];
    if (falseCount) losses.push({ rows: falseCount, reason: "not true" });
    if (missingCount) losses.push({ rows: missingCount, reason: "missing" });
    // Only where the test is missing can something have been lost in it.
    const notes = missingCount ? valueLosses(step.test, frame, "the test") : [];
    return { table: takeRows(table, rows), losses, ...(notes.length ? { notes } : {}), origin: { type: "rows", rows } };
  },
  formulas: ({ test, order }) => [test, ...order.map(({ by }) => by)],
  needs: (step, wanted) => [...wanted, ...columnsOf(step.test), ...columnsWithin(step)],
  gives: (_, columns) => columns,
  cuts: true,
};
