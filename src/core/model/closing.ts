import { sumsUp } from "../chart/domain";
import type { ChartPlan } from "../chart/plan";
import { isSummed } from "../query/summed";

/** True for a chart of which some axis closes on what is left. */
export const closes = ({ axes }: ChartPlan): boolean => axes.x?.range === "left" || axes.y?.range === "left";

/** True for a chart of means and the like: what a gesture leaves may lie beyond axes that stay. */
export const widens = ({ layers }: ChartPlan): boolean =>
  layers.some((layer) => {
    const { grouped, channels } = layer.query;
    const isMean = [channels.x, channels.y].some((channel) => channel?.aggregate && !isSummed(channel));
    return grouped ? isMean : sumsUp(layer);
  });
