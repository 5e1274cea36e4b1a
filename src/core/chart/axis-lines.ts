import { withUnit } from "../query/write";
import type { ScaleName } from "../scale/scale-kinds";
import type { Scale } from "../scale/scales";
import type { Box, SceneLine, SceneText } from "../scene/scene";
import { textWidth } from "../scene/text-width";
import type { AxisPlan } from "./plan";
import { LINE, levelWords, slantedWords, TEXT, uprightWords, type WordsUnder } from "./tick-words";

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
  for (const { place, text } of uprightWords(scale, room - 10))
    ink.texts.push({
      x: plot.x - 8,
      y: place + 4,
      text,
      size: TEXT,
      paint: paintOfWords(scale),
      anchor: "end",
    });
}

/** Words of an upright axis at the right of a plot, in so many pixels; of a second scale in the paint of its marks. */
export function wordsRight(ink: AxisInk, scale: Scale, plot: Box, room: number, paint = paintOfWords(scale)) {
  for (const { place, text } of uprightWords(scale, room - 10))
    ink.texts.push({
      x: plot.x + plot.width + 8,
      y: place + 4,
      text,
      size: TEXT,
      paint,
    });
}

/** How far words under a panel may reach over its edge before they meet those of the next one, in pixels. */
const OVER_PANEL = 5;

/** Words of a level axis under a plot, within the chart's width; of one of several within its own. */
export function wordsBelow(ink: AxisInk, scale: Scale, plot: Box, width: number, under: WordsUnder, isPanel = false) {
  const bottom = plot.y + plot.height;
  const common = { size: TEXT, paint: paintOfWords(scale) };
  if (under.slant !== undefined) {
    for (const { place, text } of slantedWords(scale, under.slant))
      ink.texts.push({ ...common, x: place + 4, y: bottom + 13, text, anchor: "end", slanted: true });
    return;
  }
  const [left, right] = isPanel
    ? [Math.max(0, plot.x - OVER_PANEL), Math.min(width, plot.x + plot.width + OVER_PANEL)]
    : [0, width];
  for (const { place, words } of levelWords(scale, [left, right], under.lines))
    for (const [line, text] of words.entries())
      ink.texts.push({ ...common, x: place, y: bottom + 17 + line * LINE, text, anchor: "middle" });
}

/** Where the line stands from which lengths along an axis are seen: at its zero if it has one inside, else at an end. */
export function zeroOf(axis: AxisPlan | undefined, scale: Scale | undefined, end: number): number {
  const isInside = axis?.fromZero && scale && scale.type !== "category" && scale.domain[0] < 0 && scale.domain[1] > 0;
  return isInside ? scale.place(0) : end;
}

export function lineBelow(ink: AxisInk, plot: Box, at: number) {
  const y = half(at);
  ink.axisLines.push({ x1: plot.x, y1: y, x2: plot.x + plot.width, y2: y, paint: "quiet" });
}

const upLine = (x: number, { y, height }: Box): SceneLine => ({ x1: x, y1: y, x2: x, y2: y + height, paint: "quiet" });

export function lineUp(ink: AxisInk, plot: Box, at: number, paint = "quiet") {
  ink.axisLines.push({ ...upLine(half(at), plot), paint });
}
