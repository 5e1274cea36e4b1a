import { tickStep, ticks } from "d3-array";
import { format, formatSpecifier, precisionFixed } from "d3-format";
import { utcTicks } from "d3-time";
import { utcFormat } from "d3-time-format";
import { isFormat, type Write, writer } from "../formula/format";
import type { Kind } from "../table/column";

export interface Tick {
  value: number;
  place: number;
  text: string;
}

/** An axis in use: values to pixels and back. */
export interface Scale {
  type: "linear" | "log" | "time" | "category";
  /** Ends of the values; for categories 0 and their number. */
  domain: [number, number];
  /** Pixels at the ends of the domain. */
  range: [number, number];
  /** The pixel of a value; for categories of the middle of the i-th band. */
  place: (value: number) => number;
  /** The value at a pixel; for categories the number of the band. */
  invert: (pixel: number) => number;
  ticks: Tick[];
  /** Width of a category's band in pixels. */
  band: number;
}

const HOUR = 3600;
const DAY = 86400;
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

function durationTicks(low: number, high: number, count: number): number[] {
  const wanted = (high - low) / Math.max(1, count);
  const step = DURATION_STEPS.find((candidate) => candidate >= wanted) ?? tickStep(low / DAY, high / DAY, count) * DAY;
  const found: number[] = [];
  for (let k = Math.ceil(low / step); k * step <= high + step * 1e-9; k++) found.push(k * step);
  return found;
}

function durationText(step: number): (value: number) => string {
  return (value) => {
    const text = writer("duration", "h:mm:ss")(value);
    return step % 60 === 0 ? text.slice(0, -3) : text;
  };
}

const minuteText = utcFormat("%H:%M");
const secondText = utcFormat("%H:%M:%S");
const dayText = utcFormat("%-d %b");
const monthText = utcFormat("%b");
const yearText = utcFormat("%Y");

/** The coarsest unit that the moment begins, in few characters. */
function momentText(seconds: number): string {
  const date = new Date(seconds * 1000);
  if (seconds % 60 !== 0) return secondText(date);
  if (seconds % DAY !== 0) return minuteText(date);
  if (date.getUTCDate() !== 1) return dayText(date);
  return date.getUTCMonth() !== 0 ? monthText(date) : yearText(date);
}

/** Tick texts for plain numbers: just the decimals that the step needs; short where numbers are large. */
function numberText(step: number, largest: number): (value: number) => string {
  if (largest >= 1e7) return format("~s");
  return format(`,.${Math.max(0, precisionFixed(step))}f`);
}

interface Continuous {
  kind: Kind;
  scale: "linear" | "log" | "time";
  domain: [number, number];
  range: [number, number];
  /** Widens the ends to round values. */
  nice: boolean;
  /** Ticks stand at whole numbers only. */
  whole?: boolean;
  tickCount: number;
  format?: string;
  /** The format of the column, whose decimals are as many as the ticks need. */
  columnFormat?: string;
}

type Writing = Pick<Continuous, "kind" | "scale" | "format" | "columnFormat">;

/** Texts of ticks `step` apart; `largest` is the value that is farthest from 0. */
function tickWriter({ kind, scale, format: given, columnFormat }: Writing, step: number, largest: number): Write {
  if (given !== undefined && isFormat(kind, given)) return writer(kind, given);
  if (scale === "time") return momentText;
  if (columnFormat !== undefined && isFormat(kind, columnFormat)) return writer(kind, inStepsOf(step, columnFormat));
  return kind === "duration" ? durationText(step) : numberText(step, largest);
}

/** A format of fixed decimals with no more of them than multiples of the step need. */
function inStepsOf(step: number, given: string): string {
  if (given === "h:mm:ss") return given;
  const parts = formatSpecifier(given);
  if (parts.type !== "f" && parts.type !== "%") return given;
  const needed = Math.max(0, precisionFixed(step) - (parts.type === "%" ? 2 : 0));
  parts.precision = Math.min(parts.precision ?? 6, needed);
  return parts.toString();
}

/** As many ticks as wanted, or fewer: so many that no two of them have the same text. */
function distinctTicks(
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

/** A scale for numbers, lengths of time or moments. */
export function continuousScale({
  kind,
  scale,
  domain,
  range,
  nice,
  whole,
  tickCount: wanted,
  ...writing
}: Continuous): Scale {
  let [low, high] = domain;
  if (!(low <= high)) [low, high] = [0, 1];
  const tickCount = whole ? Math.max(1, Math.min(wanted, Math.ceil(high - low))) : wanted;
  if (scale === "log") return logScale({ ...writing, kind, scale }, low, high, range, tickCount);
  if (low === high) {
    const room = scale === "time" ? DAY : Math.abs(low) || 1;
    [low, high] = low > 0 && scale === "linear" && nice ? [0, low * 1.1] : [low - room / 2, high + room / 2];
  }
  if (nice && scale === "linear") {
    // The end moves out to the next step, not in.
    const step =
      kind === "duration"
        ? (durationTicks(low, high, tickCount)[1] ?? high) - (durationTicks(low, high, tickCount)[0] ?? low)
        : tickStep(low, high, tickCount);
    if (step > 0) [low, high] = [Math.floor(low / step + 1e-9) * step, Math.ceil(high / step - 1e-9) * step];
  }
  const [from, to] = range;
  const slope = (to - from) / (high - low);
  const place = (value: number) => from + (value - low) * slope;
  const valuesFor = (count: number) =>
    scale === "time"
      ? utcTicks(new Date(low * 1000), new Date(high * 1000), count)
          .map((date) => date.getTime() / 1000)
          // Dates have no hours.
          .filter((value) => kind !== "date" || value % DAY === 0)
      : kind === "duration"
        ? durationTicks(low, high, count)
        : ticks(low, high, count).filter((value) => !whole || Number.isInteger(value));
  const textsOf = (values: number[]) => {
    const step = values.length > 1 ? Math.abs((values[1] as number) - (values[0] as number)) : high - low;
    return values.map(tickWriter({ ...writing, kind, scale }, step, Math.max(Math.abs(low), Math.abs(high))));
  };
  // Times in their own short form may repeat: 2024, Apr, Jul, Oct, 2025, Apr.
  const repeats = scale === "time" && writing.format === undefined;
  return {
    type: scale,
    domain: [low, high],
    range,
    place,
    invert: (pixel) => low + (pixel - from) / slope,
    ticks: distinctTicks(tickCount, valuesFor, textsOf, repeats).map((tick) => ({ ...tick, place: place(tick.value) })),
    band: 0,
  };
}

function logScale(
  { kind, format: said, columnFormat }: Writing,
  low: number,
  high: number,
  range: [number, number],
  tickCount: number,
): Scale {
  const top = high > 0 ? high : 10;
  const bottom = low > 0 ? low : top / 1000;
  const [from, to] = range;
  const [logLow, logHigh] =
    bottom === top ? [Math.log10(bottom) - 0.5, Math.log10(top) + 0.5] : [Math.log10(bottom), Math.log10(top)];
  const slope = (to - from) / (logHigh - logLow);
  const place = (value: number) => from + (Math.log10(value) - logLow) * slope;
  const decades = logHigh - logLow;
  const multiples = decades > tickCount ? [1] : decades > tickCount / 3 ? [1, 2, 5] : [1, 2, 3, 5, 7];
  const values: number[] = [];
  for (let power = Math.floor(logLow); power <= logHigh; power++) {
    for (const multiple of multiples) {
      const value = multiple * 10 ** power;
      if (value >= 10 ** logLow * 0.999 && value <= 10 ** logHigh * 1.001) values.push(value);
    }
  }
  const given = said ?? columnFormat;
  const write = given !== undefined && isFormat(kind, given) ? writer(kind, given) : format(top >= 1e6 ? "~s" : ",~r");
  return {
    type: "log",
    domain: [10 ** logLow, 10 ** logHigh],
    range,
    place,
    invert: (pixel) => 10 ** (logLow + (pixel - from) / slope),
    ticks: values.map((value) => ({ value, place: place(value), text: write(value) })),
    band: 0,
  };
}

/** A scale of categories in equal bands, the first at the beginning of the range. */
export function categoryScale(labels: readonly string[], range: [number, number]): Scale {
  const [from, to] = range;
  const count = Math.max(1, labels.length);
  const band = (to - from) / count;
  const place = (index: number) => from + (index + 0.5) * band;
  return {
    type: "category",
    domain: [0, labels.length],
    range,
    place,
    invert: (pixel) => Math.max(0, Math.min(labels.length - 1, Math.floor((pixel - from) / band))),
    ticks: labels.map((text, value) => ({ value, place: place(value), text })),
    band: Math.abs(band),
  };
}
