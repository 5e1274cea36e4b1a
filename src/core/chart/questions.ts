import type { PrepareOptions } from "../query/prepare";
import type { Query } from "../query/query";
import { leadingLayer } from "./leading";
import type { ChartPlan } from "./plan";

export const SORTED = ["x", "y", "color"] as const;
export type SortedName = (typeof SORTED)[number];

/** How the questions of a chart's layers are made ready: what its axes show, and along which empty stretches stand. */
export function layerOptions({ axes, along }: ChartPlan): PrepareOptions {
  return {
    categoryAxes: new Set((["x", "y"] as const).filter((axis) => axes[axis]?.scale === "category")),
    fillAlong: along,
  };
}

/** The questions by which categories of a chart are put in order. */
export function sortQueries(plan: ChartPlan): Partial<Record<SortedName, Query>> {
  const { from, sort } = plan;
  const { channels, keep } = leadingLayer(plan).query;
  const queries: Partial<Record<SortedName, Query>> = {};
  for (const axis of SORTED) {
    const own = sort[axis];
    const channel = channels[axis];
    if (!own || !("by" in own) || !channel) continue;
    queries[axis] = {
      from,
      channels: { key: channel, by: own.by },
      groupBy: ["key"],
      grouped: true,
      ...(keep ? { keep } : {}),
      ...(own.finished ? { finished: own.finished } : {}),
    };
  }
  return queries;
}
