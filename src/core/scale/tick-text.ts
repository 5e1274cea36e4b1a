import { formatSpecifier, precisionFixed } from "d3-format";
import { durationFormat } from "../formula/duration-text";
import { isFormat, type Write, writer } from "../formula/format";
import { numberFormat } from "../formula/number-format";
import { strftime } from "../formula/strftime";
import type { Kind } from "../table/column";
import type { ScaleName } from "./scale-kinds";
import { tickStep, ticks } from "./ticks";

const HOUR = 3600;
export const DAY = 86400;
const DURATION_STEPS = [
  1,
  2,
  5,
  10,
  15,
  30,
  60,
  120,
  300,
  600,
  900,
  1800,
  HOUR,
  2 * HOUR,
  3 * HOUR,
  6 * HOUR,
  12 * HOUR,
  DAY,
  2 * DAY,
  7 * DAY,
  14 * DAY,
  28 * DAY,
];

/** Lengths of time that people count in, as many as wanted or fewer; more where fewer would be one or none. */
export function durationTicks(low: number, high: number, count: number): number[] {
  const wanted = (high - low) / Math.max(1, count);
  if (wanted < 1) return ticks(low, high, count);
  const at = DURATION_STEPS.findIndex((candidate) => candidate >= wanted);
  if (at < 0) return multiples(low, high, tickStep(low / DAY, high / DAY, count) * DAY);
  const found = multiples(low, high, DURATION_STEPS[at] as number);
  return found.length > 1 || at === 0 ? found : multiples(low, high, DURATION_STEPS[at - 1] as number);
}

/** Multiples of a step from a low to a high end. */
function multiples(low: number, high: number, step: number): number[] {
  const found: number[] = [];
  for (let k = Math.ceil(low / step); k * step <= high + step * 1e-9; k++) found.push(k * step);
  return found;
}

/** Whole: without its seconds half an hour would read as half a minute. */
const LENGTHS = "h:mm:ss";

const minuteText = strftime("%H:%M");
const secondText = strftime("%H:%M:%S");
const dayText = strftime("%-d %b");
const firstText = strftime("%-d %b %Y");
const monthText = strftime("%b");
const yearText = strftime("%Y");

/** The coarsest unit that the moment begins, in few characters; among days the first of a month is one of them. */
function momentText(seconds: number, step: number): string {
  const date = new Date(seconds * 1000);
  if (seconds % 60 !== 0) return secondText(date);
  if (seconds % DAY !== 0) return minuteText(date);
  const isDaily = step < 27 * DAY && step >= DAY;
  if (isDaily && date.getUTCMonth() + date.getUTCDate() === 1) return firstText(date);
  if (isDaily || date.getUTCDate() !== 1) return dayText(date);
  return date.getUTCMonth() !== 0 ? monthText(date) : yearText(date);
}

/**
 * The texts of moments, of which one says the year: where none of them begins one, the first that begins a day does.
 */
export function withYear(values: readonly number[], texts: readonly string[]): string[] {
  const dates = values.map((seconds) => new Date(seconds * 1000));
  const beginsYear = (date: Date) => date.getUTCMonth() + date.getUTCDate() === 1;
  const days = [...values.keys()].filter((at) => (values[at] as number) % DAY === 0);
  if (days.some((at) => beginsYear(dates[at] as Date))) return [...texts];
  return texts.map((text, at) => (at === days[0] ? `${text} ${yearText(dates[at] as Date)}` : text));
}

/** Numbers from here on are written short. */
export const LARGE = 1e7;
/** Steps below this have more zeros than anybody counts. */
export const TINY = 1e-5;

/**
 * Tick texts for plain numbers: just the decimals that the step needs; short where numbers are large, and with the
 * power of the largest where they are tiny.
 */
function numberText(step: number, largest: number): (value: number) => string {
  if (largest >= LARGE) return numberFormat("~s");
  if (largest < 1 && step < TINY) {
    const power = Math.floor(Math.log10(largest));
    const write = numberFormat(`.${Math.max(0, power - Math.floor(Math.log10(step)))}~f`);
    return (value) => (value === 0 ? "0" : `${write(value / 10 ** power)}e${power}`);
  }
  return numberFormat(`,.${Math.max(0, precisionFixed(step))}f`);
}

/** What decides how ticks are written. */
export interface Writing {
  kind: Kind;
  scale: ScaleName;
  format?: string | undefined;
  /** The format of the column, whose decimals are as many as the ticks need. */
  columnFormat?: string | undefined;
}

/** Texts of ticks `step` apart; `largest` is the value that is farthest from 0. */
export function tickWriter(
  { kind, scale, format: given, columnFormat }: Writing,
  step: number,
  largest: number,
): Write {
  if (given !== undefined && isFormat(kind, given)) return writer(kind, given);
  if (scale === "time") return (value) => momentText(value, step);
  if (columnFormat !== undefined && isFormat(kind, columnFormat)) return writer(kind, inStepsOf(step, columnFormat));
  return kind === "duration" ? writer(kind, inStepsOf(step, LENGTHS)) : numberText(step, largest);
}

/** A format of fixed decimals with no more of them than multiples of the step need; of seconds no fewer either. */
function inStepsOf(step: number, given: string): string {
  if (durationFormat(given)) {
    const needed = Math.min(3, Math.max(0, precisionFixed(step)));
    return given.replace(/ss.*/, needed ? `ss.${"0".repeat(needed)}` : "ss");
  }
  const parts = formatSpecifier(given);
  if (parts.type !== "f" && parts.type !== "%") return given;
  const needed = Math.max(0, precisionFixed(step) - (parts.type === "%" ? 2 : 0));
  parts.precision = Math.min(parts.precision ?? 6, needed);
  return parts.toString();
}

/** As many ticks as wanted, or fewer: so many that no two of them have the same text. */
export function distinctTicks(
  count: number,
  valuesFor: (count: number) => number[],
  textsOf: (values: number[]) => string[],
  repeats: boolean,
) {
  for (let fewer = count; ; fewer--) {
    const values = valuesFor(fewer);
    const texts = textsOf(values);
    if (!repeats && fewer > 1 && new Set(texts).size < texts.length) continue;
    const found = values.map((value, at) => ({ value, text: texts[at] as string }));
    return repeats ? found : found.filter(({ text }, at) => texts.indexOf(text) === at);
  }
}
