import type { FigurePlan } from "../chart/plan";
import type { Channel, Query } from "../query/query";
import type { ChartSpec } from "../sheet/schema-charts";
import { readChannel } from "./channels";
import { checkFormat, keepFormula, type Place, refuseBare, wrongAt } from "./piece-place";

const NUMBERS = ["value", "against"] as const;

export function readFigure(place: Place, spec: ChartSpec): FigurePlan | undefined {
  const { compiling, name, path, built } = place;
  if (spec.value === undefined)
    return wrongAt(place, path, "key-missing", "a figure needs value:, such as sum(tonnes)");
  const channels: Record<string, Channel> = {};
  for (const key of NUMBERS) {
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
  const { value } = channels as { value: Channel };
  if (!checkFormat(place, [...path, "format"], value.kind, spec.format)) return undefined;
  if (spec.format !== undefined)
    for (const [key, channel] of Object.entries(channels)) channels[key] = { ...channel, format: spec.format };
  const { sound, keep } = keepFormula(place, [...path, "keep"], spec.keep);
  if (!sound) return undefined;
  const by = readKey(place, spec, "by");
  const along = readKey(place, spec, "spark");
  if (by === null || along === null) return undefined;
  const kept = keep ? { keep } : {};
  const repeated: Record<string, Channel> = by ? { by } : {};
  const query: Query = {
    from: built.name,
    channels: { ...channels, ...repeated },
    groupBy: Object.keys(repeated),
    grouped: true,
    ...kept,
  };
  const { formula } = value;
  const summed = formula.type === "call" && (formula.name === "sum" || formula.name === "count");
  const spark: Query | undefined = along && {
    from: built.name,
    channels: { x: along, value: channels.value as Channel, ...repeated },
    groupBy: ["x", ...Object.keys(repeated)],
    grouped: true,
    ...kept,
  };
  return {
    type: "figure",
    from: built.name,
    query,
    compare: summed ? "percent" : "difference",
    ...(spark ? { spark } : {}),
  };
}

/** The channel by which figures are repeated, or along which a small line runs; `null` where it cannot be. */
function readKey(place: Place, spec: ChartSpec, key: "by" | "spark"): Channel | null | undefined {
  const text = spec[key];
  if (text === undefined) return undefined;
  const { compiling, name, path, built } = place;
  const read = readChannel(
    { compiling, path: [...path, key], tableName: built.name, table: built.table, piece: name },
    text,
  );
  if (!read) return null;
  if (!read.channel.aggregate) return read.channel;
  wrongAt(place, [...path, key], "aggregate-here", `${key}: takes a column, not ${read.channel.text}`);
  return null;
}
