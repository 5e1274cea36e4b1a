import type { Drawn } from "../../core/chart/draw";
import type { TooltipLine } from "../../core/chart/tooltip";
import type { Found } from "./find-mark";

/** Most marks of a shape that the keyboard walks; nobody would reach the others. */
const MOST = 5000;

type Place = Pick<Found, "panel" | "layer" | "shape" | "mark">;

/** The mark so many steps after another in drawn order, from the last back to the first. */
export function nextMark(drawn: Drawn, from: Found | undefined, step: number): Found | undefined {
  const flat: Place[] = drawn.panels.flatMap(({ layers }, panel) =>
    layers.flatMap(({ shapes }, layer) =>
      shapes.flatMap(({ ids }, shape) =>
        Array.from({ length: Math.min(ids.length, MOST) }, (_, mark) => ({ panel, layer, shape, mark })),
      ),
    ),
  );
  if (flat.length === 0) return undefined;
  const isFrom = (one: Place) =>
    from !== undefined &&
    one.panel === from.panel &&
    one.layer === from.layer &&
    one.shape === from.shape &&
    one.mark === from.mark;
  const now = from ? flat.findIndex(isFrom) : step > 0 ? -1 : 0;
  const place = flat[(now + step + flat.length) % flat.length] as Place;
  const shape = drawn.panels[place.panel]?.layers[place.layer]?.shapes[place.shape];
  return shape && { ...place, id: shape.ids[place.mark] as number, ...shape.middle(place.mark), distance: 0 };
}

/** A tooltip read out. */
export const wordsOfMark = (lines: readonly TooltipLine[]): string =>
  lines.map(({ label, text, unit }) => `${label} ${text}${unit ? ` ${unit}` : ""}`).join(", ");
