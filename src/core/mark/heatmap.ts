import { stretchEnd } from "../query/interval";
import { Rects } from "../scene/shapes/rects";
import { LABEL_SIZE } from "./labels";
import type { AxisName, Drawing, MarkDraw, MarkSpec } from "./mark";
import { wordsAt } from "./mark-words";
import { axisValues } from "./place-values";

export const heatmapSpec = {
  name: "heatmap",
  says: "A cell for each pair of places, in the colour of its value.",
  many: "cells",
  needs: [["x", "y", "color"]],
  needed: "heatmap needs x:, y: and color:, such as count()",
  fills: true,
  takes: ["x", "y", "color", "opacity", "label"],
  varies: ["opacity"],
  axis: ({ channel }) => ({ grid: false, ...(channel.interval ? {} : { scale: "category" }) }),
} as const satisfies MarkSpec;

/** From where to where each cell goes along an axis, with a hairline of ground between neighbours. */
function spans({ values, ids, stage }: Drawing, axis: AxisName): { from: Float64Array; length: Float64Array } {
  const scale = stage[axis];
  const places = axisValues(values, axis, axis, stage, ids);
  const edges = values.prepared.edges.get(axis);
  const from = new Float64Array(ids.length);
  const length = new Float64Array(ids.length);
  for (let cell = 0; cell < ids.length; cell++) {
    const place = places[cell] as number;
    const half = (scale?.band ?? 0) / 2;
    const middle = scale?.place(place) ?? 0;
    const ends: [number, number] =
      edges && scale && !stage.categories[axis]
        ? [scale.place(place), scale.place(stretchEnd(edges, place))]
        : [middle - half, middle + half];
    const [low, high] = [Math.min(...ends), Math.max(...ends)];
    from[cell] = low;
    length[cell] = Math.max(0.5, high - low - (high - low > 6 ? 1 : 0));
  }
  return { from, length };
}

export const heatmapDraw: MarkDraw = {
  shapes(drawing) {
    const [x, y] = [spans(drawing, "x"), spans(drawing, "y")];
    const boxes = { x: x.from, y: y.from, width: x.length, height: y.length };
    const over = wordsAt(drawing, (cell, width) => {
      const [wide, high] = [boxes.width[cell] as number, boxes.height[cell] as number];
      if (width > wide - 4 || high < LABEL_SIZE + 2) return undefined;
      return {
        x: (boxes.x[cell] as number) + wide / 2,
        y: (boxes.y[cell] as number) + high / 2,
        anchor: "middle",
        on: true,
      };
    });
    return { shapes: [new Rects(drawing.base, boxes)], over };
  },
};
