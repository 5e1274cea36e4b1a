import { Outlines } from "../scene/shapes/outlines";
import type { MarkDraw, MarkSpec } from "./mark";

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
  shapes({ values, ids, stage, base }) {
    const column = values.get("place");
    const { project } = stage;
    if (column?.kind !== "text" || !project) return { shapes: [] };
    const rings = Array.from(ids, (id) => {
      const text = column.dictionary[column.codes[id] as number];
      return text === undefined ? [] : project.rings(text);
    });
    return { shapes: [new Outlines(base, rings)] };
  },
};
