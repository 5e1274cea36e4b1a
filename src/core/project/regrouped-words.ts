import type { Path } from "../sheet/tree";
import { ColumnNames } from "./group-writer";
import { livePart, type Regrouping, type SheetChange, writtenParts } from "./regrouping";

/** Words around a piece with the values that stood in them: nothing reached these, so that they are words now. */
export function wordChanges(regrouping: Regrouping): SheetChange[] {
  const { piece } = regrouping;
  const values = livePart(regrouping, new ColumnNames());
  if (!piece.live || !values) return [];
  return Object.entries(piece.live.parts).map(([key, parts]) => ({
    path: ["charts", piece.name, ...wordPath(key, regrouping)],
    value: writtenParts(parts, (channel) => values.valueIn(channel)),
  }));
}

/** Where the sheet has the words: beside the piece, or on an axis of the chart or of the layer that has the right one. */
function wordPath(key: string, { piece: { plan } }: Regrouping): Path {
  const axis = /^axis (\w+)$/.exec(key)?.[1];
  if (axis === undefined) return [key];
  if (axis !== "y2" || plan.type !== "chart") return ["axes", axis, "title"];
  return ["layers", plan.layers.findIndex(({ side }) => side === "right"), "axes", "y", "title"];
}
