import type { Formula } from "../formula/tree";
import { formulasOf, type Query } from "../query/query";
import type { PiecePlan } from "./plan";
import { everyVariant } from "./resolve";

/** All questions of a piece to tables. */
export function queriesOf(plan: PiecePlan): Query[] {
  if (plan.type === "note" && plan.from === "") return [];
  if (plan.type === "figure") return [plan.query, ...(plan.spark ? [plan.spark] : [])];
  if (plan.type !== "chart") return [plan.query];
  return everyVariant(plan).flatMap(({ layers, map, behind }) => [
    ...layers.map((layer) => layer.query),
    ...(map?.under ?? []).map(({ query }) => query),
    ...(behind ? [behind] : []),
  ]);
}

/** Formulas of a piece, wherever they stand. */
export function pieceFormulas(plan: PiecePlan): Formula[] {
  return queriesOf(plan).flatMap(formulasOf);
}
