import { withUnit } from "../query/write";
import type { ScaleName } from "../scale/scale-kinds";
import type { Scale, Tick } from "../scale/scales";
import type { Box, SceneLine, SceneText } from "../scene/scene";
import { cutText, textWidth } from "../scene/text-width";
import type { AxisPlan } from "./plan";

/** Size of the words at axes, in pixels. */
export const TEXT = 12;

/** Lines and words of axes as they gather for a scene. */
export interface AxisInk {
  /** What the words of the upright axis need at the left of the plot, in pixels. */
  left?: number;
  /** Under the marks. */
  grid: SceneLine[];
  /** Over the marks. */
  axisLines: SceneLine[];
  texts: SceneText[];
}

/** The words beside an axis: its title, and the unit once. */
export function axisTitle(axis: AxisPlan | undefined): string {
  if (!axis || axis.hidden || axis.title === "") return "";
  const title = withUnit(axis.title, axis.unit);
  const bent = BENT_WORDS[axis.scale];
  return bent ? `${title} (${bent})` : title;
}

/** What is said of axes on which equal steps are not equally long. */
const BENT_WORDS: Partial<Record<ScaleName, string>> = { log: "log", sqrt: "root", symlog: "log about 0" };

/** How much room the words of an upright axis take, in pixels. */
export function widestTick(scale: Scale | undefined, axis: AxisPlan | undefined): number {
  return scale && !axis?.hidden ? Math.max(0, ...scale.ticks.map((tick) => textWidth(tick.text, TEXT))) : 0;
}

/** Category words on an upright axis, every n-th where they would overlap. */
function everyNth(scale: Scale): Tick[] {
  const step = Math.max(1, Math.ceil(14 / scale.band));
  return scale.ticks.filter((_, i) => i % step === 0);
}

const inPlace = ({ ticks }: Scale): Tick[] => [...ticks].sort((a, b) => a.place - b.place);

/** True where the words of two ticks leave a gap between them. */
const areApart = (one: Tick, next: Tick): boolean =>
  next.place - one.place >= (textWidth(one.text, TEXT) + textWidth(next.text, TEXT)) / 2 + 6;

/** Ticks so far apart that their words do not touch. */
function spacedTicks(scale: Scale): Tick[] {
  const kept: Tick[] = [];
  for (const tick of inPlace(scale)) {
    const last = kept.at(-1);
    if (!last || areApart(last, tick)) kept.push(tick);
  }
  return kept;
}

const NARROWEST = 8;

/** Every n-th band, so that no words touch: between two that are named the same number is not, as one would read it. */
function everyNthBand(scale: Scale): Tick[] {
  const ordered = inPlace(scale);
  // No word with its gap is narrower than this: of thousands of bands most distances need no look.
  for (let n = Math.max(1, Math.ceil(NARROWEST / scale.band)); n < ordered.length; n++) {
    const kept = ordered.filter((_, at) => at % n === 0);
    if (kept.every((tick, at) => at === 0 || areApart(kept[at - 1] as Tick, tick))) return kept;
  }
  return ordered.slice(0, 1);
}

/** Room for words, in pixels, under which what would be left of a cut word says nothing. */
const LEAST_ROOM = 26;

/** Words under bands that are too narrow for them: cut; where hardly a letter would be left, those that fit whole. */
function bandTicks(scale: Scale): Tick[] {
  const room = scale.band - 4;
  if (room < LEAST_ROOM || !scale.ticks.some((tick) => textWidth(tick.text, TEXT) > room)) return everyNthBand(scale);
  return scale.ticks.map((tick) => ({ ...tick, text: cutText(tick.text, room, TEXT) }));
}

const half = (pixel: number) => Math.round(pixel) + 0.5;

/** Lines of an upright axis across the plot. */
export function gridAcross(ink: AxisInk, axis: AxisPlan, scale: Scale, plot: Box) {
  if (!axis.grid || axis.hidden || scale.type === "category") return;
  for (const { place } of scale.ticks)
    ink.grid.push({ x1: plot.x, y1: half(place), x2: plot.x + plot.width, y2: half(place), paint: "grid" });
}

/** Lines of a level axis up the plot. */
export function gridUp(ink: AxisInk, axis: AxisPlan, scale: Scale, plot: Box) {
  if (!axis.grid || axis.hidden || scale.type === "category") return;
  for (const { place } of scale.ticks)
    ink.grid.push({ x1: half(place), y1: plot.y, x2: half(place), y2: plot.y + plot.height, paint: "grid" });
}

const paintOfWords = (scale: Scale) => (scale.type === "category" ? "ink" : "quiet");

/** Words of an upright axis at the left of a plot, in so many pixels. */
export function wordsLeft(ink: AxisInk, scale: Scale, plot: Box, room: number) {
  for (const tick of scale.type === "category" ? everyNth(scale) : scale.ticks)
    ink.texts.push({
      x: plot.x - 8,
      y: tick.place + 4,
      text: cutText(tick.text, room - 10, TEXT),
      size: TEXT,
      paint: paintOfWords(scale),
      anchor: "end",
    });
}

/** Words of an upright axis at the right of a plot, in so many pixels. */
export function wordsRight(ink: AxisInk, scale: Scale, plot: Box, room: number) {
  for (const tick of scale.type === "category" ? everyNth(scale) : scale.ticks)
    ink.texts.push({
      x: plot.x + plot.width + 8,
      y: tick.place + 4,
      text: cutText(tick.text, room - 10, TEXT),
      size: TEXT,
      paint: paintOfWords(scale),
    });
}

/** How far words under a panel may reach over its edge before they meet those of the next one, in pixels. */
const OVER_PANEL = 5;

/** Words of a level axis under a plot, within the chart's width; of one of several within its own. */
export function wordsBelow(ink: AxisInk, scale: Scale, plot: Box, width: number, isPanel = false) {
  const [left, right] = isPanel
    ? [Math.max(0, plot.x - OVER_PANEL), Math.min(width, plot.x + plot.width + OVER_PANEL)]
    : [0, width];
  for (const tick of scale.type === "category" ? bandTicks(scale) : spacedTicks(scale)) {
    const wide = textWidth(tick.text, TEXT) / 2;
    ink.texts.push({
      x: Math.max(left + wide, Math.min(right - wide, tick.place)),
      y: plot.y + plot.height + 17,
      text: tick.text,
      size: TEXT,
      paint: paintOfWords(scale),
      anchor: "middle",
    });
  }
}

export function lineBelow(ink: AxisInk, plot: Box) {
  const y = half(plot.y + plot.height);
  ink.axisLines.push({ x1: plot.x, y1: y, x2: plot.x + plot.width, y2: y, paint: "quiet" });
}

const upLine = (x: number, { y, height }: Box): SceneLine => ({ x1: x, y1: y, x2: x, y2: y + height, paint: "quiet" });

export function lineLeft(ink: AxisInk, plot: Box) {
  ink.axisLines.push(upLine(plot.x + 0.5, plot));
}

export function lineRight(ink: AxisInk, plot: Box) {
  ink.axisLines.push(upLine(half(plot.x + plot.width), plot));
}
