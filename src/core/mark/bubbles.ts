import { packSiblings } from "d3-hierarchy";
import { Discs } from "../scene/shapes/discs";
import { Words } from "../scene/shapes/words";
import { cutText } from "../scene/text-width";
import { labelTexts } from "./labels";
import type { MarkDraw, MarkSpec } from "./mark";

export const bubblesSpec = {
  name: "bubbles",
  says: "Circles packed together, each as large as its value.",
  many: "bubbles",
  needs: [["size", "label"]],
  needed: "bubbles need size:, such as sum(tonnes), and label:",
  takes: ["size", "label", "color", "opacity"],
  varies: ["size", "opacity"],
  stage: "own",
} as const satisfies MarkSpec;

/** Circles of these areas, packed in a box of fixed proportions about 0, 0; the largest in the middle. */
function packed(sizes: Float64Array): { x: Float64Array; y: Float64Array; radius: Float64Array; reach: number } {
  const order = [...sizes.keys()].sort((a, b) => (sizes[b] as number) - (sizes[a] as number) || a - b);
  const circles = packSiblings(
    order.map((at) => ({ at, r: Math.sqrt(Math.max(0, sizes[at] as number) || 0), x: 0, y: 0 })),
  );
  const x = new Float64Array(sizes.length);
  const y = new Float64Array(sizes.length);
  const radius = new Float64Array(sizes.length);
  let reach = 0;
  for (const circle of circles) {
    x[circle.at] = circle.x;
    y[circle.at] = circle.y;
    radius[circle.at] = circle.r;
    reach = Math.max(reach, Math.hypot(circle.x, circle.y) + circle.r);
  }
  return { x, y, radius, reach };
}

/** Names are written where they have room for so many pixels of height. */
const SMALLEST = 9;

export const bubblesDraw: MarkDraw = {
  crowds: true,
  shapes(drawing) {
    const { values, ids, stage, base, whole } = drawing;
    const all = whole.values.numbers("size") ?? new Float64Array(0);
    const layout = packed(Float64Array.from(whole.ids, (id) => all[id] as number));
    const placeOf = new Map(Array.from(whole.ids, (id, at) => [id, at]));
    const { plot } = stage;
    const scale = Math.max(0, Math.min(plot.width, plot.height) / 2 - 1) / (layout.reach || 1);
    const at = (list: Float64Array, id: number) => list[placeOf.get(id) ?? -1] ?? Number.NaN;
    const x = Float64Array.from(ids, (id) => plot.x + plot.width / 2 + at(layout.x, id) * scale);
    const y = Float64Array.from(ids, (id) => plot.y + plot.height / 2 + at(layout.y, id) * scale);
    const numbers = values.numbers("size");
    // A part of a faded whole is drawn from the same middle, as large as it is.
    const radius = Float64Array.from(ids, (id) => Math.sqrt(Math.max(0, numbers?.[id] ?? 0) || 0) * scale);
    const sizes = radius.map((own) => Math.min(15, own * 0.42));
    const texts = labelTexts(drawing).map((text, mark) =>
      (sizes[mark] as number) < SMALLEST ? "" : cutText(text, 1.7 * (radius[mark] as number), sizes[mark] as number),
    );
    const words = new Words(
      // Where a bubble is faint its name is read on the ground.
      { ...base, paints: ["ink", "sheet"], color: new Uint16Array(ids.length).fill(1) },
      { x, y, texts, size: sizes },
    );
    return { shapes: [new Discs(base, { x, y, radius })], over: [words] };
  },
};
