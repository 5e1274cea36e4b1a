import { leftByLegend } from "../chart/axes";
import type { ChartInput, LayerInput } from "../chart/inputs";
import type { Answer } from "../query/answer";
import { type Category, nameAt } from "../query/categories";
import { drawnIds } from "../query/drawn";
import { stretchEnd } from "../query/interval";
import { LayerValues } from "../query/values";
import type { Scale } from "../scale/scales";
import type { BarMarks, LineMarks, Marks, Paint, PointMarks } from "../scene/scene";
import { rampPaint } from "../scene/theme";
import type { Column } from "../table/column";
import { ranks } from "../table/compare";
import { colorPlaces, stackEnds } from "./stack";

export interface Frames {
  x?: Scale;
  y?: Scale;
  categories: { x?: Category[]; y?: Category[] };
}

/** The number of each group's category on an axis; for text through its dictionary. */
function categoryPlaces(column: Column, categories: readonly Category[], ids: Int32Array): Float64Array {
  const byName = new Map(categories.map(({ name }, place) => [name, place]));
  const byCode =
    column.kind === "text" ? Float64Array.from(column.dictionary, (name) => byName.get(name) ?? Number.NaN) : undefined;
  const missing = byName.get(null) ?? Number.NaN;
  const places = new Float64Array(ids.length);
  for (let i = 0; i < ids.length; i++) {
    const id = ids[i] as number;
    if (byCode && column.kind === "text") {
      const code = column.codes[id] as number;
      places[i] = code < 0 ? missing : (byCode[code] as number);
    } else places[i] = byName.get(nameAt(column, id)) ?? Number.NaN;
  }
  return places;
}

/** Values of a place channel as the axis counts them: numbers, or numbers of categories. */
function axisValues(values: LayerValues, name: "x" | "y", frames: Frames, ids: Int32Array): Float64Array {
  const column = values.get(name);
  const categories = frames.categories[name];
  if (!column) return new Float64Array(ids.length);
  if (categories) return categoryPlaces(column, categories, ids);
  if (column.kind === "text") return new Float64Array(ids.length).fill(Number.NaN);
  return taken(column.values, ids);
}

/** The values at some places. A plain loop: with a million marks a callback each would be felt. */
function taken(values: Float64Array, ids: Int32Array): Float64Array {
  const result = new Float64Array(ids.length);
  for (let i = 0; i < ids.length; i++) result[i] = values[ids[i] as number] as number;
  return result;
}

const pixelCache = new WeakMap<Float64Array, { key: string; pixels: Float64Array }>();

/** The pixels of all values of a column on a scale, kept as long as the scale stays as it is. */
function pixelsOf(values: Float64Array, scale: Scale): Float64Array {
  const key = `${scale.type} ${scale.domain.join()} ${scale.range.join()}`;
  const known = pixelCache.get(values);
  if (known?.key === key) return known.pixels;
  const pixels = new Float64Array(values.length);
  for (let i = 0; i < values.length; i++) pixels[i] = scale.place(values[i] as number);
  pixelCache.set(values, { key, pixels });
  return pixels;
}

const RAMP_STEPS = 32;

/** Paints and, for each drawn group, which of them. */
function paintsOf(
  input: ChartInput,
  layer: LayerInput,
  values: LayerValues,
  ids: Int32Array,
): { paints: Paint[]; color: Uint16Array } {
  const { color } = input;
  if (layer.plan.paint) return { paints: [layer.plan.paint], color: new Uint16Array(ids.length) };
  if (!values.get("color") || !color) return { paints: ["quay:0"], color: new Uint16Array(ids.length) };
  if (color.type === "categories") return { paints: color.paints, color: colorPlaces(input, values, ids) };
  const numbers = values.numbers("color");
  const paints = Array.from({ length: RAMP_STEPS + 1 }, (_, step) => rampPaint("kelp", step / RAMP_STEPS));
  paints.push("quiet");
  const span = color.high - color.low || 1;
  const places = Uint16Array.from(ids, (id) => {
    const value = numbers?.[id] ?? Number.NaN;
    return value === value
      ? Math.round(Math.max(0, Math.min(1, (value - color.low) / span)) * RAMP_STEPS)
      : RAMP_STEPS + 1;
  });
  return { paints, color: places };
}

function bars(
  input: ChartInput,
  values: LayerValues,
  ids: Int32Array,
  frames: Frames,
  base: Omit<BarMarks, "shape" | "x" | "y" | "width" | "height">,
): BarMarks {
  const { along, stacking } = input.plan;
  const measured = along === "x" ? "y" : "x";
  const [alongScale, measuredScale] = [frames[along], frames[measured]];
  const ends = stackEnds(input, values, ids);
  const places = axisValues(values, along, frames, ids);
  const edges = values.prepared.edges.get(along);
  const colorCount = input.color?.type === "categories" ? input.color.names.length : 1;
  const beside = stacking === "beside" && colorCount > 1 && values.get("color") !== undefined;
  const x = new Float64Array(ids.length);
  const y = new Float64Array(ids.length);
  const width = new Float64Array(ids.length);
  const height = new Float64Array(ids.length);
  for (let i = 0; i < ids.length; i++) {
    let a: number;
    let b: number;
    const place = places[i] as number;
    if (!alongScale) [a, b] = [0, 1];
    else if (frames.categories[along]) {
      const half = Math.min(alongScale.band * 0.35, 40);
      [a, b] = [alongScale.place(place) - half, alongScale.place(place) + half];
      if (beside) {
        const step = (b - a) / colorCount;
        a += step * (base.color[i] as number);
        b = a + Math.max(1, step - 1);
      }
    } else if (edges) {
      [a, b] = [alongScale.place(place), alongScale.place(stretchEnd(edges, place))];
      if (a > b) [a, b] = [b, a];
      // A hairline of ground between neighbours, as long as there is room for it.
      if (b - a > 3) b -= 1;
    } else [a, b] = [alongScale.place(place) - 1.5, alongScale.place(place) + 1.5];
    let from = measuredScale ? measuredScale.place(clampTo(measuredScale, ends.from[i] as number)) : 0;
    let to = measuredScale ? measuredScale.place(clampTo(measuredScale, ends.to[i] as number)) : 0;
    if (from > to) [from, to] = [to, from];
    x[i] = along === "x" ? a : from;
    width[i] = along === "x" ? b - a : to - from;
    y[i] = along === "x" ? from : a;
    height[i] = along === "x" ? to - from : b - a;
  }
  return { ...base, shape: "bars", x, y, width, height };
}

/** A log axis has no zero: bars begin at its lower end. */
function clampTo(scale: Scale, value: number): number {
  return scale.type === "log" && value <= 0 ? scale.domain[0] : value;
}

function points(
  layer: LayerInput,
  values: LayerValues,
  ids: Int32Array,
  frames: Frames,
  base: Omit<PointMarks, "shape" | "x" | "y" | "radius">,
): PointMarks {
  const pixels = (name: "x" | "y") => {
    const scale = frames[name];
    if (!scale) return new Float64Array(ids.length);
    const column = values.get(name);
    // Rows keep their place while a brush moves; only which of them are drawn changes.
    if (column && column.kind !== "text" && !frames.categories[name] && !values.prepared.query.grouped)
      return taken(pixelsOf(column.values, scale), ids);
    return axisValues(values, name, frames, ids).map(scale.place);
  };
  const area = layer.plan.size ?? (ids.length > 2000 ? 9 : 24);
  return { ...base, shape: "points", x: pixels("x"), y: pixels("y"), radius: Math.sqrt(area / Math.PI) };
}

function lines(
  input: ChartInput,
  values: LayerValues,
  ids: Int32Array,
  frames: Frames,
  base: Omit<LineMarks, "shape" | "x" | "y" | "starts" | "lineColor" | "width">,
): LineMarks {
  const { along } = input.plan;
  const alongValues = values.get("along") ? (values.numbers("along") ?? new Float64Array(0)) : undefined;
  const orderBy = alongValues
    ? Float64Array.from(ids, (id) => alongValues[id] as number)
    : axisValues(values, along, frames, ids);
  const seriesColumn = values.get("series");
  const seriesOf = seriesColumn ? seriesPlaces(seriesColumn, ids) : undefined;
  const order = Int32Array.from(ids.keys()).sort(
    (a, b) =>
      (base.color[a] as number) - (base.color[b] as number) ||
      (seriesOf ? (seriesOf[a] as number) - (seriesOf[b] as number) : 0) ||
      (orderBy[a] as number) - (orderBy[b] as number) ||
      a - b,
  );
  const sorted = order.map((i) => ids[i] as number);
  const xs = axisValues(values, "x", frames, sorted);
  const ys = axisValues(values, "y", frames, sorted);
  const edges = values.prepared.edges.get(along);
  const starts: number[] = [];
  const lineColor: number[] = [];
  const color = Uint16Array.from(order, (i) => base.color[i] as number);
  for (let i = 0; i < order.length; i++) {
    const changed =
      i === 0 ||
      color[i] !== color[i - 1] ||
      (seriesOf && seriesOf[order[i] as number] !== seriesOf[order[i - 1] as number]);
    if (changed) {
      starts.push(i);
      lineColor.push(color[i] as number);
    }
    if (frames.x)
      xs[i] = middleOf(frames.x, xs[i] as number, along === "x" && edges?.grain === undefined ? edges : undefined);
    if (frames.y)
      ys[i] = middleOf(frames.y, ys[i] as number, along === "y" && edges?.grain === undefined ? edges : undefined);
  }
  starts.push(order.length);
  return {
    ...base,
    shape: "lines",
    ids: sorted,
    color,
    x: xs,
    y: ys,
    starts: Int32Array.from(starts),
    lineColor: Uint16Array.from(lineColor),
    width: 1.8,
  };
}

const placesOf = new WeakMap<Column, Float64Array>();

/** What orders lines and tells them apart, the same however texts are numbered; missing is a line of its own, the last. */
function seriesPlaces(column: Column, ids: Int32Array): Float64Array {
  let places = placesOf.get(column);
  if (!places) {
    places = ranks(column);
    placesOf.set(column, places);
  }
  const known = places;
  return Float64Array.from(ids, (id) => (Number.isNaN(known[id]) ? Number.MAX_VALUE : (known[id] as number)));
}

/** Lines over bins pass through the middles; over periods they stand at the starts, as dates do. */
function middleOf(scale: Scale, value: number, edges: Parameters<typeof stretchEnd>[0] | undefined): number {
  return edges ? (scale.place(value) + scale.place(stretchEnd(edges, value))) / 2 : scale.place(value);
}

const placeable = new WeakMap<Float64Array, { log: boolean; fits: Uint8Array | null }>();

/** 1 for values that have a place on a scale; nothing when all have one. */
function fitsOf(values: Float64Array, log: boolean): Uint8Array | null {
  const known = placeable.get(values);
  if (known && known.log === log) return known.fits;
  const fits = new Uint8Array(values.length);
  let all = true;
  for (let i = 0; i < values.length; i++) {
    const value = values[i] as number;
    if (log ? value > 0 : value === value) fits[i] = 1;
    else all = false;
  }
  const result = { log, fits: all ? null : fits };
  placeable.set(values, result);
  return result.fits;
}

/** Marks whose measured value is missing, or not above zero on a log axis, cannot be drawn. */
function placed(values: LayerValues, ids: Int32Array, frames: Frames): Int32Array {
  let kept = ids;
  for (const name of ["x", "y"] as const) {
    const scale = frames[name];
    const numbers = scale && !frames.categories[name] ? values.numbers(name) : undefined;
    const fits = numbers && fitsOf(numbers, scale?.type === "log");
    if (!fits) continue;
    const next = new Int32Array(kept.length);
    let count = 0;
    for (let i = 0; i < kept.length; i++) {
      const id = kept[i] as number;
      if (fits[id]) next[count++] = id;
    }
    kept = next.subarray(0, count);
  }
  return kept;
}

/** In drawn order: by colour, then along the axis. */
function inOrder(input: ChartInput, values: LayerValues, ids: Int32Array, frames: Frames): Int32Array {
  if (!values.prepared.query.grouped) return ids;
  const along = axisValues(values, input.plan.along, frames, ids);
  const colors = colorPlaces(input, values, ids);
  return Int32Array.from(ids.keys())
    .sort(
      (a, b) => (along[a] as number) - (along[b] as number) || (colors[a] as number) - (colors[b] as number) || a - b,
    )
    .map((i) => ids[i] as number);
}

/** The marks of one layer under an answer, and the values that they stand for. */
export function layerMarks(
  input: ChartInput,
  layer: LayerInput,
  answer: Answer,
  frames: Frames,
  place: number,
  opacity: number,
  marksOwnPick: boolean,
): { marks: Marks; values: LayerValues } {
  const values = new LayerValues(answer, layer.all);
  const drawn = leftByLegend(input, answer, drawnIds(answer, input.plan.along));
  const ids = inOrder(input, values, placed(values, drawn, frames), frames);
  const { paints, color } = paintsOf(input, layer, values, ids);
  const picked = marksOwnPick ? layer.picked?.(ids) : undefined;
  const base = {
    layer: place,
    paints,
    color,
    opacity: opacity * (layer.plan.opacity ?? 1),
    ids,
    ...(picked ? { picked } : {}),
  };
  const marks =
    layer.plan.draw === "bars"
      ? bars(input, values, ids, frames, base)
      : layer.plan.draw === "line"
        ? lines(input, values, ids, frames, base)
        : points(layer, values, ids, frames, base);
  if (picked && marks.shape === "lines")
    marks.picked = layer.picked?.(marks.ids) ?? new Uint8Array(marks.ids.length).fill(1);
  return { marks: fadeByLegend(input, marks, values), values };
}

/** Entries that the legend fades keep their place in faint ink. */
function fadeByLegend(input: ChartInput, marks: Marks, values: LayerValues): Marks {
  const column = values.get("color");
  if (input.off.size === 0 || input.plan.legend.press !== "fade" || !column) return marks;
  const picked = marks.picked ?? new Uint8Array(marks.ids.length).fill(1);
  marks.ids.forEach((id, i) => {
    if (input.off.has(nameAt(column, id))) picked[i] = 0;
  });
  return { ...marks, picked };
}
