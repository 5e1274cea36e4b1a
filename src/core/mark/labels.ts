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

/** So many words that lie on one another are laid apart; of more nobody could tell which belongs where. */
const MOST_APART = 4;

/** The heights of words, in pixels, of which few that lie on one another stand evenly about their middle. */
function laidApart(x: Float64Array, y: Float64Array, widths: readonly number[], size: number): Float64Array {
  const lie = (a: number, b: number) =>
    Math.abs((y[a] as number) - (y[b] as number)) < size &&
    Math.abs((x[a] as number) - (x[b] as number)) < ((widths[a] as number) + (widths[b] as number)) / 2;
  const laid = y.slice();
  const open = new Set(x.keys());
  for (const first of x.keys()) {
    if (!open.delete(first)) continue;
    const pile = [first];
    for (const one of pile)
      for (const other of open)
        if (lie(one, other)) {
          open.delete(other);
          pile.push(other);
        }
    if (pile.length === 1 || pile.length > MOST_APART) continue;
    const middle = pile.reduce((sum, one) => sum + (y[one] as number), 0) / pile.length;
    pile.sort((a, b) => (y[a] as number) - (y[b] as number) || a - b);
    pile.forEach((one, place) => {
      laid[one] = middle + (place - (pile.length - 1) / 2) * size;
    });
  }
  return laid;
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
    const widths = texts.map((text) => textWidth(text, size));
    const x = at("x").map((place, mark) => inside(place, widths[mark] as number, stage.plot));
    return { shapes: [new Words(base, { x, y: laidApart(x, at("y"), widths, size), texts, size, rim: true })] };
  },
};
