import type { ChartPlan, DataTablePlan, FigurePlan, PiecePlan } from "../chart/plan";
import { isSummed } from "../mark/bars";
import type { Channel, Query } from "../query/query";

/**
 * True for a piece of groups that a sheet can draw from a table of those groups, so that a file whose sheet goes
 * along may leave the rows behind and be opened again all the same.
 */
export function comesBack(plan: PiecePlan): boolean {
  if (plan.type === "chart") return chartComesBack(plan);
  if (plan.type === "figure") return figureComesBack(plan);
  if (plan.type === "table") return queryComesBack(plan.query) && totalsComeBack(plan);
  return plan.type === "note" && queryComesBack(plan.query);
}

const chartComesBack = ({ layers }: ChartPlan): boolean =>
  layers.every(
    ({ query, says = [] }) =>
      queryComesBack(query) && says.every((part) => typeof part === "string" || "channel" in part),
  );

/** Numbers of groups add up, whatever they are; what did not add up as rows would have to be told apart. */
const totalsComeBack = ({ totals, columns, query }: DataTablePlan): boolean =>
  !totals ||
  columns.every(({ channel, adds }) => {
    const kind = query.channels[channel]?.kind;
    return adds === true || (kind !== "number" && kind !== "duration");
  });

/**
 * A figure has one table, with a small line that of the line's groups. A sum is that of these; anything else stands
 * behind them, where it cannot be said any more that it was a sum, which is compared in percent.
 */
function figureComesBack({ query, spark }: FigurePlan): boolean {
  if (!queryComesBack(query)) return false;
  const { value, against } = query.channels;
  return !spark || (queryComesBack(spark) && !(isSummed(value) && against !== undefined));
}

/** Every channel is a key or a measure, of values that a table of text can hold. */
const queryComesBack = ({ channels, groupBy }: Query): boolean =>
  Object.entries(channels).every(
    ([name, channel]) => (channel.aggregate || groupBy.includes(name)) && isPlain(channel),
  );

const isPlain = ({ kind, several, rest, choices }: Channel): boolean =>
  kind !== "place" && several === undefined && rest === undefined && choices === undefined;
