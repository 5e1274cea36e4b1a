import { leftByLegend } from "../chart/categories";
import { withinStretch } from "../chart/domain";
import type { ChartInput, LayerInput } from "../chart/inputs";
import type { Answer } from "../query/answer";
import { nameAt } from "../query/categories";
import { drawnIds } from "../query/drawn";
import { LayerValues } from "../query/values";
import type { Shape } from "../scene/shapes/shape";
import { markDraw } from "./draws";
import type { Drawing, Marks, Stage } from "./mark";
import { colorOrder, paintsOf } from "./paints";
import { axisValues } from "./place-values";

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

/**
 * Marks whose measured value is missing, or not above zero on a log axis, cannot be drawn: 1 for each that can,
 * axis by axis.
 */
function placesKnown(values: LayerValues, stage: Stage): Uint8Array[] {
  return (["x", "y"] as const).flatMap((name) => {
    const scale = stage[name];
    const numbers = scale && !stage.categories[name] && !stage.project ? values.numbers(name) : undefined;
    const fits = numbers && fitsOf(numbers, scale?.type === "log");
    return fits ? [fits] : [];
  });
}

/** Rows whose longitude and latitude, or whose place, are known. */
function onEarth(values: LayerValues, ids: Int32Array): Int32Array {
  const [lon, lat] = [values.numbers("lon"), values.numbers("lat")];
  const place = values.get("place");
  if (place?.kind === "text") return ids.filter((id) => (place.codes[id] as number) >= 0);
  if (!lon || !lat) return ids;
  return ids.filter((id) => Number.isFinite(lon[id]) && Number.isFinite(lat[id]));
}

/** Groups or rows whose marks have a size: of a missing value nothing is drawn, neither a disc nor its words. */
function withSize(values: LayerValues, ids: Int32Array): Int32Array {
  const sizes = values.numbers("size");
  // Mostly there is nothing to leave out, and what was in hand stays.
  return sizes && ids.some((id) => Number.isNaN(sizes[id])) ? ids.filter((id) => !Number.isNaN(sizes[id])) : ids;
}

/** In drawn order: what is to lie on top last, else along the axis (of two of categories x, then y), then by colour. */
function inOrder(input: ChartInput, values: LayerValues, ids: Int32Array, stage: Stage): Int32Array {
  const above = values.numbers("above");
  if (above) {
    const rank = (id: number) => (Number.isNaN(above[id]) ? Number.NEGATIVE_INFINITY : (above[id] as number));
    return Int32Array.from(ids).sort((a, b) => rank(a) - rank(b) || a - b);
  }
  if (!values.prepared.query.grouped) return ids;
  const isTable = stage.categories.x && stage.categories.y;
  const [first, then] = isTable ? (["x", "y"] as const) : [input.plan.along, undefined];
  const along = axisValues(values, first, first, stage, ids);
  const across = then ? axisValues(values, then, then, stage, ids) : along;
  const colors = colorOrder(input, values, ids);
  return Int32Array.from(ids.keys())
    .sort(
      (a, b) =>
        (along[a] as number) - (along[b] as number) ||
        (across[a] as number) - (across[b] as number) ||
        (colors[a] as number) - (colors[b] as number) ||
        a - b,
    )
    .map((i) => ids[i] as number);
}

/** A layer drawn in a panel: its marks, and the values that they stand for. */
export interface DrawnLayer extends Marks {
  values: LayerValues;
}

export interface LayerDrawing {
  input: ChartInput;
  layer: LayerInput;
  /** Its place among the chart's layers. */
  place: number;
  answer: Answer;
  stage: Stage;
  /** 0 to 1, of all its marks. */
  opacity: number;
  /** What is drawn over all, not what lies under it where a selection fades or highlights. */
  isTop?: boolean;
  /** Leaves those groups or rows that stand in the panel. */
  within: (answer: Answer, ids: Int32Array) => Int32Array;
}

/** The groups or rows of an answer in a panel: all, those that have a place there, and these in drawn order. */
function idsThere({ input, layer, stage, within }: LayerDrawing, answer: Answer, values: LayerValues) {
  const { grouped } = answer.prepared.query;
  const fits = placesKnown(values, stage);
  const there = withinStretch(input, layer, answer, drawnIds(answer, input.plan.along, grouped ? [] : fits));
  const drawn = within(answer, leftByLegend(input, answer, there));
  const placed = stage.project
    ? onEarth(values, drawn)
    : grouped && fits.length
      ? drawn.filter((id) => fits.every((own) => own[id] === 1))
      : drawn;
  const known = withSize(values, placed);
  return { drawn, known, ids: inOrder(input, values, known, stage) };
}

/** What lies under the marks of a layer where some of them are drawn again over all: values and ids, in drawn order. */
function under(drawing: LayerDrawing): Drawing["whole"] {
  const { answer } = drawing.layer.base ?? drawing;
  const values = new LayerValues(answer, drawing.layer.all);
  return { values, ids: idsThere(drawing, answer, values).ids };
}

/** The marks of one layer under an answer. */
export function drawLayer(drawing: LayerDrawing): DrawnLayer {
  const { input, layer, place, answer, stage, opacity, isTop = false, within } = drawing;
  const values = new LayerValues(answer, layer.all);
  const { drawn, known, ids } = idsThere(drawing, answer, values);
  const gaps = () => (answer.prepared.query.grouped ? without(drawn, known) : within(answer, rowsWithoutPlace(answer)));
  const own = typeof layer.looks.opacity === "number" ? layer.looks.opacity : 1;
  const isLit = isTop && layer.accent === true;
  // A highlight leaves all the rest as it is: the chart's own selection is marked under it, not on it.
  const isLeft = layer.accent === true && layer.base?.opacity === 1;
  const marksOwnPick = isTop !== isLeft;
  const paints = isLit
    ? { paints: [input.house?.accent ?? "brass"], color: new Uint16Array(ids.length) }
    : paintsOf(input, layer, values, ids);
  const base = { layer: place, ...paints, opacity: opacity * own, ids };
  const alpha = alphaOf(values, ids);
  if (alpha) Object.assign(base, { alpha });
  const isLabelled = (isTop || !layer.base || isLeft) && hasLabels(input, layer, isTop);
  const pickedOf = marksOwnPick ? layer.picked : undefined;
  const picked = (some: Int32Array) => pickedOf?.(answer, some);
  const told = { input, layer, values, ids, stage, base, isLabelled, isLit, gaps, picked };
  const marks: Marks = layer.isOff
    ? { shapes: [] }
    : markDraw(layer.plan.draw).shapes({
        ...told,
        get whole() {
          return under(drawing);
        },
      });
  const strokes = (marks.over ?? []).filter(({ isText }) => !isText);
  for (const shape of [...marks.shapes, ...(marks.beside ?? []), ...strokes]) {
    const isPicked = picked(shape.ids);
    if (isPicked) shape.picked = isPicked;
    fadeByLegend(input, shape, values);
  }
  for (const words of marks.over ?? []) readOnGround(words, picked(words.ids));
  return { ...marks, values };
}

/** Words on a mark that is drawn faintly are read on the ground: the first paint of words is ink. */
function readOnGround({ paints, color }: Shape, picked: Uint8Array | undefined) {
  if (paints[0] === "ink")
    picked?.forEach((is, at) => {
      if (!is) color[at] = 0;
    });
}

const withoutPlace = new WeakMap<Answer["prepared"], Int32Array>();

/** Rows that are left out of a question, mostly as what they measure is missing. */
function rowsWithoutPlace({ prepared }: Answer): Int32Array {
  const known = withoutPlace.get(prepared);
  if (known) return known;
  const rows: number[] = [];
  prepared.groups.forEach((group, row) => {
    if (group < 0) rows.push(row);
  });
  const found = Int32Array.from(rows);
  withoutPlace.set(prepared, found);
  return found;
}

/** Ids that are not among some of them; both in one order. */
function without(ids: Int32Array, some: Int32Array): Int32Array {
  let at = 0;
  return ids.filter((id) => {
    if (some[at] !== id) return true;
    at += 1;
    return false;
  });
}

/** Opacities that follow values, 0 to 1. */
function alphaOf(values: LayerValues, ids: Int32Array): Float64Array | undefined {
  const numbers = values.numbers("opacity");
  return numbers && Float64Array.from(ids, (id) => numbers[id] as number);
}

/** Words at marks are written; where points can be highlighted, names only of those that are. */
function hasLabels({ canLight }: ChartInput, { plan, looks, accent }: LayerInput, isOnTop: boolean): boolean {
  if (looks.label !== undefined) return true;
  if (!("label" in plan.query.channels)) return false;
  return !canLight || !markDraw(plan.draw).discs || (accent === true && isOnTop);
}

/** Entries that the legend fades keep their place in faint ink. */
function fadeByLegend(input: ChartInput, shape: Shape, values: LayerValues) {
  const column = values.get("color");
  if (input.off.size === 0 || input.plan.legend.press !== "fade" || !column) return;
  const picked = shape.picked ?? new Uint8Array(shape.ids.length).fill(1);
  shape.ids.forEach((id, i) => {
    if (input.off.has(nameAt(column, id))) picked[i] = 0;
  });
  shape.picked = picked;
}
