import { ownOf } from "../finding/own";
import type { Channel } from "../query/query";
import type { ColorScale } from "./inputs";
import type { ChartPlan } from "./plan";

/**
 * Under what name the colours of a chart stand in the plan: charts with colours of their own do not share the
 * common ones.
 */
export function colorKeyOf(channel: Channel, plan: ChartPlan): string {
  const { colors, middle } = plan;
  if (colors === undefined && middle === undefined) return channel.text;
  return `${channel.text} ${JSON.stringify(colors)}${middle === undefined ? "" : ` ${middle}`}`;
}

/** The name of colours that one piece alone has of a formula: those of the first chart with it are others. */
export const ownColorKey = (key: string, piece: string): string => `${key} in ${piece}`;

/** The colours of a channel of a chart. */
export function colorsOf(
  colors: Readonly<Record<string, ColorScale>>,
  channel: Channel,
  plan: ChartPlan,
  piece: string,
): ColorScale | undefined {
  const key = colorKeyOf(channel, plan);
  return ownOf(colors, ownColorKey(key, piece)) ?? ownOf(colors, key);
}
