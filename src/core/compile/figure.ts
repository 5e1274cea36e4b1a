import type { FigurePlan } from "../chart/plan";
import type { Channel, Query } from "../query/query";
import type { ChartSpec } from "../sheet/schema";
import { readChannel } from "./channels";
import { keepFormula, type Place, refuseBare, wrongAt } from "./piece-place";

/** Keys that only figures have. */
export const FIGURE_KEYS = ["value", "against"] as const;

export function readFigure(place: Place, spec: ChartSpec): FigurePlan | undefined {
  const { compiling, name, path, built } = place;
  if (spec.value === undefined)
    return wrongAt(place, path, "key-missing", "a figure needs value:, such as sum(tonnes)");
  const channels: Record<string, Channel> = {};
  for (const key of FIGURE_KEYS) {
    const text = spec[key];
    if (text === undefined) continue;
    const read = readChannel(
      { compiling, path: [...path, key], tableName: built.name, table: built.table, piece: name },
      text,
    );
    if (!read) return undefined;
    if (!read.channel.aggregate && !read.checked.constant)
      return wrongAt(
        place,
        [...path, key],
        "bare-column",
        `a figure is one number; ${read.channel.text} has one a row. Take sum(), mean(), count() or another aggregate`,
      );
    if (refuseBare(place, [...path, key], read.channel, new Set())) return undefined;
    channels[key] = { ...read.channel, aggregate: true };
  }
  const { sound, keep } = keepFormula(place, [...path, "keep"], spec.keep);
  if (!sound) return undefined;
  const query: Query = { from: built.name, channels, groupBy: [], grouped: true, ...(keep ? { keep } : {}) };
  const value = (channels.value as Channel).formula;
  const summed = value.type === "call" && (value.name === "sum" || value.name === "count");
  return { type: "figure", from: built.name, query, compare: summed ? "percent" : "difference" };
}
