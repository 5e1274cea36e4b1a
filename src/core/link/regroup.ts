import { answerVector } from "../formula/measures";
import type { RowFilter } from "../formula/ordered";
import { printFormula } from "../formula/print";
import type { Formula } from "../formula/tree";
import { columnOf, type Vector, vectorOf } from "../formula/vector";
import type { Answer } from "../query/answer";
import { type Prepared, type PreparedMeasure, prepareQuery } from "../query/prepare";
import type { Channel, Query } from "../query/query";
import { togetherBy } from "../steps/run";
import type { Origin, SettingValues, Step, StepContext } from "../steps/step";
import { type Column, gather } from "../table/column";
import type { Table } from "../table/table";
import { type Made, makeTableBySteps } from "./lineage";

/**
 * The step that puts rows together, as a question to the table above it: made ready once over all rows, like a
 * chart's.
 */
export function prepareTogether(step: Step, above: Table, setting: SettingValues): Prepared | undefined {
  const together = togetherBy(step);
  if (!together) return undefined;
  const channel = (formula: Formula, aggregate: boolean): Channel => ({
    formula,
    text: printFormula(formula),
    kind: "number",
    aggregate,
    label: "",
  });
  const keys = together.keys.map((formula, at) => [`key ${at}`, channel(formula, false)] as const);
  const query: Query = {
    from: "",
    channels: Object.fromEntries([
      ...keys,
      ...together.aggregates.map((formula, at) => [`aggregate ${at}`, channel(formula, true)] as const),
    ]),
    groupBy: keys.map(([name]) => name),
    grouped: true,
  };
  return prepareQuery(query, above, setting);
}

/** The rows that a choice leaves above a step, and what the step asks of them. */
export interface Left {
  answer: Answer;
  /** Asked for at any time later; it speaks of the rows that were left then. */
  failed: () => RowFilter;
}

/**
 * A table made again over the rows that a choice leaves above a step that puts rows together: the groups that
 * still have any, in the order in which they appear among all rows, and what the steps below make of them.
 *
 * @param base the same table made over all rows
 * @param left what the step asks, answered over the rows left, and which these are
 */
export function regrouped(base: Made, steps: readonly Step[], left: Left, context: StepContext): Made {
  const { origins, above } = base;
  const { table, at } = above as NonNullable<Made["above"]>;
  const { answer } = left;
  const { prepared, counts } = answer;
  const ids = Int32Array.from(counts.keys()).filter((id) => (counts[id] as number) > 0);
  const together = togetherBy(steps[at] as Step) as NonNullable<ReturnType<typeof togetherBy>>;
  const keys = together.keys.map((_, key) => gather(keyOf(prepared, key), ids));
  const columns = together.columns(
    { count: ids.length, keys },
    (aggregate) => answered(answer, printFormula(aggregate), ids),
    context.setting,
  );
  const below = makeTableBySteps({ rowCount: ids.length, columns, info: table.info }, steps.slice(at + 1), context);
  let own: Origin[] | undefined;
  return {
    table: below.table,
    ties: below.ties,
    /** Asked for only where a row of this table is looked for in the one with no selection on. */
    get origins() {
      own ??= [...origins.slice(0, at), ...originsOf(left, ids, keys), ...below.origins];
      return own;
    },
  };
}

/** First the rows that are left, then the groups into which they go. */
function originsOf({ answer, ...left }: Left, ids: Int32Array, keys: readonly Column[]): Origin[] {
  const { groups, groupCount } = answer.prepared;
  const failed = left.failed();
  let count = 0;
  for (let row = 0; row < failed.length; row++) if (failed[row] === 0) count += 1;
  const rows = new Int32Array(count);
  count = 0;
  for (let row = 0; row < failed.length; row++) if (failed[row] === 0) rows[count++] = row;
  const places = new Int32Array(groupCount).fill(-1);
  ids.forEach((id, place) => {
    places[id] = place;
  });
  return [
    { type: "rows", rows },
    { type: "merged", into: rows.map((row) => places[groups[row] as number] as number), count: ids.length, keys },
  ];
}

const keyOf = ({ keys }: Prepared, at: number) => keys.get(`key ${at}`) as NonNullable<ReturnType<typeof keys.get>>;

function answered({ prepared, values }: Answer, text: string, ids: Int32Array): Vector {
  const place = prepared.measures.findIndex((measure) => measure.text === text);
  const { measure } = prepared.measures[place] as PreparedMeasure;
  const vector = answerVector(measure, values[place] as Float64Array);
  return vectorOf(gather(columnOf(vector, prepared.groupCount), ids));
}
