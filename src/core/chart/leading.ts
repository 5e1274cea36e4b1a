import type { ChartPlan, LayerPlan } from "./plan";

/**
 * The layer that a chart is about: gestures are made on it, its categories are sorted, its rows are counted. A rule or
 * a band that is drawn first, so that it lies below, is not.
 */
export const leadingLayer = ({ layers, leading = 0 }: Pick<ChartPlan, "layers" | "leading">): LayerPlan =>
  layers[leading] as LayerPlan;

/** Place channels of a layer that differ from row to row. */
const placesOf = ({ query: { channels } }: LayerPlan): number =>
  ["x", "y", "lon", "lat"].filter((name) => channels[name] && !channels[name].constant).length;

/** More than a layer has places. */
const OWN = 10;

/**
 * Where the leading layer stands: the first of those with the most places, and rather one of the chart's own table
 * than one that brings another along, as goals do.
 */
export function leadingOf(layers: readonly LayerPlan[], table: string): number {
  const places = layers.map((layer) => {
    const count = placesOf(layer);
    return count && layer.query.from === table ? count + OWN : count;
  });
  return places.indexOf(Math.max(...places));
}
