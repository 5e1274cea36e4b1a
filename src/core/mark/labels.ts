import { MISSING_NAME, nameAt } from "../query/categories";
import { writeAt } from "../query/write";
import type { Box } from "../scene/scene";
import { Words } from "../scene/shapes/words";
import { textWidth } from "../scene/text-width";
import type { Drawing, MarkDraw, MarkSpec } from "./mark";
import { pixelPlaces } from "./place-values";

export const labelsSpec = {
  name: "labels",
  says: "Words at places.",
  many: "labels",
  needs: [
    ["x", "label"],
    ["y", "label"],
    ["lon", "lat", "label"],
  ],
  needed: "labels need label: and a place, such as x: and y:",
  takes: ["x", "y", "lon", "lat", "color", "opacity", "size", "label"],
} as const satisfies MarkSpec;

/** Size of words at marks, in pixels. */
export const LABEL_SIZE = 12;

/** Most words at marks that a chart writes. */
export const MOST_LABELS = 300;

/** The words of each mark: fixed ones, or the values of the label channel. */
export function labelTexts({ layer, values, ids }: Pick<Drawing, "layer" | "values" | "ids">): string[] {
  const fixed = layer.looks.label;
  const column = values.get("label");
  const channel = layer.plan.query.channels.label;
  return Array.from(ids, (id) => {
    if (!column || !channel) return String(fixed ?? "");
    return column.kind === "text" ? (nameAt(column, id) ?? MISSING_NAME) : writeAt(channel, column, id);
  });
}

/** The middle of words that would be cut off at an end of the plot, moved in so far that they are not. */
function inside(place: number, width: number, { x, width: room }: Box): number {
  if (!(place >= x && place <= x + room) || width > room) return place;
  return Math.min(Math.max(place, x + width / 2), x + room - width / 2);
}

export const labelsDraw: MarkDraw = {
  shapes(drawing) {
    const { layer, values, stage } = drawing;
    const ids = drawing.ids.subarray(0, MOST_LABELS);
    const base = { ...drawing.base, ids, color: drawing.base.color.subarray(0, MOST_LABELS) };
    const middle = (axis: "x" | "y") => {
      const { plot } = stage;
      return new Float64Array(ids.length).fill(axis === "x" ? plot.x + plot.width / 2 : plot.y + 8);
    };
    const at = (axis: "x" | "y") =>
      values.get(axis) || stage.project ? pixelPlaces(values, axis, axis, stage, ids) : middle(axis);
    const size = typeof layer.looks.size === "number" ? layer.looks.size : LABEL_SIZE;
    const texts = labelTexts({ ...drawing, ids });
    const x = at("x").map((place, mark) => inside(place, textWidth(texts[mark] as string, size), stage.plot));
    return { shapes: [new Words(base, { x, y: at("y"), texts, size, rim: true })] };
  },
};
