import { Lines } from "../scene/shapes/lines";
import { inLines, isRamped } from "./line";
import { BEHIND, type MarkDraw, type MarkSpec } from "./mark";
import { pixelPlaces } from "./place-values";

export const trackSpec = {
  name: "track",
  says: "A line that connects its rows in the order of along.",
  many: "places on tracks",
  needs: [
    ["x", "y", "along"],
    ["lon", "lat", "along"],
  ],
  needed: "track needs x: and y:, or lon: and lat:, and along: for the order in which it connects them",
  takes: ["x", "y", "lon", "lat", "color", "opacity", "size", "series", "along"],
} as const satisfies MarkSpec;

const STROKE = 2;

/** Where stretches begin if a track breaks off at the edge of a globe and begins again where it comes back. */
function seenStarts(x: Float64Array, starts: readonly number[]): readonly number[] {
  if (!x.includes(BEHIND)) return starts;
  const seen = new Set(starts);
  for (let at = 1; at < x.length; at++) if ((x[at] === BEHIND) !== (x[at - 1] === BEHIND)) seen.add(at);
  return [...seen].sort((a, b) => a - b);
}

export const trackDraw: MarkDraw = {
  shapes(drawing) {
    const { layer, values, ids, stage, base } = drawing;
    const { order, starts } = inLines(drawing);
    const sorted = order.map((i) => ids[i] as number);
    const color = Uint16Array.from(order, (i) => base.color[i] as number);
    const { size } = layer.looks;
    const x = pixelPlaces(values, "x", "x", stage, sorted);
    const seen = seenStarts(x, starts);
    const parts = {
      x,
      y: pixelPlaces(values, "y", "y", stage, sorted),
      starts: Int32Array.from(seen),
      lineColor: Uint16Array.from(seen.slice(0, -1), (start) => color[start] as number),
      width: typeof size === "number" ? size : STROKE,
      byVertex: isRamped(drawing),
    };
    return { shapes: [new Lines({ ...base, ids: sorted, color }, parts)] };
  },
};
