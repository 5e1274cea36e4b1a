import type { Formula } from "../formula/tree";
import type { Channel, Query } from "../query/query";
import type { PiecePlan } from "./plan";

/** Formulas that a part of the tree holds, for those who count columns. */
export function formulasOf(query: Query): Formula[] {
  return [
    ...(query.keep ? [query.keep] : []),
    ...Object.values(query.channels).flatMap((channel) => [channel.formula, ...intervalFormulas(channel)]),
  ];
}

function intervalFormulas(channel: Channel): Formula[] {
  return channel.interval ? [channel.interval.of] : [];
}

/** Formulas of a piece, wherever they stand. */
export function pieceFormulas(plan: PiecePlan): Formula[] {
  const queries = plan.type === "chart" ? plan.layers.map((layer) => layer.query) : [plan.query];
  return queries.flatMap(formulasOf);
}
