import { Kit } from "../finding/kit";
import { keepRoom } from "../finding/limits";
import type { Formula } from "../formula/tree";
import type { Table } from "../table/table";
import type { Step, StepContext, StepKind, StepName, StepResult } from "./step";

export const STEPS = new Kit<StepKind<StepName>>("step");

const kindOf = (step: Step) => STEPS.get(step.do);

/** Runs one step. Throws {@link TooLarge} where its result would be more than a table may hold. */
export function runStep(step: Step, table: Table, context: StepContext): StepResult {
  const result = kindOf(step).run(step, table, context);
  keepRoom(result.table.rowCount, result.table.columns.size, "what this step makes");
  return result;
}

/** Every formula of a step. */
export function formulasOfStep(step: Step): Formula[] {
  return kindOf(step).formulas(step);
}

/** The columns of its input that a step needs, when these columns of its result are needed. */
export function neededBefore(step: Step, wanted: ReadonlySet<string>): Set<string> {
  return new Set(kindOf(step).needs(step, wanted));
}

export function columnsAfter(step: Step, columns: ReadonlySet<string>): Set<string> {
  return new Set(kindOf(step).gives(step, columns));
}

/** The step over a table that lacks columns which nothing needs. */
export function narrowedTo(
  step: Step,
  available: ReadonlySet<string>,
  columnsOf: (table: string) => ReadonlySet<string>,
): Step {
  return kindOf(step).narrowed?.(step, available, columnsOf) ?? step;
}

/** True for steps after which a row of the result can stand for several rows. */
export function isMerging(step: Step): boolean {
  return kindOf(step).merges === true;
}

/** What a step that puts rows together by keys asks of them, and makes of the answers; nothing for any other. */
export function togetherBy(step: Step) {
  const { together } = kindOf(step);
  return (
    together && {
      keys: together.keys(step),
      aggregates: together.aggregates(step),
      columns: (...given: Tail<Parameters<typeof together.columns>>) => together.columns(step, ...given),
    }
  );
}

type Tail<T extends unknown[]> = T extends [unknown, ...infer Rest] ? Rest : never;

/**
 * True if some step below the first merging one leaves rows out: made of fewer rows above, the table may hold
 * rows that it does not hold otherwise.
 */
export function isCutBelowMerge(steps: readonly Step[]): boolean {
  const merging = steps.findIndex(isMerging);
  return merging >= 0 && steps.slice(merging).some((step) => kindOf(step).cuts === true);
}

/** Other tables that a step reads. */
export function tablesOfStep(step: Step): string[] {
  return step.do === "join" ? [step.table] : step.do === "stack" ? step.tables : [];
}
