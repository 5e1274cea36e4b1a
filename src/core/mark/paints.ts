import { paintOfRamp, rampPart } from "../chart/color-ramp";
import type { ChartInput, LayerInput } from "../chart/inputs";
import { nameAt } from "../query/categories";
import type { LayerValues } from "../query/values";
import type { Paint } from "../scene/shapes/shape";

const RAMP_STEPS = 32;

/** The place of each drawn group's colour in the legend's order; 0 without colours. */
export function colorPlaces(input: ChartInput, values: LayerValues, ids: Int32Array): Uint16Array {
  const places = new Uint16Array(ids.length);
  const column = values.get("color");
  const { color } = input;
  if (!column || color?.type !== "categories") return places;
  const byName = new Map(color.names.map((name, place) => [name, place]));
  // Dictionary codes repeat a lot; names are looked up once each.
  const byCode =
    column.kind === "text" ? Uint16Array.from(column.dictionary, (name) => byName.get(name) ?? 0) : undefined;
  for (let i = 0; i < ids.length; i++) {
    const id = ids[i] as number;
    const code = column.kind === "text" ? (column.codes[id] as number) : -1;
    places[i] = byCode && code >= 0 ? (byCode[code] as number) : (byName.get(nameAt(column, id)) ?? 0);
  }
  return places;
}

/** Paints and, for each drawn group, which of them. */
export function paintsOf(
  input: ChartInput,
  layer: LayerInput,
  values: LayerValues,
  ids: Int32Array,
): { paints: Paint[]; color: Uint16Array } {
  const { color } = input;
  if (layer.looks.color !== undefined)
    return { paints: [String(layer.looks.color)], color: new Uint16Array(ids.length) };
  if (!values.get("color") || !color)
    return { paints: [input.house?.plain ?? "quay:0"], color: new Uint16Array(ids.length) };
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
