import { type Edges, stretchEnd } from "../query/interval";
import type { Scale } from "../scale/scales";
import { Lines } from "../scene/shapes/lines";
import type { Column } from "../table/column";
import { ranks } from "../table/compare";
import type { Drawing, MarkDraw, MarkSpec } from "./mark";
import { axisValues } from "./place-values";

export const lineSpec = {
  name: "line",
  says: "A line for each colour and series, connected along x unless along says otherwise.",
  many: "places on lines",
  needs: [["x", "y"]],
  needed: "line need both x: and y:, one of them measured, such as count()",
  takes: ["x", "y", "color", "opacity", "size", "series", "along"],
  options: { steps: { takes: "switch", says: "Level from one place to the next." } },
} as const satisfies MarkSpec;

const STROKE = 1.8;

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
export function middleOfStretch(scale: Scale, value: number, edges: Edges | undefined): number {
  return edges && edges.grain === undefined
    ? (scale.place(value) + scale.place(stretchEnd(edges, value))) / 2
    : scale.place(value);
}

/** The groups or rows of each line in the order in which it connects them, and where each line begins. */
export function inLines({ input, values, ids, stage, base }: Drawing): { order: Int32Array; starts: number[] } {
  const { along } = input.plan;
  const alongValues = values.get("along") ? (values.numbers("along") ?? new Float64Array(0)) : undefined;
  const orderBy = alongValues
    ? Float64Array.from(ids, (id) => alongValues[id] as number)
    : axisValues(values, along, along, stage, ids);
  const seriesColumn = values.get("series");
  const seriesOf = seriesColumn ? seriesPlaces(seriesColumn, ids) : undefined;
  const order = Int32Array.from(ids.keys()).sort(
    (a, b) =>
      (base.color[a] as number) - (base.color[b] as number) ||
      (seriesOf ? (seriesOf[a] as number) - (seriesOf[b] as number) : 0) ||
      (orderBy[a] as number) - (orderBy[b] as number) ||
      a - b,
  );
  const starts: number[] = [];
  for (let i = 0; i < order.length; i++) {
    const [here, before] = [order[i] as number, order[i - 1] as number];
    if (i === 0 || base.color[here] !== base.color[before] || (seriesOf && seriesOf[here] !== seriesOf[before]))
      starts.push(i);
  }
  starts.push(order.length);
  return { order, starts };
}

export const lineDraw: MarkDraw = {
  shapes(drawing) {
    const { input, layer, values, ids, stage, base } = drawing;
    const { order, starts } = inLines(drawing);
    const sorted = order.map((i) => ids[i] as number);
    const color = Uint16Array.from(order, (i) => base.color[i] as number);
    const pixels = (axis: "x" | "y") => {
      const scale = stage[axis];
      const places = axisValues(values, axis, axis, stage, sorted);
      const edges = input.plan.along === axis ? values.prepared.edges.get(axis) : undefined;
      return scale ? places.map((value) => middleOfStretch(scale, value, edges)) : places;
    };
    const { size } = layer.looks;
    const parts = {
      x: pixels("x"),
      y: pixels("y"),
      starts: Int32Array.from(starts),
      lineColor: Uint16Array.from(starts.slice(0, -1), (start) => color[start] as number),
      width: typeof size === "number" ? size : STROKE,
      ...(layer.options.steps === true ? { steps: input.plan.along } : {}),
    };
    return { shapes: [new Lines({ ...base, ids: sorted, color }, parts)] };
  },
};
