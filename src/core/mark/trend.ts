import { trendLine } from "../stat/trend-line";
import { fittedMarks } from "./fitted";
import type { MarkDraw, MarkSpec } from "./mark";

export const trendSpec = {
  name: "trend",
  says: "A straight line by least squares, fitted to the rows as they are drawn.",
  many: "places on lines",
  needs: [["x", "y"]],
  needed: "trend needs x: and y:",
  takes: ["x", "y", "color", "opacity", "size", "series"],
  merges: ["color", "series"],
} as const satisfies MarkSpec;

export const trendDraw: MarkDraw = {
  shapes: (drawing) => fittedMarks(drawing, ({ x, y }) => trendLine(x, y), false),
};
