import type { ChartPlan, LayerPlan, LegendPlan, StackingName } from "../chart/plan";
import type { AxisName } from "../mark/mark";
import { type MarkName, markSpec } from "../mark/specs";
import type { ChartSpec, LayerSpec } from "../sheet/schema";
import type { Path } from "../sheet/tree";
import { alongOf, planAxis } from "./axis";
import { readSorts } from "./category-sort";
import { CHANNEL_KEYS, readLayer } from "./layer";
import type { Place } from "./piece-place";
import { checkSeveralRows } from "./several-rows";
import { warnEmptyStretches } from "./stretches";

/** Keys that only charts with axes, colours and layers have. */
export const CHART_KEYS = [...CHANNEL_KEYS, "axes", "sort", "colors", "stacking", "legend", "layers"] as const;

const PLACES = ["x", "y"] as const;

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
  const along = alongOf(layers);
  for (const { query } of layers)
    warnEmptyStretches(place.compiling, [...path, along], query, along, built.table, place.name);
  const axes = readAxes(place, spec, layers, along);
  if (!axes) return undefined;
  for (const layer of layers) if (markSpec(layer.draw).oneRowEach) checkSeveralRows(place, layer, along);
  const sort = readSorts(place, spec, layers);
  if (!sort) return undefined;
  return {
    type: "chart",
    from: built.name,
    layers,
    layered: spec.layers !== undefined,
    axes,
    along,
    sort,
    stacking: spec.stacking ?? naturalStacking(layers, along),
    legend: legendOf(spec),
    ...(spec.colors === undefined ? {} : { colors: spec.colors }),
  };
}

function readAxes(
  place: Place,
  spec: ChartSpec,
  layers: readonly LayerPlan[],
  along: AxisName,
): ChartPlan["axes"] | undefined {
  const axes: ChartPlan["axes"] = {};
  for (const axis of PLACES) {
    const channel = layers.map((layer) => layer.query.channels[axis]).find((found) => found !== undefined);
    if (!channel) continue;
    const plan = planAxis(place, axis, channel, layers, along, spec.axes?.[axis]);
    if (!plan) return undefined;
    // Parts of a whole have no unit any more.
    if (spec.stacking === "percent" && axis !== along) {
      plan.format ??= ".0%";
      plan.whole = false;
      delete plan.unit;
    }
    axes[axis] = plan;
  }
  return axes;
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
