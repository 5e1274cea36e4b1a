import { stackEnds } from "../mark/stack";
import type { Answer } from "../query/answer";
import { type Category, categoriesOf, MISSING_NAME, nameAt } from "../query/categories";
import { drawnIds } from "../query/drawn";
import type { Prepared } from "../query/prepare";
import { LayerValues } from "../query/values";
import type { ChartInput, LayerInput } from "./inputs";
import type { AxisPlan } from "./plan";

/**
 * The categories of an axis or legend, in the order in which they stand: those of all rows, and
 * what only a table made of the rows left holds. Of a table cut below a selection those drawn alone.
 */
export function axisCategories(input: ChartInput, channel: "x" | "y" | "color"): Category[] {
  const found = new Map<string | null, Category>();
  for (const layer of input.layers) {
    const drawn = layer.base ? [layer.base.answer, layer.current] : [layer.current];
    const answers = input.cut ? drawn : [layer.all, ...drawn];
    for (const prepared of new Set(answers.map((answer) => answer.prepared)))
      for (const category of cachedCategories(prepared, channel))
        if (!found.has(category.name)) found.set(category.name, category);
  }
  const categories = [...found.values()];
  return sortCategories(input, channel, categories);
}

const categoryCache = new WeakMap<object, Map<string, Category[]>>();

function cachedCategories(prepared: Prepared, channel: string): Category[] {
  const cached = categoryCache.get(prepared) ?? new Map<string, Category[]>();
  categoryCache.set(prepared, cached);
  let categories = cached.get(channel);
  if (!categories) {
    const column = prepared.keys.get(channel);
    categories = column ? categoriesOf(column, prepared.query.channels[channel]?.order) : [];
    cached.set(channel, categories);
  }
  return categories;
}

function sortCategories(input: ChartInput, channel: "x" | "y" | "color", categories: Category[]): Category[] {
  const sort = input.plan.sort[channel];
  const missingLast = (a: Category, b: Category) => Number(a.name === null) - Number(b.name === null);
  if (sort && "list" in sort) {
    const places = new Map(sort.list.map((name, place) => [name, place]));
    const place = ({ name }: Category) => places.get(name ?? "") ?? sort.list.length;
    return [...categories].sort((a, b) => missingLast(a, b) || place(a) - place(b));
  }
  const ready = input.sorts[channel];
  if (!sort || !ready) return [...categories].sort(missingLast);
  const axis = channel === "color" ? undefined : input.plan.axes[channel];
  const answer = axis?.range === "all" ? ready.all : axis?.range === "left" ? ready.left : ready.controls;
  const values = new LayerValues(answer, ready.all).get("by");
  const keys = answer.prepared.keys.get("key");
  if (!values || !keys || values.kind === "text") return categories;
  const byName = new Map<string | null, number>();
  for (let group = 0; group < answer.prepared.groupCount; group++)
    byName.set(nameAt(keys, group), values.values[group] as number);
  const direction = sort.descending ? -1 : 1;
  return [...categories].sort((a, b) => {
    const [left, right] = [byName.get(a.name) ?? Number.NaN, byName.get(b.name) ?? Number.NaN];
    if (left !== left || right !== right) return Number(left !== left) - Number(right !== right) || missingLast(a, b);
    return missingLast(a, b) || (left - right) * direction;
  });
}

export const labelOf = (category: Category): string => category.name ?? MISSING_NAME;

/** Extent of raw values under an answer, remembered as long as the answer. */
const extents = new WeakMap<Answer, Map<string, [number, number]>>();

function rawExtent(layer: LayerInput, answer: Answer, channel: string, positive: boolean): [number, number] {
  const cached = extents.get(answer) ?? new Map<string, [number, number]>();
  extents.set(answer, cached);
  const key = `${channel}${positive}`;
  const known = cached.get(key);
  if (known) return known;
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const values = new LayerValues(answer, layer.all).numbers(channel);
  if (values) {
    for (let id = 0; id < values.length; id++) {
      if ((answer.counts[id] as number) === 0) continue;
      const value = values[id] as number;
      if (positive && value <= 0) continue;
      if (value < low) low = value;
      if (value > high) high = value;
    }
  }
  cached.set(key, [low, high]);
  return [low, high];
}

/** Groups that the legend leaves on. */
export function leftByLegend(input: ChartInput, answer: Answer, ids: Int32Array): Int32Array {
  const colors = answer.prepared.keys.get("color");
  if (input.off.size === 0 || input.plan.legend.press !== "remove" || !colors) return ids;
  return ids.filter((id) => !input.off.has(nameAt(colors, id)));
}

function answerFor(axis: AxisPlan, layer: LayerInput): Answer {
  return axis.range === "all" ? layer.all : axis.range === "left" ? layer.left : layer.controls;
}

/** Both ends of the values on a continuous axis. */
export function axisDomain(input: ChartInput, name: "x" | "y", axis: AxisPlan): [number, number] {
  if (Array.isArray(axis.range)) return axis.range;
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const take = (value: number) => {
    if (!Number.isFinite(value) || (axis.scale === "log" && value <= 0)) return;
    if (value < low) low = value;
    if (value > high) high = value;
  };
  for (const layer of input.layers) {
    const channel = layer.all.prepared.query.channels[name];
    if (!channel) continue;
    const edges = layer.all.prepared.edges.get(name);
    if (edges) {
      take(edges.starts[0] as number);
      take(edges.end);
      continue;
    }
    const answer = answerFor(axis, layer);
    if (layer.plan.draw === "bars" && name !== input.plan.along) {
      const values = new LayerValues(answer, layer.all);
      let ids = drawnIds(answer, input.plan.along);
      if (input.plan.legend.refit) ids = leftByLegend(input, answer, ids);
      const ends = stackEnds(input, values, ids);
      for (let i = 0; i < ids.length; i++) {
        if (ends.from[i] === ends.from[i]) take(ends.from[i] as number);
        if (ends.to[i] === ends.to[i]) take(ends.to[i] as number);
      }
    } else if (!layer.all.prepared.query.grouped && !(input.plan.legend.refit && input.off.size)) {
      const [from, to] = rawExtent(layer, answer, name, axis.scale === "log");
      take(from);
      take(to);
    } else {
      const values = new LayerValues(answer, layer.all).numbers(name);
      let ids = drawnIds(answer, input.plan.along);
      if (input.plan.legend.refit) ids = leftByLegend(input, answer, ids);
      if (values) for (const id of ids) if (values[id] === values[id]) take(values[id] as number);
    }
  }
  if (axis.fromZero && axis.scale !== "log") {
    take(0);
  }
  return low <= high ? [low, high] : axis.scale === "time" ? [0, 86400] : [0, 1];
}
