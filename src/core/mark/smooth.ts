import { smoothCurve } from "../stat/local-regression";
import { fittedMarks } from "./fitted";
import type { MarkDraw, MarkSpec } from "./mark";

export const smoothSpec = {
  name: "smooth",
  says: "A smooth curve by local regression, fitted to the rows as they are drawn.",
  many: "places on curves",
  needs: [["x", "y"]],
  needed: "smooth needs x: and y:",
  takes: ["x", "y", "color", "opacity", "size", "series"],
  options: { span: { takes: "number", says: "The share of the rows that each place looks at; 0.3 if unsaid." } },
  merges: ["color", "series"],
} as const satisfies MarkSpec;

const SPAN = 0.3;

export const smoothDraw: MarkDraw = {
  shapes(drawing) {
    const { span } = drawing.layer.options;
    // Where all rows are many, bins stand for them whatever is picked.
    const isBinned = drawing.layer.all.counts.length > 5000;
    return fittedMarks(
      drawing,
      ({ x, y }) => smoothCurve(x, y, typeof span === "number" ? span : SPAN, isBinned),
      false,
    );
  },
};
