import { Segments } from "../scene/shapes/segments";
import { Words } from "../scene/shapes/words";
import { LABEL_SIZE, labelTexts, MOST_LABELS } from "./labels";
import { type AxisName, BEHIND, type Drawing, type MarkDraw, type MarkSpec } from "./mark";
import { pixelPlaces } from "./place-values";
import { sizeMost, strokeOf } from "./point-size";

export const rulesSpec = {
  name: "rules",
  says: "A straight line for each row, or one at a fixed place (y: 4): across the plot, or from one place to another.",
  many: "rules",
  needs: [["x"], ["y"], ["lon", "lat", "lon_to", "lat_to"]],
  needed: "rules need x: or y:, or both ends on a map",
  takes: ["x", "y", "x_to", "y_to", "lon", "lat", "lon_to", "lat_to", "color", "opacity", "size", "label"],
  varies: ["size", "opacity"],
  inheritsPlaces: false,
} as const satisfies MarkSpec;

const STROKE = 1.2;

/** Both ends of rules along an axis: of the channel and its other end, else across the whole plot. */
function ends({ values, ids, stage }: Drawing, axis: AxisName): { from: Float64Array; to: Float64Array } {
  const { plot } = stage;
  if (stage.project) {
    const [from, to] = [axis, `${axis}_to`].map((name) => pixelPlaces(values, name, axis, stage, ids)) as [
      Float64Array,
      Float64Array,
    ];
    // A rule of which one end lies behind a globe is not seen at all.
    const isHidden = (at: number) => from[at] === BEHIND || to[at] === BEHIND;
    const seen = (pixels: Float64Array) => pixels.map((pixel, at) => (isHidden(at) ? BEHIND : pixel));
    return { from: seen(from), to: seen(to) };
  }
  const fill = (pixel: number) => new Float64Array(ids.length).fill(pixel);
  if (!values.get(axis))
    return axis === "x"
      ? { from: fill(plot.x), to: fill(plot.x + plot.width) }
      : { from: fill(plot.y + plot.height), to: fill(plot.y) };
  const from = pixelPlaces(values, axis, axis, stage, ids);
  const other = `${axis}_to`;
  return { from, to: values.get(other) ? pixelPlaces(values, other, axis, stage, ids) : from };
}

/** How wide the strokes are: all of them alike, or each by its value. */
function widths({ layer, values, ids }: Drawing): number | Float64Array {
  const { size } = layer.looks;
  const numbers = values.numbers("size");
  if (!numbers) return typeof size === "number" ? size : STROKE;
  const most = sizeMost(layer.all);
  return Float64Array.from(ids, (id) => strokeOf(numbers[id] as number, most));
}

export const rulesDraw: MarkDraw = {
  strokes: true,
  shapes(drawing) {
    const [x, y] = [ends(drawing, "x"), ends(drawing, "y")];
    const parts = { x1: x.from, y1: y.from, x2: x.to, y2: y.to, width: widths(drawing) };
    const shapes = [new Segments(drawing.base, parts)];
    const { ids, base, layer, stage } = drawing;
    if (!drawing.isLabelled) return { shapes };
    // The words of a rule stand at its end, inside of the plot.
    const isUpright = drawing.values.get("x") !== undefined && drawing.values.get("y") === undefined;
    const named = ids.subarray(0, MOST_LABELS);
    const words = new Words(
      { ...base, ids: named },
      {
        x: isUpright ? x.from.map((at) => at + 5) : x.to.map((at) => Math.min(at, stage.plot.x + stage.plot.width) - 4),
        y: isUpright ? y.to.map((at) => at + 8) : y.to.map((at) => at - 9),
        texts: labelTexts({ layer, values: drawing.values, ids: named }),
        size: LABEL_SIZE,
        anchor: isUpright ? "start" : "end",
        rim: true,
      },
    );
    return { shapes, over: [words] };
  },
};
