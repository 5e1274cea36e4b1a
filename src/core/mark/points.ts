import { Discs } from "../scene/shapes/discs";
import type { MarkDraw, MarkSpec } from "./mark";
import { pixelPlaces } from "./place-values";

export const pointsSpec = {
  name: "points",
  says: "A disc for each row or group.",
  many: "points",
  needs: [["x"], ["y"]],
  needed: "points need x: or y:",
  takes: ["x", "y", "color", "opacity", "size", "series"],
  brushedInBoxes: true,
} as const satisfies MarkSpec;

/** Areas of points in square pixels: small where there are many. */
const AREA = { few: 24, many: 9, above: 2000 };

export const pointsDraw: MarkDraw = {
  shapes({ layer, values, ids, stage, base }) {
    const { size } = layer.looks;
    const area = typeof size === "number" ? size : ids.length > AREA.above ? AREA.many : AREA.few;
    const places = { x: pixelPlaces(values, "x", "x", stage, ids), y: pixelPlaces(values, "y", "y", stage, ids) };
    return { shapes: [new Discs(base, { ...places, radius: Math.sqrt(area / Math.PI) })] };
  },
};
