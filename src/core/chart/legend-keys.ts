import { markDraw } from "../mark/draws";
import { radiusOf, sizeMost, sizeRange, strokeOf } from "../mark/point-size";
import type { Answer } from "../query/answer";
import { categoriesOf } from "../query/categories";
import type { Channel } from "../query/query";
import type { Column } from "../table/column";
import type { ColorScale } from "./inputs";
import type { ChartPlan } from "./plan";

/** What a legend explains: colours, of points their sizes and symbols, of rules how wide they are. */
export interface LegendKeys {
  color?: ColorScale;
  colorChannel?: Channel;
  /** Values whose discs are shown, with their radii in pixels. */
  sizes?: { channel: Channel; marks: { value: number; radius: number }[] };
  /** Values whose strokes are shown, with their widths in pixels. */
  widths?: { channel: Channel; marks: { value: number; width: number }[] };
  /** Names in the order of their symbols. */
  symbols?: { channel: Channel; names: (string | null)[] };
}

/** The largest disc that a line of a legend has room for, in pixels. */
const LARGEST_SHOWN = 9;

/** The largest of 1, 2 and 5 times a power of ten that is not above a value. */
function roundBelow(value: number): number {
  const power = 10 ** Math.floor(Math.log10(value));
  const part = value / power;
  return (part >= 5 ? 5 : part >= 2 ? 2 : 1) * power;
}

/** The smallest of 1, 2 and 5 times a power of ten that is not below a value. */
function roundAbove(value: number): number {
  const below = roundBelow(value);
  return below === value ? below : roundBelow(below * 2.5);
}

/** How many times the smallest value of a legend the largest one is, and the middle one. */
const SPREAD = { most: 16, middle: 4 };

/**
 * Round values, three at the most, whose discs show how areas follow values: from the largest that a line has room
 * for down, and from the very largest where all values are so near one another that less would stand for none.
 */
function sizeMarks({ least, most }: ReturnType<typeof sizeRange>) {
  const fitting = most * Math.min(1, (LARGEST_SHOWN / radiusOf(most, most)) ** 2);
  const between = (high: number, low: number, lowest = roundBelow(low)) =>
    new Set([roundBelow(high), roundBelow(Math.sqrt(high * low)), lowest]);
  const near = least > fitting / SPREAD.middle ? between(most, least) : undefined;
  const low = fitting / SPREAD.most;
  const spread = least > low && least < fitting ? between(fitting, least, roundAbove(least)) : between(fitting, low);
  const values = near && near.size > 1 ? near : spread;
  return [...values].reverse().map((value) => ({ value, radius: radiusOf(value, most) }));
}

/** Three round values whose strokes show how widths follow values. */
function widthMarks(most: number) {
  const values = new Set([most, most / 2, most / 5].map(roundBelow));
  return [...values].reverse().map((value) => ({ value, width: strokeOf(value, most) }));
}

const known = new WeakMap<Column, (string | null)[]>();

/** The names of all values of a column: it is asked for them at every drawing, and does not change. */
function namesIn(column: Column, order: readonly string[] | undefined): (string | null)[] {
  let names = known.get(column);
  if (!names) {
    names = categoriesOf(column, order).map(({ name }) => name);
    known.set(column, names);
  }
  return names;
}

/** What the legend of a chart explains. `allOf` answers a layer over all rows. */
export function legendKeys(
  { layers }: ChartPlan,
  color: ColorScale | undefined,
  allOf: (layer: number) => Answer,
): LegendKeys {
  const keys: LegendKeys = {};
  const colorChannel = layers.map(({ query }) => query.channels.color).find((channel) => channel !== undefined);
  if (color && colorChannel) Object.assign(keys, { color, colorChannel });
  layers.forEach(({ draw, query: { channels } }, at) => {
    const { discs, strokes } = markDraw(draw);
    const { size, symbol } = channels;
    if (strokes && size && !keys.widths) {
      const most = sizeMost(allOf(at));
      if (most > 0) keys.widths = { channel: size, marks: widthMarks(most) };
    }
    if (!discs) return;
    if (size && !keys.sizes) {
      const range = sizeRange(allOf(at));
      if (range.most > 0) keys.sizes = { channel: size, marks: sizeMarks(range) };
    }
    const named = symbol && !keys.symbols ? allOf(at).prepared.keys.get("symbol") : undefined;
    if (symbol && named) keys.symbols = { channel: symbol, names: namesIn(named, symbol.order) };
  });
  return keys;
}
