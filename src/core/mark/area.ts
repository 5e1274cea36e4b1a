import { Areas } from "../scene/shapes/areas";
import { taken } from "../table/taken";
import { barsSpec, clampTo, otherAxis } from "./bars";
import { inLines, placesAlong } from "./line";
import type { MarkDraw, MarkSpec } from "./mark";
import { axisValues } from "./place-values";
import { measuredEnds, stackEnds } from "./stack";
import { bendsOf } from "./stack-bends";

export const areaSpec = {
  name: "area",
  says: "The stretch between a line and zero, or between two edges.",
  many: "places on areas",
  needs: [["x", "y"]],
  needed: "area needs both x: and y:, one of them measured, such as count()",
  takes: ["x", "y", "x_to", "y_to", "color", "opacity", "series", "along"],
  options: {
    gradient: { takes: "switch", says: "The mark's colour at its upper edge, the ground at its base." },
    steps: { takes: "switch", says: "Level from one place to the next." },
  },
  runs: true,
  axis: ({ along, ranged }) => (along ? {} : { fromZero: !ranged }),
  stacking: barsSpec.stacking,
} as const satisfies MarkSpec;

/** How much ink areas have that lie over one another: no one hides another. */
const OVER_ONE_ANOTHER = 0.55;

export const areaDraw: MarkDraw = {
  ends: measuredEnds,
  lengths: true,
  shapes(drawing) {
    const { input, layer, values, ids, stage, base } = drawing;
    const { along } = input.plan;
    const across = stage[otherAxis(along)];
    const { order, starts } = inLines(drawing);
    const sorted = order.map((i) => ids[i] as number);
    const color = Uint16Array.from(order, (i) => base.color[i] as number);
    const ends = stackEnds(input, values, ids);
    const pixel = (value: number) => (across ? across.place(clampTo(across, value)) : 0);
    const places = axisValues(values, along, along, stage, sorted);
    const edges = {
      along: placesAlong(drawing, along, places),
      from: taken(ends.from, order).map(pixel),
      to: taken(ends.to, order).map(pixel),
      starts: Int32Array.from(starts),
    };
    const { stacking } = input.plan;
    const isHeaped = stacking === "sum" || stacking === "percent" || stacking === "stream";
    const parts = {
      ...edges,
      axis: along,
      bends: isHeaped ? bendsOf(edges) : undefined,
      areaColor: Uint16Array.from(starts.slice(0, -1), (start) => color[start] as number),
      gradient: layer.options.gradient === true,
      steps: layer.options.steps === true,
    };
    const isSaid = layer.looks.opacity !== undefined || "opacity" in layer.plan.query.channels;
    const isOver = !isHeaped && !isSaid && starts.length > 2;
    const opacity = base.opacity * (isOver ? OVER_ONE_ANOTHER : 1);
    return { shapes: [new Areas({ ...base, opacity, ids: sorted, color }, parts)] };
  },
};
