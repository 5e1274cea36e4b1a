import type { Channel } from "../query/query";
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
