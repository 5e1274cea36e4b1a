import { leadingLayer } from "../../chart/leading";
import { listed, nearest } from "../../finding/nearest";
import { effectSpec } from "../../link/effects/index";
import { isContinuous } from "../../link/gestures/gesture";
import { type GestureName, gestureSpec } from "../../link/gestures/index";
import type { SelectionEffect } from "../../link/selection";
import { markSpec } from "../../mark/specs";
import type { PlanPiece } from "../../plan/plan";
import type { PlacedName } from "../../sheet/link-sentence";
import type { Path } from "../../sheet/tree";
import { blame, everyOther, type Linking, layerOf } from "./linking";

/** The gesture that suits a piece best. */
function naturalGesture(piece: PlanPiece): GestureName | undefined {
  const { plan } = piece;
  if (plan.type === "figure" || plan.type === "note" || plan.type === "summary") return undefined;
  if (plan.type === "table") return "rows";
  const layer = leadingLayer(plan);
  const free = (axis: "x" | "y") => {
    const channel = layer.query.channels[axis];
    return isContinuous(channel) && !channel.aggregate && plan.axes[axis]?.scale !== "category";
  };
  if (markSpec(layer.draw).brushedInBoxes && free("x") && free("y")) return "brush xy";
  if (free("x")) return "brush x";
  return free("y") ? "brush y" : "click";
}

/** Every chart of a table filters, by its natural gesture, all others that share rows with it. */
export function crossFilter(linking: Linking, word: PlacedName, path: Path) {
  const { tables, sheet } = linking.compiling;
  if (!tables.has(word.name)) {
    if (sheet.broken.has(`tables.${word.name}`)) return;
    const drawn = linking.pieces.get(word.name)?.plan.from;
    const near = drawn ?? nearest(word.name, tables.keys());
    const message =
      drawn === undefined
        ? `there is no table "${word.name}"${near ? `; did you mean ${near}?` : `; tables are ${listed(tables.keys())}`}`
        : `${word.name} is a chart; cross-filter takes a table, and links all charts of it: cross-filter ${drawn}`;
    blame(linking, path, word, "unknown-table", message, near);
    return;
  }
  for (const piece of linking.pieces.values()) if (piece.plan.from === word.name) filterOthers(linking, piece);
}

function filterOthers(linking: Linking, piece: PlanPiece) {
  const gesture = naturalGesture(piece);
  if (!gesture) return;
  const layer = layerOf(piece);
  const basis = gestureSpec(gesture).basis(piece, layer);
  if ("problem" in basis) return;
  const table = layer?.query.from ?? piece.plan.from;
  const effects: SelectionEffect[] = everyOther(linking, effectSpec("filter"), { piece, table, axes: [] }).map(
    ({ name }) => ({
      effect: "filter",
      target: name,
    }),
  );
  const known = linking.selections.find((selection) => selection.name === piece.name);
  if (!known) {
    const { kept } = gestureSpec(gesture);
    linking.selections.push({
      name: piece.name,
      source: piece.name,
      gesture,
      kept,
      table,
      ...basis,
      by: [],
      effects,
    });
    return;
  }
  // The author's own link on this chart stands; what it leaves out is added if the gesture is the same.
  if (known.gesture !== gesture || linking.namedByAuthor.has(known.name)) return;
  for (const effect of effects)
    if (!known.effects.some((own) => own.target === effect.target)) known.effects.push(effect);
}
