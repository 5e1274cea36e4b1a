import type { AxisPlan, ChartPlan, LayerPlan } from "../../chart/plan";
import { layerOptions } from "../../chart/questions";
import { categoriesOf } from "../../query/categories";
import { channelValues } from "../../query/values";
import { type Column, valueAt } from "../../table/column";
import { extentOf } from "../../table/extent";
import { answerNow } from "../finish";
import { type Advice, firstOf, isText, replaceFix } from "./chart-view";

/** The part of a plot that a legend in its corner takes, across and up. */
const CORNER = { across: 0.3, up: 0.3 } as const;
/** Rows or groups that are looked at, from the first. */
const LOOKED_AT = 20_000;
/** At most so many marks are named. */
const LIT = 2_000;

/** Where each value stands along its axis, from 0 at its beginning to 1; missing where it has no place. */
function placesAlong(column: Column, axis: AxisPlan | undefined): Float64Array {
  if (column.kind === "text" || axis?.scale === "category") {
    const order = new Map(categoriesOf(column).map(({ value }, at, all) => [value, (at + 0.5) / all.length]));
    const count = column.kind === "text" ? column.codes.length : column.values.length;
    return Float64Array.from({ length: count }, (_, row) => order.get(valueAt(column, row)) ?? Number.NaN);
  }
  const [least, most] = extentOf(column.values) ?? [0, 1];
  const from = axis?.fromZero ? Math.min(0, least) : least;
  return column.values.map((value) => (value - from) / (most - from || 1));
}

/** Marks of a layer in a corner of the plot, by their x and y. */
function marksIn(layer: LayerPlan, plan: ChartPlan, answer: ReturnType<typeof answerNow>, corner: string) {
  const columns = (["x", "y"] as const).map((axis) => channelValues(axis, answer, answer));
  const [across, up] = (["x", "y"] as const).map((axis, at) => placesAlong(columns[at] as Column, plan.axes[axis]));
  const isAt = (place: number, isFar: boolean, part: number) => (isFar ? place > 1 - part : place < part);
  const found: ReturnType<typeof valueAt>[][] = [];
  const { length } = across as Float64Array;
  let known = 0;
  for (let mark = 0; mark < Math.min(LOOKED_AT, length); mark++) {
    if (!answer.counts[mark]) continue;
    known += 1;
    const isUnder =
      isAt(across?.[mark] as number, corner.endsWith("right"), CORNER.across) &&
      isAt(up?.[mark] as number, corner.includes("top"), CORNER.up);
    if (isUnder) found.push(columns.map((column) => valueAt(column, mark)));
  }
  return { found, known, draw: layer.draw };
}

/** A legend in a corner of the plot where marks are. */
export const underLegend: Advice = {
  code: "legend-on-marks",
  find(view) {
    const { plan, compiling } = view;
    const { at: corner } = plan.legend;
    const isSteady = Object.values(plan.axes).every((axis) => axis?.scale === "linear" || axis?.scale === "category");
    const layer = plan.layers.find(
      ({ query, draw }) => query.channels.x && query.channels.y && (draw === "points" || draw === "line"),
    );
    if (!corner?.startsWith("in_") || !layer || !isSteady || plan.panels || plan.variants) return undefined;
    if (!isText(firstOf(plan, "color"))) return undefined;
    const { found, known } = marksIn(layer, plan, answerNow(compiling, layer.query, layerOptions(plan)), corner);
    if (found.length === 0) return undefined;
    return {
      at: ["legend", "at"],
      message: `${found.length} of ${known} marks lie in the corner where the legend is; at the top it stands off them`,
      fix: replaceFix(view, ["legend", "at"], "top"),
      marks: { channels: ["x", "y"], values: found.slice(0, LIT) },
    };
  },
};
