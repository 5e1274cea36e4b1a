import type { Answer } from "../query/answer";
import { type Category, categoriesOf, nameAt } from "../query/categories";
import type { Prepared } from "../query/prepare";
import type { Channel } from "../query/query";
import { LayerValues } from "../query/values";
import { type Column, gather } from "../table/column";
import type { ChartInput } from "./inputs";

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
    categories = column ? categoriesOf(kept(prepared, column), prepared.query.channels[channel]?.order) : [];
    cached.set(channel, categories);
  }
  return categories;
}

/** A channel of the groups, or of the rows that the chart keeps. */
function kept({ query, groups }: Prepared, column: Column): Column {
  if (query.grouped || groups.every((group) => group >= 0)) return column;
  return gather(
    column,
    groups.filter((group) => group >= 0),
  );
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

/** The channel whose values stand on an axis, in the legend, or part the chart into small ones. */
export const channelOn = ({ layers }: ChartInput, name: string): Channel | undefined =>
  layers.map(({ all }) => all.prepared.query.channels[name]).find((channel) => channel !== undefined);

/** Groups that the legend leaves on. */
export function leftByLegend(input: ChartInput, answer: Answer, ids: Int32Array): Int32Array {
  const colors = answer.prepared.keys.get("color");
  if (input.off.size === 0 || input.plan.legend.press !== "remove" || !colors) return ids;
  return ids.filter((id) => !input.off.has(nameAt(colors, id)));
}
