import { leadingOf } from "../chart/leading";
import type {
  ChartPlan,
  LayerPlan,
  LegendPlan,
  MapPlan,
  PanelsPlan,
  StackingName,
  TopPlan,
  ZoomWay,
} from "../chart/plan";
import type { AxisName } from "../mark/mark";
import { type MarkName, markSpec } from "../mark/specs";
import type { Channel, Query } from "../query/query";
import type { ChartSpec, LayerSpec } from "../sheet/schema-charts";
import type { Path } from "../sheet/tree";
import { readAxes } from "./axes";
import { alongOf } from "./axis";
import { readSorts } from "./category-sort";
import { channelOf, nounOf, readChannel } from "./channels";
import { checkColors } from "./color-check";
import type { BuiltTable, Compiling } from "./compiling";
import { optionFormula, readLayer } from "./layer";
import { warnAslant, warnNoEffect } from "./no-effect";
import { type Place, tableOf, wrongAt } from "./piece-place";
import { checkSeveralRows } from "./several-rows";
import { asList } from "./step-place";
import { warnEmptyStretches } from "./stretches";
import { unknownTable } from "./unknown-table";
import { boundsOf, worldTable } from "./world";

/** A place that is the same for all rows has the words of what the other layers measure there. */
function nameConstants(layers: readonly LayerPlan[]) {
  for (const { query } of layers)
    for (const [name, channel] of Object.entries(query.channels)) {
      if (!channel.constant) continue;
      const axis = name.replace("_to", "");
      const other = layers
        .map((layer) => layer.query.channels[axis])
        .find((one) => one && !one.constant && (one.kind === "text") === (channel.kind === "text"));
      if (!other) continue;
      const { label, unit, format } = other;
      Object.assign(channel, {
        label,
        ...(unit === undefined ? {} : { unit }),
        ...(format === undefined ? {} : { format }),
      });
    }
}

export function readChart(place: Place, spec: ChartSpec): ChartPlan | undefined {
  const { path, built } = place;
  const layerSpecs: { spec: LayerSpec; path: Path }[] = spec.layers
    ? spec.layers.map((layer, at) => ({ spec: layer, path: [...path, "layers", at] }))
    : [{ spec: { draw: spec.draw as MarkName }, path }];
  const layers: LayerPlan[] = [];
  for (const [at, layer] of layerSpecs.entries()) {
    const plan = readLayer(place, spec, layer.spec, layer.path, at);
    if (!plan) return undefined;
    layers.push(plan);
  }
  nameConstants(layers);
  const stage = stageOf(place, layers);
  if (!stage) return undefined;
  const along = alongOf(layers);
  for (const layer of layers)
    warnEmptyStretches(place.compiling, [...path, along], layer.query, along, tableOf(place, layer), place.name);
  const axes = stage === "plane" ? readAxes(place, spec, layers, along) : {};
  const map = readMap(place, spec, stage, layers);
  if (!axes || map === null) return undefined;
  const stacking = spec.stacking ?? naturalStacking(layers, along);
  for (const [at, layer] of layers.entries())
    if (markSpec(layer.draw).oneRowEach)
      checkSeveralRows(place, layer, layerSpecs[at]?.path ?? path, along, stacking !== "off");
  if (!checkColors(place, spec, layers)) return undefined;
  warnNoEffect(place, spec, layers);
  warnAslant(place, spec, layers);
  const leading = leadingOf(layers, built.name);
  const sort = readSorts(place, spec, layers[leading] as LayerPlan);
  if (!sort) return undefined;
  const panels = panelsOf(spec);
  const top = readTop(place, spec, layers[leading] as LayerPlan);
  if (top === null) return undefined;
  const zoom = readZoom(place, spec, stage, axes);
  const behind = readBehind(place, spec, layers);
  if (!zoom || behind === null) return undefined;
  return {
    type: "chart",
    stage,
    from: built.name,
    layers,
    ...(leading ? { leading } : {}),
    layered: spec.layers !== undefined,
    axes,
    along,
    ...(layers.some(({ draw }) => markSpec(draw).fills) ? { overBars: true as const } : {}),
    sort,
    stacking,
    legend: legendOf(spec),
    zoom,
    ...(behind ? { behind } : {}),
    ...(map ? { map } : {}),
    ...(panels ? { panels } : {}),
    ...(top ? { top } : {}),
    ...(spec.margin ? { margin: marginOf(spec.margin) } : {}),
    ...(spec.colors === undefined ? {} : { colors: spec.colors }),
    ...(spec.middle === undefined ? {} : { middle: spec.middle }),
  };
}

/** What looks closer by itself; nothing where the sheet asks for what cannot be. */
function readZoom(
  place: Place,
  { zoom }: ChartSpec,
  stage: ChartPlan["stage"],
  { x, y }: ChartPlan["axes"],
): ZoomWay[] | undefined {
  const ways = zoom === "none" ? [] : (zoom ?? (stage === "map" ? (["wheel", "pan"] as const) : []));
  const canZoom = stage === "map" || [x, y].some((axis) => axis && axis.scale !== "category");
  if (ways.length && !canZoom)
    return wrongAt(
      place,
      [...place.path, "zoom"],
      "wrong-key",
      "there is no axis of numbers or times to look closer at",
    );
  return [...ways];
}

/** The rows behind the marks of the first layer that carries columns; `null` where one is found wrong. */
function readBehind(place: Place, spec: ChartSpec, layers: readonly LayerPlan[]): Query | null | undefined {
  const at = spec.layers?.findIndex(({ carry }) => carry !== undefined) ?? -1;
  const carried = (at >= 0 ? spec.layers?.[at]?.carry : undefined) ?? spec.carry;
  const layer = layers[Math.max(0, at)] as LayerPlan;
  const built = place.compiling.tables.get(layer.query.from);
  if (!carried || !built) return undefined;
  const { channels, keep, from } = layer.query;
  const columns: Record<string, Channel> = Object.fromEntries(
    Object.entries(channels).filter(([, channel]) => !channel.aggregate),
  );
  const path = at >= 0 ? [...place.path, "layers", at, "carry"] : [...place.path, "carry"];
  for (const [nth, text] of carried.entries()) {
    const where = { compiling: place.compiling, tableName: from, table: built.table, piece: place.name };
    const read = readChannel({ ...where, path: [...path, nth] }, text, { named: true });
    if (!read) return null;
    if (read.channel.aggregate) {
      wrongAt(
        place,
        [...path, nth],
        "aggregate-here",
        `${read.channel.text} has no value for a row: carry takes columns`,
      );
      return null;
    }
    columns[`carry${nth}`] = read.channel;
  }
  return { from, channels: columns, groupBy: [], grouped: false, ...(keep ? { keep } : {}) };
}

/** Where the marks of a chart stand; all of its layers must agree. */
function stageOf(place: Place, layers: readonly LayerPlan[]): ChartPlan["stage"] | undefined {
  const stages = layers.map(({ draw, query }): ChartPlan["stage"] => {
    const { stage } = markSpec(draw);
    return stage ?? ("lon" in query.channels ? "map" : "plane");
  });
  const [first] = stages;
  const other = stages.findIndex((stage) => stage !== first);
  if (other < 0) return first;
  return wrongAt(
    place,
    [...place.path, "layers", other],
    "stages-differ",
    `${layers[other]?.draw} cannot stand over ${layers[0]?.draw}: one has axes, the other ` +
      `${first === "map" || stages[other] === "map" ? "a map" : "a place of its own"}`,
  );
}

/** How small charts stand; nothing for a chart without. */
function panelsOf({ panels }: ChartSpec): PanelsPlan | undefined {
  if (panels === undefined) return undefined;
  if (typeof panels === "string") return { share: ["x", "y"] };
  const across = panels.by !== undefined && panels.across !== undefined ? Number(panels.across) : undefined;
  return { share: panels.share ?? ["x", "y"], ...(across ? { across } : {}) };
}

/** How a map looks; `null` where the sheet asks for what cannot be. */
function readMap(
  place: Place,
  { map }: ChartSpec,
  stage: ChartPlan["stage"],
  layers: readonly LayerPlan[],
): MapPlan | null | undefined {
  const path = [...place.path, "map"];
  if (map && stage !== "map") {
    wrongAt(place, path, "wrong-key", "map: goes with lon: and lat:, or with regions");
    return null;
  }
  if (stage !== "map") return undefined;
  const under: MapPlan["under"] = [];
  const names = map?.under ?? [];
  for (const [at, name] of asList(names).entries()) {
    const placeOf = [...path, "under", ...(Array.isArray(names) ? [at] : [])];
    const built = name === "world" ? worldOf(place.compiling, layers) : place.compiling.tables.get(name);
    const column = built && [...built.table.columns].find(([, one]) => one.kind === "text" && one.place)?.[0];
    if (!built) unknownTable(place.compiling, placeOf, name, place.name);
    else if (column === undefined)
      wrongAt(place, placeOf, "wrong-kind", `${name} has no column of places to lie under the map`);
    if (!built || column === undefined) return null;
    place.compiling.used.add(`tables.${built.name}`);
    const checked = { formula: { type: "column", name: column } as const, kind: "place" as const };
    const channel = channelOf(
      { ...checked, aggregate: false, constant: false },
      nounOf(place.compiling, built.name),
      built.table,
    );
    const query = { from: built.name, channels: { place: channel }, groupBy: [], grouped: false };
    under.push({ from: built.name, query });
  }
  return { projection: map?.projection ?? "mercator", scaleBar: map?.scale_bar ?? false, under };
}

/** The world under a map; all of it under regions, whose places are no numbers. */
function worldOf(compiling: Compiling, layers: readonly LayerPlan[]): BuiltTable {
  const queries = layers.map(({ query }) => query);
  const isKnown = queries.every(({ channels }) => "lon" in channels);
  return worldTable(compiling, isKnown ? boundsOf(compiling, queries) : undefined);
}

const marginOf = (margin: NonNullable<ChartSpec["margin"]>): NonNullable<ChartPlan["margin"]> =>
  Object.fromEntries(Object.entries(margin).filter(([, pixels]) => pixels !== undefined));

/** The first categories of an axis; `null` where the sheet asks for what cannot be. */
function readTop(place: Place, { top }: ChartSpec, { query }: LayerPlan): TopPlan | null | undefined {
  if (!top) return undefined;
  const axis: AxisName = top.y === undefined ? "x" : "y";
  const path = [...place.path, "top"];
  const channel = query.channels[axis];
  const text = top[axis];
  if (text === undefined || (top.x !== undefined && top.y !== undefined)) {
    wrongAt(place, path, "key-missing", "top says of one axis how many come first: top: {y: 10}");
    return null;
  }
  if (!channel || channel.aggregate) {
    wrongAt(
      place,
      [...path, axis],
      "wrong-sort",
      channel ? `${axis} holds a measure; the first are those of the other axis` : `there is nothing on ${axis}`,
    );
    return null;
  }
  if (top.rest !== undefined && channel.kind !== "text") {
    wrongAt(
      place,
      [...path, "rest"],
      "wrong-kind",
      `"${top.rest}" cannot stand beside ${channel.text}, which holds ${channel.kind}`,
    );
    return null;
  }
  const count = optionFormula(place, text, "number", [...path, axis]);
  return count ? { axis, count, ...(top.rest === undefined ? {} : { rest: top.rest }) } : null;
}

function legendOf({ legend = {} }: ChartSpec): LegendPlan {
  const press = legend.press ?? "remove";
  return { at: legend.at ?? "top", press, refit: legend.refit ?? press === "remove" };
}

/** How marks of several colours share a place, as the first mark that has a say wants it. */
function naturalStacking(layers: readonly LayerPlan[], along: AxisName): StackingName {
  for (const layer of layers) {
    const stacking = markSpec(layer.draw).stacking?.(layer, along);
    if (stacking) return stacking;
  }
  return "off";
}
