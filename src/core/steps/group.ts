import { AGGREGATES } from "../formula/aggregate-names";
import { evaluate, type Frame, frameOf } from "../formula/evaluate";
import { groupRows } from "../formula/groups";
import { answerMeasure, answerVector, makeMeasure } from "../formula/measures";
import { printFormula } from "../formula/print";
import { type Formula, walk } from "../formula/tree";
import { columnOf, type Vector } from "../formula/vector";
import { type Column, gather } from "../table/column";
import type { Table } from "../table/table";
import { columnsOfAll } from "./keep";
import { withMade } from "./made-columns";
import type { Loss, SettingValues, StepContext, StepKind, StepOf, StepResult } from "./step";
import { valueLosses } from "./value-losses";

/** One row per group, in order of first appearance; the keys first, then what each group gets. */
function run(step: StepOf<"group">, table: Table, { setting }: StepContext): StepResult {
  const rows = frameOf(table, setting);
  const keys = step.by.map(({ formula }) => columnOf(evaluate(formula, rows), table.rowCount));
  const groups = groupRows(keys, table.rowCount);
  const tooSmall: Loss[] = [];
  const answer = (call: Formula) => {
    const { name, arguments: given } = call as Formula & { type: "call" };
    const measure = makeMeasure(
      name,
      given.map((argument) => evaluate(argument, rows)),
      table.rowCount,
    );
    if (measure.type === "totals" && measure.lost?.rows)
      tooSmall.push({
        rows: measure.lost.rows,
        reason:
          `count as 0 in ${printFormula(call)}: below ` +
          `${measure.lost.below.toExponential(0)} there is no room beside the largest`,
      });
    return answerVector(measure, answerMeasure(measure, groups.of, groups.count, null));
  };
  const own = { count: groups.count, keys: keys.map((key) => gather(key, groups.firstRows)) };
  const merged = mergedFrame(step, own, answer, setting);
  const columns = columnsIn(step, own, merged);
  // What is lost in the rows before they are put together, and what in the groups after it.
  const notes = [
    ...tooSmall,
    ...step.by.flatMap(({ name, formula }) => valueLosses(formula, rows, name)),
    ...step.get.flatMap(({ name, formula }) => [
      ...aggregatesIn(formula).flatMap((call) => valueLosses(call, rows, name)),
      ...valueLosses(formula, merged, name, isAggregate),
    ]),
  ];
  return {
    table: { rowCount: groups.count, columns, info: withMade(table.info, [...step.by, ...step.get]) },
    losses: [],
    ...(notes.length ? { notes } : {}),
    origin: { type: "merged", into: groups.of, count: groups.count, keys: own.keys },
  };
}

/** The groups as formulas of what they get see them: their keys as columns, aggregates as they are answered. */
function mergedFrame(
  step: StepOf<"group">,
  { count, keys }: { count: number; keys: readonly Column[] },
  answer: (call: Formula) => Vector,
  setting: SettingValues,
): Frame {
  const columns = new Map(step.by.map(({ name }, place) => [name, keys[place] as Column]));
  const keyTexts = new Map(step.by.map(({ formula, name }) => [printFormula(formula), name]));
  return {
    length: count,
    column: (name) => columns.get(name),
    setting,
    given: (node) => groupValue(node, keyTexts, columns, answer),
  };
}

function columnsIn(
  step: StepOf<"group">,
  { count, keys }: { count: number; keys: readonly Column[] },
  merged: Frame,
): Map<string, Column> {
  const columns = new Map(step.by.map(({ name }, place) => [name, keys[place] as Column]));
  for (const { name, formula } of step.get) columns.set(name, columnOf(evaluate(formula, merged), count));
  return columns;
}

export const group: StepKind<"group"> = {
  run,
  together: {
    keys: ({ by }) => by.map(({ formula }) => formula),
    aggregates: ({ get }) => get.flatMap(({ formula }) => aggregatesIn(formula).map(measured)),
    columns: (step, groups, answer, setting) => columnsIn(step, groups, mergedFrame(step, groups, answer, setting)),
  },
  formulas: ({ by, get }) => [...by, ...get].map(({ formula }) => formula),
  needs: ({ by, get }) => columnsOfAll([...by, ...get].map(({ formula }) => formula)),
  gives: ({ by, get }) => [...by, ...get].map(({ name }) => name),
  merges: true,
};

const isAggregate = (node: Formula): boolean => node.type === "call" && AGGREGATES.has(node.name);

/** The aggregates of a formula that stand in no other. */
function aggregatesIn(formula: Formula): Formula[] {
  const found: Formula[] = [];
  walk(formula, (node) => {
    if (isAggregate(node)) found.push(node);
    return !isAggregate(node);
  });
  return found;
}

/** A share is of what it shares. */
const measured = (call: Formula): Formula =>
  call.type === "call" && call.name === "share" ? (call.arguments[0] as Formula) : call;

/** The value of a node that is a key or an aggregate of the groups; `share` is left to its parts. */
function groupValue(
  node: Formula,
  keys: ReadonlyMap<string, string>,
  columns: ReadonlyMap<string, Column>,
  answer: (call: Formula) => Vector,
): Vector | undefined {
  const key = node.type === "call" || node.type === "column" ? keys.get(printFormula(node)) : undefined;
  if (key !== undefined) return { ...(columns.get(key) as Column), step: 1 };
  if (node.type !== "call" || !AGGREGATES.has(node.name)) return undefined;
  if (node.name !== "share") return answer(node);
  const own = answer(measured(node));
  if (own.kind === "text") return undefined;
  let total = 0;
  for (const value of own.values) if (value === value) total += value;
  return { kind: "number", step: 1, values: own.values.map((value) => (total ? value / total : Number.NaN)) };
}
