import { constantValue } from "../formula/constant";
import type { Formula } from "../formula/tree";
import type { AxisName } from "../mark/mark";
import type { Answer } from "../query/answer";
import { type Category, categoriesOf, nameAt } from "../query/categories";
import type { Channel, Query } from "../query/query";
import { LayerValues } from "../query/values";
import type { SettingValues } from "../steps/step";
import { leadingLayer } from "./leading";
import type { ChartPlan, TopPlan } from "./plan";

/** The categories of a chart's axis that come first by its sort, among rows that are left; ties by their order. */
function firstCategories(
  channel: Channel,
  count: number,
  sorted: { answer: Answer; all: Answer; descending: boolean } | undefined,
  own: Answer,
  name: string,
): Category[] {
  const column = own.prepared.keys.get(sorted ? "key" : name);
  if (!column) return [];
  const present = new Set<string | null>();
  own.counts.forEach((rows, group) => {
    if (rows > 0) present.add(nameAt(column, group));
  });
  const all = categoriesOf(column, channel.order).filter((category) => present.has(category.name));
  if (!sorted) return all.slice(0, count);
  const values = new LayerValues(sorted.answer, sorted.all).numbers("by");
  const byName = new Map<string | null, number>();
  for (let group = 0; group < sorted.answer.prepared.groupCount; group++)
    byName.set(nameAt(column, group), values?.[group] ?? Number.NaN);
  const rank = ({ name: key }: Category) => {
    const value = byName.get(key) ?? Number.NaN;
    return Number.isNaN(value) ? Number.POSITIVE_INFINITY : sorted.descending ? -value : value;
  };
  return [...all].sort((a, b) => rank(a) - rank(b)).slice(0, count);
}

/** Answers to what an axis is sorted by, or to the first layer where it is sorted by nothing. */
interface Sorted {
  answer: Answer;
  all: Answer;
}

/** The categories that come first now, as many as the chart asks for under its settings. */
export function firstNow(
  plan: ChartPlan,
  { axis, count }: TopPlan,
  setting: SettingValues,
  { answer, all }: Sorted,
): Category[] {
  const own = plan.sort[axis];
  const sorted = own && "by" in own ? { answer, all, descending: own.descending } : undefined;
  const most = Math.max(0, Number(constantValue(count, setting) ?? 0));
  return firstCategories(leadingLayer(plan).query.channels[axis] as Channel, most, sorted, answer, axis);
}

function literal(category: Category): Formula {
  const { value } = category;
  if (typeof value === "number") return { type: "number", value };
  if (typeof value === "boolean") return { type: "boolean", value };
  return { type: "text", value: String(value) };
}

/** True for rows whose value is one of some categories. */
function isAmong({ formula, kind }: Channel, categories: readonly Category[]): Formula {
  const isMoment = kind === "date" || kind === "datetime";
  const items = categories
    .filter(({ name }) => name !== null)
    .map((one): Formula => (isMoment ? { type: "call", name: kind, arguments: [literal(one)] } : literal(one)));
  const among: Formula = { type: "in", value: formula, list: { type: "list", items } };
  if (!categories.some(({ name }) => name === null)) return among;
  return {
    type: "binary",
    operator: "or",
    left: among,
    right: { type: "call", name: "missing", arguments: [formula] },
  };
}

function narrowed(query: Query, axis: AxisName, top: TopPlan, first: readonly Category[]): Query {
  const channel = query.channels[axis];
  if (!channel) return query;
  const among = isAmong(channel, first);
  if (top.rest === undefined)
    return { ...query, keep: query.keep ? { type: "binary", operator: "and", left: query.keep, right: among } : among };
  const other: Formula = { type: "text", value: top.rest };
  // What is missing is none of the first ones either.
  const known: Formula = { type: "call", name: "coalesce", arguments: [among, { type: "boolean", value: false }] };
  const formula: Formula = { type: "call", name: "if", arguments: [known, channel.formula, other] };
  const order = [...first.map(({ name }) => name ?? ""), top.rest];
  return { ...query, channels: { ...query.channels, [axis]: { ...channel, formula, order, rest: top.rest } } };
}

/** A chart of the first categories alone, or with all others as one last place. */
export function withTop(plan: ChartPlan, axis: AxisName, top: TopPlan, first: readonly Category[]): ChartPlan {
  return {
    ...plan,
    layers: plan.layers.map((layer) => ({ ...layer, query: narrowed(layer.query, axis, top, first) })),
    // The places stand in the order that chose them.
    sort: { ...plan.sort, [axis]: { list: [...first.map(({ name }) => name ?? ""), ...(top.rest ? [top.rest] : [])] } },
  };
}
