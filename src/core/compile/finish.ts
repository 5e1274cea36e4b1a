import { queriesOf } from "../chart/piece-formulas";
import type { ChartPlan, PiecePlan } from "../chart/plan";
import { layerOptions, SORTED, sortQueries } from "../chart/questions";
import { everyVariant } from "../chart/resolve";
import { TooLarge } from "../finding/limits";
import { settingsOf } from "../formula/tree";
import { effectSpec } from "../link/effects/index";
import type { SelectionPlan } from "../link/selection";
import type { PlanPiece } from "../plan/plan";
import { speaksOf } from "../plan/speaks";
import type { Answer } from "../query/answer";
import { type Finished, finish } from "../query/finished";
import type { PrepareOptions } from "../query/prepare";
import { formulasOf, type Query } from "../query/query";
import type { Table } from "../table/table";
import { comesBack } from "./comes-back";
import { ancestry, type Compiling } from "./compiling";

/** Tables of groups that are packed in place of rows: what stands in each, and the piece that shows it. */
export type FinishedTables = Map<string, { table: Table; piece: string }>;

/** Pieces of groups that nothing in the dashboard reaches: no pick, no setting. */
export const outOfReach = (
  compiling: Compiling,
  pieces: readonly PlanPiece[],
  selections: readonly SelectionPlan[],
): Set<string> => new Set(pieces.filter((piece) => isOutOfReach(compiling, piece, selections)).map(({ name }) => name));

/**
 * Answers the questions of those pieces, so that their groups are packed and not their rows. Where the sheet goes
 * along (`reopens`), those that it could not draw from these groups keep their rows.
 */
export function finishPieces(
  compiling: Compiling,
  pieces: readonly PlanPiece[],
  beyond: ReadonlySet<string>,
  selections: readonly SelectionPlan[],
  reopens: boolean,
): { pieces: PlanPiece[]; finished: FinishedTables } {
  const finished: FinishedTables = new Map();
  // What a link does to another piece of its family, it would not do to one of another table.
  const isTarget = (name: string) => selections.some(({ effects }) => effects.some(({ target }) => target === name));
  const keepsRows = ({ name, plan }: PlanPiece) =>
    !beyond.has(name) || (reopens && (isTarget(name) || !comesBack(plan)));
  const all = pieces.map((piece) => {
    if (keepsRows(piece)) return piece;
    const own: FinishedTables = new Map();
    const answerOf = (query: Query, options: PrepareOptions): Finished => {
      const name = `${piece.name}/groups${own.size || ""}`;
      const answer = answerNow(compiling, query, options);
      if (reopens && !tellsExtent(answer)) throw new KeepsRows();
      const { table, finished } = finish(answer, name);
      own.set(name, { table, piece: piece.name });
      return finished;
    };
    try {
      const plan = finishedPlan(piece.plan, answerOf);
      for (const [name, table] of own) finished.set(name, table);
      return { ...piece, plan };
    } catch (fault) {
      // What is too much to work out is said where the piece is drawn.
      if (!(fault instanceof TooLarge || fault instanceof KeepsRows)) throw fault;
      return piece;
    }
  });
  return { pieces: all, finished };
}

/** The groups of a piece do not tell all that its sheet would make of its rows. */
class KeepsRows extends Error {}

/** True where the first and the last of equal bins have groups, by which the same bins are found again. */
function tellsExtent({ prepared: { query, keys, edges } }: Answer): boolean {
  return [...edges].every(([name, { starts }]) => {
    const column = keys.get(name);
    if (query.channels[name]?.interval?.type !== "bin" || !column || column.kind === "text") return true;
    const [first, last] = [starts[0] as number, starts[starts.length - 1] as number];
    return column.values.includes(first) && column.values.includes(last);
  });
}

/** The answer to a question with nothing selected and settings as they begin. */
export function answerNow({ cache, tables, settings }: Compiling, query: Query, options: PrepareOptions) {
  const values = new Map([...settings].map(([name, { start }]) => [name, start]));
  const setting = (name: string) => values.get(name) ?? null;
  const { table } = tables.get(query.from) as { table: Table };
  return cache.answers.answer({ query, options, setting, settings: values }, table);
}

type AnswerOf = (query: Query, options: PrepareOptions) => Finished;

function finishedPlan(plan: PiecePlan, answerOf: AnswerOf): PiecePlan {
  const of = (query: Query, options: PrepareOptions = {}): Query => ({ ...query, finished: answerOf(query, options) });
  if (plan.type === "chart") return finishedChart(plan, of, answerOf);
  if (plan.type === "figure" && plan.spark)
    return { ...plan, query: of(plan.query), spark: of(plan.spark, { fillAlong: "x" }) };
  return { ...plan, query: of(plan.query) } as PiecePlan;
}

function finishedChart(
  plan: ChartPlan,
  of: (query: Query, options: PrepareOptions) => Query,
  answerOf: AnswerOf,
): ChartPlan {
  const layers = plan.layers.map((layer) => ({ ...layer, query: of(layer.query, layerOptions(plan)) }));
  const queries = sortQueries(plan);
  const sort = { ...plan.sort };
  for (const axis of SORTED) {
    const [own, query] = [sort[axis], queries[axis]];
    if (own && "by" in own && query) sort[axis] = { ...own, finished: answerOf(query, {}) };
  }
  return { ...plan, layers, sort };
}

/** True for a piece of groups that shows the same whatever a reader does. */
function isOutOfReach(compiling: Compiling, piece: PlanPiece, selections: readonly SelectionPlan[]): boolean {
  const { name, plan, live, waitsFor } = piece;
  if (live || waitsFor !== undefined || plan.type === "summary") return false;
  if (plan.type === "table" && plan.columns.some(({ list }) => list)) return false;
  if (plan.type === "chart" && (plan.behind || plan.top || everyVariant(plan).length > 1)) return false;
  // What lies under a map are places, which stay what they are.
  const queries = plan.type === "chart" ? plan.layers.map(({ query }) => query) : queriesOf(plan);
  if (queries.length === 0 || queries.some(({ grouped, channels }) => !grouped || hasChoices(channels))) return false;
  const isSelected = selections.some(
    (selection) =>
      selection.source === name ||
      speaksOf(piece, selection.name) ||
      selection.effects.some(({ target, effect }) => target === name && effectSpec(effect).rows !== "none"),
  );
  if (isSelected) return false;
  const sorts = plan.type === "chart" ? Object.values(sortQueries(plan)) : [];
  const follows = [...queries, ...sorts].some(
    (query) =>
      formulasOf(query).some((formula) => settingsOf(formula).size > 0) ||
      ancestry(compiling, query.from).some((table) => compiling.tables.get(table)?.usesSettings),
  );
  return !follows;
}

const hasChoices = (channels: Query["channels"]): boolean =>
  Object.values(channels).some(({ choices }) => choices !== undefined);
