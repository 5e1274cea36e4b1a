import type { AxisPlan, ChartPlan, LegendPlace } from "../../chart/plan";
import { layerOptions } from "../../chart/questions";
import type { Answer } from "../../query/answer";
import { categoriesOf } from "../../query/categories";
import { channelValues } from "../../query/values";
import { type Column, type Scalar, valueAt } from "../../table/column";
import { extentOf } from "../../table/extent";
import { answerNow } from "../answer-now";
import { type Advice, firstOf, isText, LIT, LOOKED_AT, replaceFix } from "./chart-view";

/** The part of a plot that a legend in its corner takes, across and up. */
const CORNER = 0.3;

/** Where a row stands along its axis, from 0 at the left or bottom to 1; missing where it has no place. */
function placeAlong(column: Column, name: "x" | "y", axis: AxisPlan | undefined): (row: number) => number {
  if (column.kind === "text" || axis?.scale === "category") {
    const order = new Map(categoriesOf(column).map(({ value }, at, all) => [value, (at + 0.5) / all.length]));
    const place = (row: number) => order.get(valueAt(column, row)) ?? Number.NaN;
    // The first category stands at the top.
    return name === "y" ? (row) => 1 - place(row) : place;
  }
  const [least, most] = extentOf(column.values) ?? [0, 1];
  const from = axis?.fromZero ? Math.min(0, least) : least;
  return (row) => ((column.values[row] as number) - from) / (most - from || 1);
}

/** Marks of a layer in a corner of the plot, by their x and y, and how many there are in all. */
function marksIn({ axes }: ChartPlan, answer: Answer, corner: LegendPlace) {
  const [x, y] = [channelValues("x", answer, answer), channelValues("y", answer, answer)];
  const [across, up] = [placeAlong(x, "x", axes.x), placeAlong(y, "y", axes.y)];
  const isNear = (place: number, isFar: boolean) => (isFar ? place > 1 - CORNER : place < CORNER);
  const found: Scalar[][] = [];
  let known = 0;
  for (let mark = 0; mark < Math.min(LOOKED_AT, answer.counts.length); mark++) {
    if (!answer.counts[mark]) continue;
    known += 1;
    if (isNear(across(mark), corner.endsWith("right")) && isNear(up(mark), corner.includes("top")))
      found.push([valueAt(x, mark), valueAt(y, mark)]);
  }
  return { found, known };
}

/** True for an axis along which a share of its values is the same share of its length. */
const isSteady = (axis: AxisPlan | undefined): boolean =>
  (axis?.scale === "linear" || axis?.scale === "category") && !axis.reverse && !Array.isArray(axis.range);

/** A legend in a corner of the plot where marks are. */
export const underLegend: Advice = {
  code: "legend-on-marks",
  find(view) {
    const { plan, compiling } = view;
    const { at: corner } = plan.legend;
    const layer = plan.layers.find(
      ({ query, draw }) => query.channels.x && query.channels.y && (draw === "points" || draw === "line"),
    );
    if (
      !corner.startsWith("in_") ||
      !layer ||
      !Object.values(plan.axes).every(isSteady) ||
      plan.panels ||
      plan.variants
    )
      return undefined;
    if (!isText(firstOf(plan, "color"))) return undefined;
    const { found, known } = marksIn(plan, answerNow(compiling, layer.query, layerOptions(plan)), corner);
    if (found.length === 0) return undefined;
    return {
      at: ["legend", "at"],
      message: `${found.length} of ${known} marks lie in the corner where the legend is; at the top it stands off them`,
      fix: replaceFix(view, ["legend", "at"], "top"),
      marks: { channels: ["x", "y"], values: found.slice(0, LIT) },
    };
  },
};
