import type { ChartPlan, PiecePlan } from "../chart/plan";
import { layerOptions, SORTED, sortQueries } from "../chart/questions";
import type { LiveWords } from "../chart/words";
import { TooLarge } from "../finding/limits";
import type { SelectionPlan } from "../link/selection";
import type { PlanPiece } from "../plan/plan";
import { type Finished, finish } from "../query/finished";
import type { PrepareOptions } from "../query/prepare";
import type { Query } from "../query/query";
import { LayerValues } from "../query/values";
import { writeAt } from "../query/write";
import type { Table } from "../table/table";
import { answerNow, withFirst } from "./answer-now";
import type { Compiling } from "./compiling";

/** Tables of groups that are packed in place of rows: what stands in each, and the piece that shows it. */
export type FinishedTables = Map<string, { table: Table; piece: string }>;

/**
 * Answers the questions of pieces that nothing reaches (`beyond`), so that their groups are packed and not their
 * rows. Where the sheet goes along (`reopens`), those that it could not say of these groups keep their rows.
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
  // The values of a note have names; those of other words are written out.
  const keepsRows = ({ name, live, plan }: PlanPiece) =>
    isTarget(name) || (plan.type !== "note" && live !== undefined && hasBraces(compiling, live));
  const all = pieces.map((piece) => {
    if (!beyond.has(piece.name) || (reopens && keepsRows(piece))) return piece;
    const own: FinishedTables = new Map();
    const finishOf: FinishOf = (query, options) => {
      const name = `${piece.name}/groups${own.size || ""}`;
      const { table, finished } = finish(answerNow(compiling, query, options), name);
      own.set(name, { table, piece: piece.name });
      return finished;
    };
    try {
      const settled = finishedPiece(compiling, piece, finishOf);
      for (const [name, table] of own) finished.set(name, table);
      return settled;
    } catch (fault) {
      // What is too much to work out is said where the piece is drawn.
      if (!(fault instanceof TooLarge)) throw fault;
      return piece;
    }
  });
  return { pieces: all, finished };
}

/** True where a value in words holds braces: written into a sheet, they would be read as a formula. */
function hasBraces(compiling: Compiling, { query }: LiveWords): boolean {
  const channels = Object.entries(query.channels);
  if (channels.length === 0) return false;
  const answer = answerNow(compiling, query, {});
  const values = new LayerValues(answer, answer);
  return channels.some(([name, channel]) => {
    const column = values.get(name);
    return column !== undefined && /[{}]/.test(writeAt(channel, column, 0));
  });
}

type FinishOf = (query: Query, options: PrepareOptions) => Finished;
type Finish = (query: Query, options?: PrepareOptions) => Query;

function finishedPiece(compiling: Compiling, piece: PlanPiece, finishOf: FinishOf): PlanPiece {
  const of: Finish = (query, options = {}) =>
    Object.keys(query.channels).length ? { ...query, finished: finishOf(query, options) } : query;
  const plan = finishedPlan(compiling, piece.plan, of, finishOf);
  return { ...piece, plan, ...(piece.live ? { live: { ...piece.live, query: of(piece.live.query) } } : {}) };
}

function finishedPlan(compiling: Compiling, plan: PiecePlan, of: Finish, finishOf: FinishOf): PiecePlan {
  if (plan.type === "chart") return finishedChart(withFirst(compiling, plan), of, finishOf);
  if (plan.type === "figure" && plan.spark)
    return { ...plan, query: of(plan.query), spark: of(plan.spark, { fillAlong: "x" }) };
  return { ...plan, query: of(plan.query) } as PiecePlan;
}

function finishedChart(plan: ChartPlan, of: Finish, finishOf: FinishOf): ChartPlan {
  const layers = plan.layers.map((layer) => ({ ...layer, query: of(layer.query, layerOptions(plan)) }));
  const queries = sortQueries(plan);
  const sort = { ...plan.sort };
  for (const axis of SORTED) {
    const [own, query] = [sort[axis], queries[axis]];
    if (own && "by" in own && query) sort[axis] = { ...own, finished: finishOf(query, {}) };
  }
  return { ...plan, layers, sort };
}
