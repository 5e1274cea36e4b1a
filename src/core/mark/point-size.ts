import type { Answer } from "../query/answer";
import { LayerValues } from "../query/values";

/** The area of the point with the largest value, in square pixels, where sizes follow values. */
const LARGEST = 420;

/** The ends of what is above zero among the values of the size channel; both 0 where nothing is. */
interface SizeRange {
  least: number;
  most: number;
}

const RANGES = new WeakMap<Answer, SizeRange>();

export function sizeRange(all: Answer): SizeRange {
  let range = RANGES.get(all);
  if (range === undefined) {
    range = { least: 0, most: 0 };
    for (const value of new LayerValues(all, all).numbers("size") ?? []) {
      if (value > range.most) range.most = value;
      if (value > 0 && (range.least === 0 || value < range.least)) range.least = value;
    }
    RANGES.set(all, range);
  }
  return range;
}

/** The largest value of the size channel over all rows; 0 where there is none above it. */
export const sizeMost = (all: Answer): number => sizeRange(all).most;

/** The stroke of the rule with the largest value, in pixels, where widths follow values; none is finer than the least. */
const STROKES = { most: 9, least: 0.5 };

/** The width of a rule's stroke in pixels, in proportion to its value. Missing and negative values have none. */
export function strokeOf(value: number, most: number): number {
  if (!(value > 0)) return 0;
  return Math.max(STROKES.least, (STROKES.most * value) / (most || 1));
}

/** The radius of a point in pixels: areas are in proportion to values. Missing and negative values have none. */
export function radiusOf(value: number, most: number): number {
  const shown = Math.max(0, value);
  return shown === shown ? Math.sqrt((LARGEST * shown) / (most || 1) / Math.PI) : 0;
}
