import { Words } from "../scene/shapes/words";
import { textWidth } from "../scene/text-width";
import { paintOn } from "../scene/theme";
import { LABEL_SIZE, labelTexts, MOST_LABELS } from "./labels";
import type { WordSpot, WriteAtMarks } from "./mark-words";

/** The box that words take, in pixels: left, top, right, bottom. */
function boxOf({ x, y, anchor }: WordSpot, width: number): [number, number, number, number] {
  const left = anchor === "start" ? x : anchor === "end" ? x - width : x - width / 2;
  return [left, y - LABEL_SIZE / 2, left + width, y + LABEL_SIZE / 2];
}

/** Tells whether words have a place of their own, and takes it for them: what comes first stands. */
function placeTaker(): (spot: WordSpot, width: number) => boolean {
  const taken: [number, number, number, number][] = [];
  return (spot, width) => {
    const own = boxOf(spot, width);
    const [left, top, right, bottom] = own;
    if (taken.some(([l, t, r, b]) => left < r && right > l && top < b && bottom > t)) return false;
    taken.push(own);
    return true;
  };
}

export const writeAtMarks: WriteAtMarks = (drawing, spotOf, rim = false) => {
  const { base, layer, values } = drawing;
  const ids = drawing.ids.subarray(0, MOST_LABELS);
  const takes = placeTaker();
  const column = values.get("label");
  const isKnown = (id: number) =>
    !column || (column.kind === "text" ? (column.codes[id] as number) >= 0 : !Number.isNaN(column.values[id]));
  const found = labelTexts({ layer, values, ids }).flatMap((text, mark) => {
    const width = textWidth(text, LABEL_SIZE);
    const spot = isKnown(ids[mark] as number) ? spotOf(mark, width) : undefined;
    return spot && takes(spot, width) ? [{ ...spot, text, mark }] : [];
  });
  const paints = ["ink", ...base.paints.map(paintOn)];
  return (["start", "middle", "end"] as const).flatMap((anchor) => {
    const own = found.filter((spot) => spot.anchor === anchor);
    if (own.length === 0) return [];
    const looks = {
      layer: base.layer,
      opacity: base.opacity,
      paints,
      ids: Int32Array.from(own, ({ mark }) => ids[mark] as number),
      color: Uint16Array.from(own, ({ mark, on }) => (on ? (base.color[mark] as number) + 1 : 0)),
    };
    const x = Float64Array.from(own, (spot) => spot.x);
    const y = Float64Array.from(own, (spot) => spot.y);
    return [new Words(looks, { x, y, texts: own.map(({ text }) => text), size: LABEL_SIZE, anchor, rim })];
  });
};
