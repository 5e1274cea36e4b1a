import { CHANNEL_NAMES, CHANNELS, type ChannelName } from "../mark/channels";
import { MARK_NAMES, MARK_OPTIONS, type MarkName, markSpec } from "../mark/specs";
import type { ChartSpec } from "./schema-charts";

/** Channels that a sheet may write as keys. */
export const CHANNEL_KEYS = CHANNEL_NAMES.filter((name) => !("made" in CHANNELS[name])) as Exclude<
  ChannelName,
  "panel" | "across" | "down"
>[];

/** Keys that only charts with axes, colours and layers have. */
export const CHART_KEYS = [
  ...CHANNEL_KEYS,
  ...(Object.keys(MARK_OPTIONS) as (keyof ChartSpec)[]),
  "axes",
  "sort",
  "colors",
  "middle",
  "stacking",
  "legend",
  "layers",
  "panels",
  "map",
  "top",
  "margin",
  "zoom",
  "carry",
] as const;

/** Keys that only data tables have. */
export const TABLE_KEYS = ["identity", "columns", "page", "take", "cells", "totals"] as const;

/** Keys that only figures have. */
export const FIGURE_KEYS = ["value", "against", "by", "spark", "format"] as const;

/** Keys that only summaries have, beside those of data tables. */
export const SUMMARY_KEYS = ["columns"] as const;

const OTHER_KEYS: Readonly<Record<string, readonly string[]>> = {
  figure: FIGURE_KEYS,
  table: TABLE_KEYS,
  summary: SUMMARY_KEYS,
};

/** Keys of pieces that say nothing to what is drawn; none while that is not said. */
export function uselessKeys(draw: string | undefined): readonly string[] {
  const all = new Set<string>([...CHART_KEYS, ...Object.values(OTHER_KEYS).flat()]);
  if (draw !== undefined && Object.hasOwn(OTHER_KEYS, draw)) {
    const own = OTHER_KEYS[draw] as readonly string[];
    return [...all].filter((key) => !own.includes(key));
  }
  if (draw === undefined || !MARK_NAMES.includes(draw as MarkName)) return [];
  const { takes, options = {}, stacking, stage } = markSpec(draw as MarkName);
  const own = new Set<string>([...CHART_KEYS, "value"]);
  for (const key of CHANNEL_KEYS) if (!takes.includes(key)) own.delete(key);
  for (const key of Object.keys(MARK_OPTIONS)) if (!(key in options)) own.delete(key);
  if (!takes.includes("value")) own.delete("value");
  own.add("identity");
  if (!stacking) own.delete("stacking");
  if (stage !== "map" && !takes.includes("lon")) own.delete("map");
  return [...all].filter((key) => !own.has(key));
}
