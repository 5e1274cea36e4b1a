import { Words } from "../scene/shapes/words";
import { textWidth } from "../scene/text-width";
import { placeWords } from "../stat/word-layout";
import { labelTexts } from "./labels";
import type { MarkDraw, MarkSpec } from "./mark";

export const wordsSpec = {
  name: "words",
  says: "Words as large as their values, the largest in the middle.",
  many: "words",
  needs: [["label", "size"]],
  needed: "words need label: and size:, such as count()",
  takes: ["label", "size", "color", "opacity"],
  varies: ["size"],
  stage: "own",
} as const satisfies MarkSpec;

/** The box in which words are laid out, in units of its own; it is scaled to the plot, so that all stay in place. */
const BOX = { width: 1600, height: 900 };
/** Sizes of words in that box, and how many are tried. */
const LARGEST = 150;
const SMALLEST = 22;
const MOST = 120;
/** Room beside a word, as a part of its size: two that stand in one line are not read as one. */
const APART = 0.4;
/** The part of the box that words can fill at best, as they are laid out one after the other. */
const FULL = 0.7;

/** The part of the box that the words fill, about its middle. */
function reachOf(
  layout: readonly ({ x: number; y: number } | undefined)[],
  chosen: readonly number[],
  widthOf: (id: number, at: number) => number,
  sizes: readonly number[],
): { width: number; height: number } {
  let [width, height] = [1, 1];
  layout.forEach((spot, at) => {
    if (!spot) return;
    width = Math.max(width, 2 * Math.abs(spot.x) + widthOf(chosen[at] as number, at));
    height = Math.max(height, 2 * Math.abs(spot.y) + (sizes[at] as number) * 1.3);
  });
  return { width, height };
}

/** Sizes and places of words by their values, the largest first; all of them are smaller where some find no room. */
function laidOut(words: readonly string[], values: readonly number[]) {
  const most = values[0] ?? 1;
  const roomOf = (size: number, at: number) => ({
    width: textWidth(words[at] as string, size) + APART * size,
    height: size,
  });
  const sizesOf = (scale: number) =>
    values.map((value) => Math.max(SMALLEST, scale * LARGEST * Math.sqrt(value / most)));
  const needed = sizesOf(1)
    .map(roomOf)
    .reduce((sum, { width, height }) => sum + width * height, 1);
  for (let scale = Math.min(1, Math.sqrt((FULL * BOX.width * BOX.height) / needed)); ; scale *= 0.85) {
    const sizes = sizesOf(scale);
    const layout = placeWords(sizes.map(roomOf), BOX);
    if (scale * LARGEST < 2 * SMALLEST || layout.every((spot) => spot !== undefined)) return { sizes, layout };
  }
}

export const wordsDraw: MarkDraw = {
  shapes(drawing) {
    const { layer, ids, stage, base, whole } = drawing;
    const all = whole.values.numbers("size") ?? new Float64Array(0);
    const { counts } = whole.values.answer;
    const names = labelTexts({ layer, values: whole.values, ids: Int32Array.from(counts.keys()) });
    const known = [...whole.ids].filter((id) => (all[id] as number) > 0);
    known.sort(
      (a, b) => (all[b] as number) - (all[a] as number) || ((names[a] as string) < (names[b] as string) ? -1 : 1),
    );
    const chosen = known.slice(0, MOST);
    const { sizes, layout } = laidOut(
      chosen.map((id) => names[id] as string),
      chosen.map((id) => all[id] as number),
    );
    const { plot } = stage;
    const reach = reachOf(layout, chosen, (id, at) => textWidth(names[id] as string, sizes[at] as number), sizes);
    // A browser may set type a little wider than it is measured.
    const scale = 0.98 * Math.min(plot.width / reach.width, plot.height / reach.height);
    const placeOf = new Map(chosen.map((id, at) => [id, at]));
    const shown = Int32Array.from(ids).filter((id) => layout[placeOf.get(id) ?? -1] !== undefined);
    const colorOf = new Map(Array.from(ids, (id, at) => [id, base.color[at] as number]));
    const find = (id: number) => layout[placeOf.get(id) as number] as { x: number; y: number };
    return {
      shapes: [
        new Words(
          { ...base, ids: shown, color: Uint16Array.from(shown, (id) => colorOf.get(id) as number) },
          {
            x: Float64Array.from(shown, (id) => plot.x + plot.width / 2 + find(id).x * scale),
            y: Float64Array.from(shown, (id) => plot.y + plot.height / 2 + find(id).y * scale),
            texts: Array.from(shown, (id) => names[id] as string),
            size: Float64Array.from(shown, (id) => (sizes[placeOf.get(id) as number] as number) * scale),
          },
        ),
      ],
    };
  },
};
