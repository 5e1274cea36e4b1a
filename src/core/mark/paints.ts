import { paintOfRamp, rampPart } from "../chart/color-ramp";
import type { ChartInput, LayerInput } from "../chart/inputs";
import { nameAt } from "../query/categories";
import type { LayerValues } from "../query/values";
import type { Paint } from "../scene/shapes/shape";
import type { Column } from "../table/column";

const RAMP_STEPS = 32;

const rowColors = new WeakMap<Column, { color: ChartInput["color"]; places: Uint16Array }>();

/** The place of the colour of every group or row in the legend's order, kept while picks change which are drawn. */
export function colorsOfAll({ color }: ChartInput, column: Column, length: number): Uint16Array {
  const known = rowColors.get(column);
  if (known && known.color === color) return known.places;
  const places = new Uint16Array(length);
  if (color?.type === "categories") {
    const byName = new Map(color.names.map((name, place) => [name, place]));
    const missing = byName.get(null) ?? 0;
    if (column.kind === "text") {
      // Dictionary codes repeat a lot; names are looked up once each.
      const byCode = Uint16Array.from(column.dictionary, (name) => byName.get(name) ?? 0);
      for (let at = 0; at < length; at++) {
        const code = column.codes[at] as number;
        places[at] = code < 0 ? missing : (byCode[code] as number);
      }
    } else for (let at = 0; at < length; at++) places[at] = byName.get(nameAt(column, at)) ?? 0;
  }
  rowColors.set(column, { color, places });
  return places;
}

/**
 * The order of the colours of drawn groups: as in the legend, or along a ramp, missing last; all the same without
 * colours.
 */
export function colorOrder(input: ChartInput, values: LayerValues, ids: Int32Array): ArrayLike<number> {
  const numbers = input.color?.type === "ramp" ? values.numbers("color") : undefined;
  if (!numbers) return colorPlaces(input, values, ids);
  return Float64Array.from(ids, (id) => {
    const value = numbers[id] as number;
    return value === value ? value : Number.POSITIVE_INFINITY;
  });
}

/** The place of each drawn group's colour in the legend's order; 0 without colours. */
export function colorPlaces(input: ChartInput, values: LayerValues, ids: Int32Array): Uint16Array {
  const places = new Uint16Array(ids.length);
  const column = values.get("color");
  if (!column || input.color?.type !== "categories") return places;
  const all = colorsOfAll(input, column, values.prepared.groupCount);
  for (let i = 0; i < ids.length; i++) places[i] = all[ids[i] as number] as number;
  return places;
}

/**
 * The one paint of all marks of a layer, if it has one. Beside colours of categories, each of which means something,
 * a layer without has the one of words. Else a second scale has a colour of its own.
 */
export function singlePaint({ color, house }: ChartInput, layer: LayerInput): Paint | undefined {
  if (layer.looks.color !== undefined) return String(layer.looks.color);
  if (color && "color" in layer.plan.query.channels) return undefined;
  if (color?.type === "categories") return "ink";
  if (layer.plan.side !== "right") return house?.plain ?? "quay:0";
  return color ? "ink" : (house?.second ?? "quay:1");
}

/** Paints and, for each drawn group, which of them. */
export function paintsOf(
  input: ChartInput,
  layer: LayerInput,
  values: LayerValues,
  ids: Int32Array,
): { paints: Paint[]; color: Uint16Array } {
  const { color } = input;
  const single = singlePaint(input, layer);
  if (single !== undefined || !color) return { paints: [single ?? "quiet"], color: new Uint16Array(ids.length) };
  if (color.type === "categories") return { paints: color.paints, color: colorPlaces(input, values, ids) };
  const numbers = values.numbers("color");
  const paints = Array.from({ length: RAMP_STEPS + 1 }, (_, step) => paintOfRamp(color, step / RAMP_STEPS));
  paints.push("quiet");
  const places = Uint16Array.from(ids, (id) => {
    const value = numbers?.[id] ?? Number.NaN;
    return value === value ? Math.round(rampPart(color, value) * RAMP_STEPS) : RAMP_STEPS + 1;
  });
  return { paints, color: places };
}
