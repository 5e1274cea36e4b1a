import { tooltipLines } from "../chart/tooltip";
import { numberFormat } from "../formula/number-format";
import type { LayerValues } from "../query/values";
import { Outlines, type Ring } from "../scene/shapes/outlines";
import type { Words } from "../scene/shapes/words";
import { LABEL_SIZE } from "./labels";
import type { Drawing, MarkDraw, MarkSpec } from "./mark";
import { wordsAt } from "./mark-words";

export const slicesSpec = {
  name: "slices",
  says: "Parts of a whole, each in its colour.",
  many: "slices",
  needs: [["color", "value"]],
  needed: "slices need color: and value:, such as sum(tonnes)",
  takes: ["color", "value", "opacity", "label"],
  options: { ring: { takes: "number", says: "The part of the radius that is left open in the middle, 0 to 0.9." } },
  stage: "own",
} as const satisfies MarkSpec;

/** Radians of a slice that is all of a circle; sums of parts may end a little before. */
const WHOLE = 2 * Math.PI - 1e-9;

/** Radians between two corners of an arc: no more than a hundredth of a pixel from the circle. */
const FINE = 0.02;

/** A slice between two angles from the top, clockwise, and two radii; one that is all of them has no cut. */
function slice(x: number, y: number, inner: number, outer: number, from: number, to: number): Ring[] {
  const steps = Math.max(2, Math.ceil((to - from) / FINE));
  const arc = (radius: number, begin: number, end: number): number[] =>
    Array.from({ length: steps + 1 }, (_, at) => {
      const angle = begin + ((end - begin) * at) / steps;
      return [x + radius * Math.sin(angle), y - radius * Math.cos(angle)];
    }).flat();
  const edges = [arc(outer, from, to), inner > 0 ? arc(inner, to, from) : [x, y]];
  if (to - from < WHOLE) return [Float64Array.from(edges.flat())];
  return edges.slice(0, inner > 0 ? 2 : 1).map((edge) => Float64Array.from(edge));
}

/** The label of each slice, in its middle, where all of its words lie within the slice. */
function sliceWords(
  drawing: Drawing,
  { x, y, inner, outer }: Record<"x" | "y" | "inner" | "outer", number>,
  angles: readonly (readonly [from: number, to: number])[],
): Words[] {
  const radius = inner > 0 ? (inner + outer) / 2 : outer * 0.65;
  return wordsAt(drawing, (mark, width) => {
    const [from, to] = angles[mark] as [number, number];
    const middle = (from + to) / 2;
    const [right, down] = [radius * Math.sin(middle), -radius * Math.cos(middle)];
    const isIn = (across: number, under: number) => {
      const away = Math.hypot(across, under);
      const turned = Math.abs(Math.atan2(across, -under) - middle) % (2 * Math.PI);
      return away > inner && away < outer && Math.min(turned, 2 * Math.PI - turned) <= (to - from) / 2;
    };
    const isRoomy = [-1, 1].every((a) =>
      [-1, 1].every((b) => isIn(right + (a * width) / 2, down + (b * LABEL_SIZE) / 2)),
    );
    return isRoomy ? { x: x + right, y: y + down, anchor: "middle", on: true } : undefined;
  });
}

/** How large slices are; those of nothing, or of less, are none. */
function sizesOf(values: LayerValues, ids: Int32Array): Float64Array {
  const numbers = values.numbers("value");
  return Float64Array.from(ids, (id) => Math.max(0, numbers?.[id] ?? 0) || 0);
}

export const slicesDraw: MarkDraw = {
  shapes(drawing) {
    const { layer, values, ids, stage, base, whole } = drawing;
    const sizes = sizesOf(values, ids);
    const all = sizesOf(whole.values, whole.ids);
    const total = all.reduce((sum, size) => sum + size, 0);
    const { plot } = stage;
    const outer = Math.max(1, Math.min(plot.width, plot.height) / 2 - 2);
    const { ring } = layer.options;
    const inner = outer * (typeof ring === "number" ? Math.max(0, Math.min(0.9, ring)) : 0);
    const [x, y] = [plot.x + plot.width / 2, plot.y + plot.height / 2];
    const angleOf = (size: number) => (total ? (size / total) * 2 * Math.PI : 0);
    const begins = new Map<number, number>();
    let before = 0;
    whole.ids.forEach((id, at) => {
      begins.set(id, angleOf(before));
      before += all[at] as number;
    });
    // A part of a faded whole begins where the whole does, and is as wide as it is.
    const angles = Array.from(ids, (id, at): [from: number, to: number] => {
      const from = begins.get(id) ?? 0;
      return [from, from + angleOf(sizes[at] as number)];
    });
    const rings = angles.map(([from, to]): Ring[] => (to > from ? slice(x, y, inner, outer, from, to) : []));
    const percent = (mark: number) => `${numberFormat(".1f")((100 * (sizes[mark] as number)) / (total || 1))} %`;
    return {
      over: sliceWords(drawing, { x, y, inner, outer }, angles),
      shapes: [new Outlines(base, rings, 1)],
      lines: (_, mark) => [
        ...tooltipLines(layer.plan, values, ids[mark] as number),
        { label: "of all", text: percent(mark) },
      ],
    };
  },
};
