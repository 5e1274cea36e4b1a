import { queriesOf } from "../chart/piece-formulas";
import { sortQueries } from "../chart/questions";
import { everyVariant } from "../chart/resolve";
import { type Formula, settingsOf } from "../formula/tree";
import { effectSpec } from "../link/effects/index";
import type { SelectionPlan } from "../link/selection";
import type { PlanPiece } from "../plan/plan";
import { speaksOf } from "../plan/speaks";
import { formulasOf, type Query } from "../query/query";
import { type Compiling, followsSettings } from "./compiling";

/** Pieces of groups that nothing in the dashboard reaches: no pick, no setting. */
export const outOfReach = (
  compiling: Compiling,
  pieces: readonly PlanPiece[],
  selections: readonly SelectionPlan[],
): Set<string> => new Set(pieces.filter((piece) => isOutOfReach(compiling, piece, selections)).map(({ name }) => name));

/** True for a piece of groups that shows the same whatever a reader does. */
function isOutOfReach(compiling: Compiling, piece: PlanPiece, selections: readonly SelectionPlan[]): boolean {
  const { plan, live, waitsFor } = piece;
  if (waitsFor !== undefined || plan.type === "summary") return false;
  if (plan.type === "table" && plan.columns.some(({ list }) => list)) return false;
  if (plan.type === "chart" && (plan.behind || everyVariant(plan).length > 1)) return false;
  // What lies under a map are places, which stay what they are.
  const queries = plan.type === "chart" ? plan.layers.map(({ query }) => query) : queriesOf(plan);
  if (queries.length === 0 || queries.some(({ grouped, channels }) => !grouped || hasChoices(channels))) return false;
  if (selections.some((selection) => reaches(selection, piece))) return false;
  const sorts = plan.type === "chart" ? Object.values(sortQueries(plan)) : [];
  const inWords = live && Object.keys(live.query.channels).length > 0 ? [live.query] : [];
  const top = plan.type === "chart" && plan.top ? [plan.top.count] : [];
  const follows = (formula: Formula) => settingsOf(formula).size > 0;
  return !(
    top.some(follows) ||
    [...queries, ...sorts, ...inWords].some(
      (query) => formulasOf(query).some(follows) || followsSettings(compiling, query.from),
    )
  );
}

const reaches = (selection: SelectionPlan, piece: PlanPiece): boolean =>
  selection.source === piece.name ||
  speaksOf(piece, selection.name) ||
  selection.effects.some(({ target, effect }) => target === piece.name && effectSpec(effect).rows !== "none");

const hasChoices = (channels: Query["channels"]): boolean =>
  Object.values(channels).some(({ choices }) => choices !== undefined);
