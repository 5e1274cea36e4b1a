import type { PiecePlan } from "../chart/plan";

/** The tables from which a piece is drawn: its own, and those of its layers. */
export const tablesDrawn = (plan: PiecePlan): string[] =>
  plan.type === "chart" ? [...new Set([plan.from, ...plan.layers.map(({ query }) => query.from)])] : [plan.from];
