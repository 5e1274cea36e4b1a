import { Outlines } from "../scene/shapes/outlines";
import type { MarkDraw, MarkSpec } from "./mark";
import { wordsAt } from "./mark-words";

export const regionsSpec = {
  name: "regions",
  says: "Places with their outlines, on a map.",
  many: "regions",
  needs: [["place"]],
  needed: "regions need place:, a column of places",
  takes: ["place", "color", "opacity", "label"],
  varies: ["opacity"],
  stage: "map",
} as const satisfies MarkSpec;

export const regionsDraw: MarkDraw = {
  shapes(drawing) {
    const { values, ids, stage, base } = drawing;
    const column = values.get("place");
    const { project } = stage;
    if (column?.kind !== "text" || !project) return { shapes: [] };
    const rings = Array.from(ids, (id) => {
      const text = column.dictionary[column.codes[id] as number];
      return text === undefined ? [] : project.rings(text);
    });
    const outlines = new Outlines(base, rings);
    const over = wordsAt(drawing, (mark, width) => {
      const { x, y } = outlines.middle(mark);
      return outlines.roomAt(mark) >= width ? { x, y, anchor: "middle", on: true } : undefined;
    });
    return { shapes: [outlines], over };
  },
};
