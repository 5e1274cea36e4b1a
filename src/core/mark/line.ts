import { drawnIds } from "../query/drawn";
import { type Edges, stretchEnd } from "../query/interval";
import type { Scale } from "../scale/scales";
import { Lines } from "../scene/shapes/lines";
import type { Words } from "../scene/shapes/words";
import type { Column } from "../table/column";
import { ranks } from "../table/compare";
import { firstPlace } from "../table/first-place";
import type { Drawing, MarkDraw, MarkSpec } from "./mark";
import { wordsAt } from "./mark-words";
import { colorPlaces } from "./paints";
import { axisValues } from "./place-values";

export const lineSpec = {
  name: "line",
  says: "A line for each colour and series, connected along x unless along says otherwise.",
  many: "places on lines",
  needs: [["x", "y"]],
  needed: "line need both x: and y:, one of them measured, such as count()",
  takes: ["x", "y", "color", "opacity", "size", "series", "along", "label"],
  runs: true,
  options: { steps: { takes: "switch", says: "Level from one place to the next." } },
} as const satisfies MarkSpec;

const STROKE = 1.8;

const placesOf = new WeakMap<Column, Float64Array>();

/**
 * What orders lines and tells them apart, the same however texts are numbered; missing is a line of its own, the
 * last.
 */
function seriesPlaces(column: Column, ids: Int32Array): Float64Array {
  let places = placesOf.get(column);
  if (!places) {
    places = ranks(column);
    placesOf.set(column, places);
  }
  const known = places;
  return Float64Array.from(ids, (id) => (Number.isNaN(known[id]) ? Number.MAX_VALUE : (known[id] as number)));
}

/** Lines over bins, and over bars, pass through the middles; over periods they stand at the starts, as dates do. */
function middleOfStretch(scale: Scale, value: number, edges: Edges | undefined, overBars: boolean): number {
  return edges && (overBars || edges.grain === undefined)
    ? (scale.place(value) + scale.place(stretchEnd(edges, value))) / 2
    : scale.place(value);
}

/** Where groups stand along an axis, in pixels. */
export function placesAlong({ values, stage }: Drawing, axis: "x" | "y", places: Float64Array): Float64Array {
  const scale = stage[axis];
  const edges = values.prepared.edges.get(axis);
  return scale ? places.map((value) => middleOfStretch(scale, value, edges, stage.bars === axis)) : places;
}

/** What tells lines apart, and where along them something stands. */
interface LineOrder {
  series: Float64Array;
  along: Float64Array;
}

function lineOrder(drawing: Drawing, ids: Int32Array): LineOrder {
  const { input, values, stage } = drawing;
  const { along } = input.plan;
  const alongValues = values.get("along") ? (values.numbers("along") ?? new Float64Array(0)) : undefined;
  // Groups are told apart by their colour, also where it is a number or a day.
  const { keys, query } = values.prepared;
  const isKey = query.grouped && keys.has("color") && isRamped(drawing);
  const series = values.get("series") ?? (isKey ? values.get("color") : undefined);
  return {
    series: series ? seriesPlaces(series, ids) : new Float64Array(ids.length),
    along: alongValues
      ? Float64Array.from(ids, (id) => alongValues[id] as number)
      : axisValues(values, along, along, stage, ids),
  };
}

/** Places along each line in order, by the line's colour and series. */
function placesByLine(drawing: Drawing, ids: Int32Array): Map<string, Float64Array> {
  const lists = new Map<string, number[]>();
  const { series, along } = lineOrder(drawing, ids);
  colorPlaces(drawing.input, drawing.values, ids).forEach((color, at) => {
    const place = along[at] as number;
    if (place !== place) return;
    const key = `${color} ${series[at]}`;
    const known = lists.get(key);
    if (known) known.push(place);
    else lists.set(key, [place]);
  });
  return new Map([...lists].map(([key, list]) => [key, Float64Array.from(list).sort()]));
}

/** The first place after another; infinite where there is none. */
const nextPlace = (places: Float64Array | undefined, after: number): number =>
  places?.[firstPlace(0, places.length, (at) => (places[at] as number) > after)] ?? Number.POSITIVE_INFINITY;

/**
 * Tells whether a line breaks off between two places: where something between them measures nothing, and
 * nothing between them was only filtered away, as then the line has left out more than what is missing.
 */
function breaksBetween(drawing: Drawing): ((line: string, from: number, to: number) => boolean) | undefined {
  const { values, gaps, layer } = drawing;
  const measured = values.numbers(drawing.input.plan.along === "x" ? "y" : "x");
  const missing = gaps().filter((id) => Number.isNaN(measured?.[id] ?? 0));
  if (missing.length === 0) return undefined;
  const breaks = placesByLine(drawing, missing);
  let all: Map<string, Float64Array> | undefined;
  return (line, from, to) => {
    if (!(nextPlace(breaks.get(line), from) < to)) return false;
    all ??= values.prepared.query.grouped ? new Map() : placesByLine(drawing, drawnIds(layer.all, ""));
    return !(nextPlace(all.get(line), from) < to);
  };
}

/** True where colours follow numbers: they change along a line, and tell no lines apart. */
export const isRamped = ({ input, layer, values }: Drawing): boolean =>
  layer.looks.color === undefined && values.get("color") !== undefined && input.color?.type !== "categories";

/** The groups or rows of each line in the order in which it connects them, and where each stretch begins. */
export function inLines(drawing: Drawing): { order: Int32Array; starts: number[] } {
  const { ids, base } = drawing;
  const color = isRamped(drawing) ? new Uint16Array(ids.length) : base.color;
  const { series, along } = lineOrder(drawing, ids);
  const order = Int32Array.from(ids.keys()).sort(
    (a, b) =>
      (color[a] as number) - (color[b] as number) ||
      (series[a] as number) - (series[b] as number) ||
      (along[a] as number) - (along[b] as number) ||
      a - b,
  );
  const breaks = breaksBetween(drawing);
  const starts: number[] = [];
  for (let i = 0; i < order.length; i++) {
    const [here, before] = [order[i] as number, order[i - 1] as number];
    const isOther = i === 0 || color[here] !== color[before] || series[here] !== series[before];
    if (isOther || breaks?.(`${color[here]} ${series[here]}`, along[before] as number, along[here] as number))
      starts.push(i);
  }
  starts.push(order.length);
  return { order, starts };
}

/** Words of lines, over the end of each. */
function lineWords(
  drawing: Drawing,
  { order, starts }: { order: Int32Array; starts: number[] },
  { x, y }: { x: Float64Array; y: Float64Array },
): Words[] {
  if (!drawing.isLabelled) return [];
  const { ids, base, stage } = drawing;
  const { series } = lineOrder(drawing, ids);
  const lineAt = (place: number) => {
    const mark = order[place];
    return mark === undefined ? undefined : `${isRamped(drawing) ? 0 : base.color[mark]} ${series[mark]}`;
  };
  // Where a line breaks off and goes on, its last stretch has the words.
  const ends = starts.slice(1).flatMap((next) => (next > 0 && lineAt(next - 1) !== lineAt(next) ? [next - 1] : []));
  const marks = ends.map((place) => order[place] as number);
  const own = {
    ...drawing,
    ids: Int32Array.from(marks, (mark) => ids[mark] as number),
    base: { ...base, color: Uint16Array.from(marks, (mark) => base.color[mark] as number) },
  };
  const { plot } = stage;
  return wordsAt(own, (mark, width) => {
    const at = { x: x[ends[mark] as number] as number, y: y[ends[mark] as number] as number };
    const isRoomy = at.x + width + 6 <= plot.x + plot.width;
    return isRoomy ? { x: at.x + 6, y: at.y, anchor: "start" } : { x: at.x, y: at.y - 9, anchor: "end" };
  });
}

export const lineDraw: MarkDraw = {
  shapes(drawing) {
    const { input, layer, values, ids, stage, base } = drawing;
    const { order, starts } = inLines(drawing);
    const sorted = order.map((i) => ids[i] as number);
    const color = Uint16Array.from(order, (i) => base.color[i] as number);
    const pixels = (axis: "x" | "y") => {
      const places = axisValues(values, axis, axis, stage, sorted);
      return input.plan.along === axis ? placesAlong(drawing, axis, places) : places.map(stage[axis]?.place ?? Number);
    };
    const { size } = layer.looks;
    const parts = {
      x: pixels("x"),
      y: pixels("y"),
      starts: Int32Array.from(starts),
      lineColor: Uint16Array.from(starts.slice(0, -1), (start) => color[start] as number),
      width: typeof size === "number" ? size : STROKE,
      byVertex: isRamped(drawing),
      ...(layer.options.steps === true ? { steps: input.plan.along } : {}),
    };
    return {
      shapes: [new Lines({ ...base, ids: sorted, color }, parts)],
      over: lineWords(drawing, { order, starts }, parts),
    };
  },
};
