import { MISSING_NAME } from "../query/categories";
import type { Channel } from "../query/query";
import { categoryText, withUnit, writeNumber } from "../query/write";
import { LARGE, TINY } from "../scale/tick-text";
import { escapeAttribute, escapeText } from "../scene/escape";
import { SYMBOLS } from "../scene/shapes/symbols";
import { textWidth } from "../scene/text-width";
import { type Ground, paintOf, TOKENS } from "../scene/theme";
import { type ColorRamp, paintOfRamp, rampPart } from "./color-ramp";
import type { ColorScale } from "./inputs";
import type { LegendKeys } from "./legend-keys";
import type { ChartPlan, LegendPlace } from "./plan";

/** Size of words in legends, the gap beside a picture and between entries, and what a line takes, in pixels. */
const TEXT = 13;
const BESIDE = 5;
const GAP = 14;
const LINE = 18.2;

/** Something that a legend says: a small picture between words. */
export interface LegendItem {
  /** The place of its colour among all; only these can be pressed. */
  entry?: number;
  before?: string;
  /** Inner SVG of a picture of so many pixels. */
  picture: string;
  width: number;
  height: number;
  after: string;
  /** It stands in one line with the one before it: of sizes one alone says nothing. */
  joined?: true;
}

/** Colours that are values themselves say nothing that a legend could. */
const saysColors = (color: ColorScale | undefined): color is ColorScale =>
  color !== undefined && !(color.type === "categories" && color.literal === true);

export const hasLegend = ({ legend }: ChartPlan, { color, sizes, widths, symbols }: LegendKeys): boolean =>
  legend.at !== "none" && (saysColors(color) || [sizes, widths, symbols].some((key) => key !== undefined));

/** A symbol of points within a square of 10 pixels. */
function symbolPicture(place: number, fill: string): string {
  const corners = SYMBOLS[place % SYMBOLS.length];
  if (!corners) return `<circle cx="5" cy="5" r="4.2" fill="${fill}"/>`;
  const points = corners.map(([x, y]) => `${(5 + x * 4.2).toFixed(2)},${(5 + y * 4.2).toFixed(2)}`).join(" ");
  return `<polygon points="${points}" fill="${fill}"/>`;
}

const swatch = (fill: string) => `<path d="M0 0h10v10H0z" fill="${fill}"/>`;

/** Everything that a legend says, in its order. */
export function legendItems(keys: LegendKeys, ground: Ground): LegendItem[] {
  const items: LegendItem[] = [];
  const { color, colorChannel, sizes, widths, symbols } = keys;
  const plain = TOKENS[ground].quiet;
  // Where both say the same, one entry has the colour and the symbol.
  const bothSay = symbols !== undefined && symbols.channel.text === colorChannel?.text;
  // Of what something is true or false, its entries do not say.
  if (saysColors(color) && color.type === "categories" && colorChannel?.kind === "boolean")
    items.push({ before: colorChannel.label, picture: "", width: 0, height: 0, after: "" });
  if (saysColors(color) && color.type === "categories")
    color.names.forEach((name, entry) => {
      const fill = escapeAttribute(paintOf(color.paints[entry] as string, ground));
      const picture = bothSay ? symbolPicture(symbols.names.indexOf(name), fill) : swatch(fill);
      items.push({ entry, picture, width: 10, height: 10, after: categoryText(name, colorChannel) });
    });
  if (color?.type === "ramp" && colorChannel) {
    items.push(rampItem(color, colorChannel, ground));
    if (color.missing) items.push({ picture: swatch(plain), width: 10, height: 10, after: MISSING_NAME, joined: true });
  }
  items.push(...sizeItems(sizes, plain), ...widthItems(widths, plain));
  if (symbols && !bothSay)
    symbols.names.forEach((name, place) => {
      const after = categoryText(name, symbols.channel);
      items.push({ picture: symbolPicture(place, plain), width: 10, height: 10, after });
    });
  return items;
}

/** Discs of some values, after what they measure. */
function sizeItems(sizes: LegendKeys["sizes"], stroke: string): LegendItem[] {
  if (!sizes) return [];
  const { before, after } = valueWords(sizes);
  return sizes.marks.map(({ value, radius }, at) => {
    const side = Math.ceil(radius * 2) + 1;
    const picture = `<circle cx="${side / 2}" cy="${side / 2}" r="${radius.toFixed(2)}" fill="none" stroke="${stroke}"/>`;
    return { ...before(at), picture, width: side, height: side, after: after(value) };
  });
}

/** Strokes of some values, after what they measure. */
function widthItems(widths: LegendKeys["widths"], stroke: string): LegendItem[] {
  if (!widths) return [];
  const { before, after } = valueWords(widths);
  return widths.marks.map(({ value, width }, at) => {
    const height = Math.ceil(width) + 1;
    const picture = `<path d="M0 ${height / 2}h18" stroke="${stroke}" stroke-width="${width.toFixed(2)}"/>`;
    return { ...before(at), picture, width: 18, height, after: after(value) };
  });
}

/** How values beside their pictures are written: the first after what they measure, all in one line. */
function valueWords({ channel, marks }: { channel: Channel; marks: readonly { value: number }[] }) {
  const isPlain = channel.kind === "number" && channel.format === undefined;
  const short = isPlain ? inShort(Math.max(...marks.map(({ value }) => Math.abs(value)))) : undefined;
  const written = short === undefined ? channel : { ...channel, format: short };
  return {
    before: (at: number) => (at > 0 ? { joined: true as const } : { before: withUnit(channel.label, channel.unit) }),
    after: (value: number) => writeNumber(written, value),
  };
}

const RAMP = { width: 96, steps: 24 };

/** A strip of a ramp between its ends in words. */
function rampItem(color: ColorRamp, channel: NonNullable<LegendKeys["colorChannel"]>, ground: Ground): LegendItem {
  const { width, steps } = RAMP;
  const picture = Array.from({ length: steps }, (_, step) => {
    const value = color.low + ((color.high - color.low) * step) / (steps - 1);
    const fill = escapeAttribute(paintOf(paintOfRamp(color, rampPart(color, value)), ground));
    return `<path d="M${step * 4} 0h4.2v10h-4.2z" fill="${fill}"/>`;
  }).join("");
  const [low, high] = rampEnds(color, channel);
  const unit = channel.unit ? ` ${channel.unit}` : "";
  return { before: `${channel.label} ${low}`, picture, width, height: 10, after: `${high}${unit}` };
}

/** How numbers up to a size are written where there is no room for them: as at axes. */
const inShort = (largest: number) => (largest >= LARGE ? ".3~s" : undefined);

/** The ends of a ramp in words, no finer than can be told apart on it. */
function rampEnds({ low, high }: ColorRamp, channel: NonNullable<LegendKeys["colorChannel"]>): [string, string] {
  const range = high - low;
  const isPlain = channel.kind === "number" && channel.format === undefined && range > 0;
  const digits = isPlain ? Math.max(0, Math.min(6, 1 - Math.floor(Math.log10(range)))) : 0;
  const usual = range < TINY ? ".3~g" : `,.${digits}~f`;
  const own = isPlain ? { ...channel, format: inShort(Math.max(Math.abs(low), Math.abs(high))) ?? usual } : channel;
  return [writeNumber(own, low), writeNumber(own, high)];
}

function itemHtml({ entry, before = "", picture, width, height, after }: LegendItem): string {
  const svg =
    picture &&
    `<svg width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" aria-hidden="true">${picture}</svg>`;
  const place = entry === undefined ? "" : ` data-entry="${entry}"`;
  return `<span${place}>${escapeText(before)}${svg}${escapeText(after)}</span>`;
}

/** Entries that stand in one line together. */
export function legendRuns(items: readonly LegendItem[]): LegendItem[][] {
  const runs: LegendItem[][] = [];
  for (const item of items) {
    if (item.joined) runs.at(-1)?.push(item);
    else runs.push([item]);
  }
  return runs;
}

/** Entries of a legend as HTML, each a word with its picture; the viewer makes switches of those of colours. */
export function legendHtml(keys: LegendKeys, ground: Ground): string {
  return legendRuns(legendItems(keys, ground))
    .map((run) => {
      const html = run.map(itemHtml).join("");
      return run.length > 1 ? `<span class="run">${html}</span>` : html;
    })
    .join("");
}

/** The class of a legend's place: beside the plot, or inside of it. */
export const legendClass = (at: LegendPlace): string => (at.startsWith("in_") ? "inside" : at);

/** What an entry takes of a line, in pixels. */
const itemWidth = ({ before, width, after }: LegendItem): number =>
  (before ? textWidth(before, TEXT) + BESIDE : 0) + width + BESIDE + textWidth(after, TEXT);

/** What entries that stand together take of a line, in pixels. */
export const runWidth = (run: readonly LegendItem[]): number =>
  run.reduce((width, item) => width + itemWidth(item) + GAP, -GAP);

/** How much room a legend takes from the plot of a chart of some width, in pixels. */
export function legendRoom(plan: ChartPlan, keys: LegendKeys, width: number): { width: number; height: number } {
  const { at } = plan.legend;
  if (!hasLegend(plan, keys) || at.startsWith("in_")) return { width: 0, height: 0 };
  const items = legendItems(keys, "light");
  if (at === "left" || at === "right")
    return { width: Math.min(width * 0.3, Math.max(60, ...items.map(itemWidth)) + 16), height: 0 };
  let lines = 1;
  let used = 0;
  for (const entry of legendRuns(items).map(runWidth)) {
    if (used + entry > width && used > 0) {
      lines += 1;
      used = 0;
    }
    used += entry + GAP;
  }
  return { width: 0, height: 4 + lines * LINE + (lines - 1) * 2 };
}
