import { colorsOf } from "../chart/color-key";
import type { ColorScale } from "../chart/inputs";
import type { ChartPlan, LayerPlan } from "../chart/plan";
import { SORTED, type SortedName, sortQueries } from "../chart/questions";
import type { Asked } from "../link/engine";
import type { Model } from "../model/model";
import { type Channel, PANEL_CHANNELS } from "../query/query";
import { CHANNEL_KEYS } from "../sheet/piece-keys";
import type { ChartSpec, LayerSpec } from "../sheet/schema-charts";
import type { Path } from "../sheet/tree";
import { ColumnNames, type GroupTable, type GroupWriter } from "./group-writer";
import { newSource, type Regrouped, type Regrouping, type SheetChange, writerOf, writtenParts } from "./regrouping";

/** A chart drawn from tables of the groups of its layers. */
export function regroupChart(regrouping: Regrouping, plan: ChartPlan, spec: ChartSpec): Regrouped {
  const { piece, model } = regrouping;
  const path = ["charts", piece.name];
  const names = new ColumnNames();
  const asked = model.askedBy(piece.name);
  const writers = plan.layers.map((_, at) => writerOf(regrouping, asked[at], names));
  const changes: SheetChange[] = plan.layers.flatMap((layer, at) => {
    const { color } = layer.query.channels;
    const scale = color && colorsOf(model.plan.colors, color, plan, piece.name);
    return layerChanges(layer, writers[at] as GroupWriter, plan.layered ? [...path, "layers", at] : path, scale);
  });
  // What the chart says for all of its layers is said of the one that it is about.
  const { leading = 0 } = plan;
  changes.push(...sortChanges(plan, writers[leading] as GroupWriter, asked.slice(plan.layers.length), model, path));
  changes.push(...panelChanges(writers, leading, spec, path), ...topChanges(plan, spec, path));
  const tables = writers.map((writer) => writer.table(regrouping.nameTable())) as [GroupTable, ...GroupTable[]];
  if (plan.layered) {
    changes.push(
      ...newSource(path, { name: (tables[leading] as GroupTable).name }),
      ...inheritedChanges(plan, spec, path),
    );
    for (const [at, table] of tables.entries()) changes.push(...newSource([...path, "layers", at], table));
  } else changes.push(...newSource(path, tables[0]));
  return { tables, changes };
}

/** The channels of a layer, each where the layer itself is written. */
function layerChanges(
  { query, tooltip, says }: LayerPlan,
  writer: GroupWriter,
  path: Path,
  scale: ColorScale | undefined,
): SheetChange[] {
  const written = CHANNEL_KEYS.filter((key) => {
    const channel: Channel | undefined = query.channels[key];
    return channel !== undefined && !channel.constant;
  });
  const changes: SheetChange[] = written.map((key) => ({
    path: [...path, key],
    value: key === "color" ? writer.colored(key, scale) : writer.formula(key),
  }));
  if (tooltip) changes.push({ path: [...path, "tooltip"], value: tooltip.map((name) => writer.tip(name)) });
  // A line of the author's own words, with formulas in braces.
  if (says)
    changes.push({ path: [...path, "tooltip"], value: writtenParts(says, (channel) => `{${writer.tip(channel)}}`) });
  return changes;
}

/** What a chart says for layers that say it themselves now; looks that are the same for all marks stay. */
function inheritedChanges({ layers }: ChartPlan, spec: ChartSpec, path: Path): SheetChange[] {
  const own = (spec.layers ?? []) as readonly LayerSpec[];
  const isLook = (key: (typeof CHANNEL_KEYS)[number]) =>
    layers.some(
      ({ looks, query }, at) => own[at]?.[key] === undefined && (key in looks || query.channels[key]?.constant),
    );
  const channels = CHANNEL_KEYS.filter((key) => spec[key] !== undefined && !isLook(key));
  const tooltip = spec.tooltip === undefined || spec.tooltip === "none" ? [] : ["tooltip"];
  return [...channels, ...tooltip].map((key) => ({ path: [...path, key] }));
}

function sortChanges(
  plan: ChartPlan,
  writer: GroupWriter,
  sorts: readonly Asked[],
  model: Model,
  path: Path,
): SheetChange[] {
  return (Object.keys(sortQueries(plan)) as SortedName[]).map((axis, at) => {
    const sort = plan.sort[axis];
    const formula = writer.sortedBy(axis, sorts[at] as Asked, model);
    const isDescending = sort && "by" in sort && sort.descending;
    return { path: [...path, "sort", axis], value: isDescending ? `-${formula}` : formula };
  });
}

/** The categories that came first stand there as those that there are. */
function topChanges({ sort }: ChartPlan, { top }: ChartSpec, path: Path): SheetChange[] {
  if (!top) return [];
  const lists = SORTED.flatMap((axis) => {
    const own = sort[axis];
    return own && "list" in own ? [{ path: [...path, "sort", axis], value: [...own.list] }] : [];
  });
  return [{ path: [...path, "top"] }, ...lists];
}

/** Small charts are told apart by a formula, or by one of several keys; the groups of every layer have its column. */
function panelChanges(
  writers: readonly GroupWriter[],
  leading: number,
  { panels }: ChartSpec,
  path: Path,
): SheetChange[] {
  return PANEL_CHANNELS.flatMap((name) => {
    const formulas = writers.map((writer) => (name in writer.channels ? writer.formula(name) : undefined));
    const key = typeof panels === "string" ? [] : [name === "panel" ? "by" : name];
    const value = formulas[leading];
    return value === undefined ? [] : [{ path: [...path, "panels", ...key], value }];
  });
}
