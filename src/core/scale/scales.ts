import { Kit } from "../finding/kit";
import type { Grain } from "../table/calendar";
import type { Kind } from "../table/column";
import type { ScaleName } from "./scale-kinds";
import { DAY, distinctTicks, durationTicks, tickWriter, type Writing, withYear } from "./tick-text";
import { momentTicks, tickStep, ticks } from "./ticks";

export interface Tick {
  value: number;
  place: number;
  text: string;
}

/** An axis in use: values to pixels and back. */
export interface Scale {
  type: ScaleName;
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

interface Continuous extends Writing {
  scale: Exclude<ScaleName, "category">;
  domain: [number, number];
  range: [number, number];
  /** Widens the ends to round values. */
  nice: boolean;
  /** Ticks stand at whole numbers only. */
  whole?: boolean;
  /** Of periods along the axis: what is finer than one has no tick. */
  grain?: Grain;
  tickCount: number;
}

/** A scale that is not even in its values; its ends and ticks are its own. */
export type UnevenScale = (
  writing: Writing,
  domain: [number, number],
  range: [number, number],
  tickCount: number,
) => Scale;

/** Such scales, by name: a dashboard has those that its axes can have. */
export const UNEVEN_SCALES = new Kit<UnevenScale>("scale");

/** More of an axis than this is not left empty for the sake of a tick at its end. */
const MOST_EMPTY = 0.2;

/** Ends moved out to the next tick, or only to a part of the way where much would be left empty. */
function niceEnds(kind: Kind, low: number, high: number, tickCount: number): [number, number] {
  const [least, most] = [low, high];
  let step = 0;
  // Decimal steps are not exact in binary, and an end beside its tick would lose it.
  const exact = (steps: number) => Number((steps * step).toPrecision(12));
  // Wider ends may ask for wider steps, which move the ends again.
  for (let turn = 0; turn < 8; turn++) {
    const found = kind === "duration" ? durationTicks(low, high, tickCount) : [];
    const next = kind === "duration" ? (found[1] ?? high) - (found[0] ?? low) : tickStep(low, high, tickCount);
    if (!(next > step)) break;
    step = next;
    [low, high] = [exact(Math.floor(least / step + 1e-9)), exact(Math.ceil(most / step - 1e-9))];
  }
  if (step === 0) return [low, high];
  const empty = MOST_EMPTY * (high - low);
  return [
    least - low > empty ? exact(-quartersUp(-least / step)) : low,
    high - most > empty ? exact(quartersUp(most / step)) : high,
  ];
}

/** The next quarter of a step. */
const quartersUp = (steps: number): number => Math.ceil(steps * 4 - 1e-9) / 4;

/**
 * The ends of an axis, and a number of ticks to ask for that gives not many more than wanted: steps are round
 * numbers, and what is asked for is met only by half and double.
 */
function fewTicks(
  kind: Kind,
  domain: [number, number],
  wanted: number,
  nice: boolean,
): [low: number, high: number, count: number] {
  for (let count = wanted; ; count--) {
    const [low, high] = nice ? niceEnds(kind, ...domain, count) : domain;
    const found = kind === "duration" ? durationTicks(low, high, count) : ticks(low, high, count);
    if (!(count > 2) || found.length <= wanted + 2) return [low, high, count];
  }
}

/** How many ticks can stand at whole numbers. */
const wholeCount = (low: number, high: number, wanted: number) => Math.max(1, Math.min(wanted, Math.ceil(high - low)));

/** Moments of which there are at least two: a single one does not say how long the time beside it is. */
function severalMoments(low: number, high: number, count: number, grain: Grain | undefined): number[] {
  const found = momentTicks(low, high, count, grain);
  if (found.length > 1) return found;
  const more = momentTicks(low, high, 2 * count, grain);
  return more.length > 1 ? more : found;
}

/** A scale for numbers, lengths of time or moments. */
export function continuousScale({
  kind,
  scale,
  domain,
  range,
  nice,
  whole,
  grain,
  tickCount: wanted,
  ...writing
}: Continuous): Scale {
  let [low, high] = domain;
  // No moment is nearer than another where there is none: an axis of nothing says none.
  const isTimeless = scale === "time" && !(low <= high);
  if (!(low <= high)) [low, high] = [0, 1];
  let tickCount = whole ? wholeCount(low, high, wanted) : wanted;
  if (scale !== "linear" && scale !== "time")
    return UNEVEN_SCALES.get(scale)({ ...writing, kind, scale }, [low, high], range, tickCount);
  if (low === high) {
    // Whole numbers without thousands name years and the like: those beside it say more than zero does.
    const isNamed = whole && (!nice || (writing.format ?? writing.columnFormat) === "d");
    const room = scale === "time" ? DAY : isNamed ? 2 : Math.abs(low) || 1;
    const fromZero = low >= 0 && scale === "linear" && nice && !isNamed;
    [low, high] = fromZero ? [0, low * 1.1 || 1] : [low - room / 2, high + room / 2];
    if (whole) tickCount = wholeCount(low, high, wanted);
  }
  if (scale === "linear") [low, high, tickCount] = fewTicks(kind, [low, high], tickCount, nice);
  const [from, to] = range;
  const slope = (to - from) / (high - low);
  const place = (value: number) => from + (value - low) * slope;
  const valuesFor = (count: number) =>
    isTimeless
      ? []
      : scale === "time"
        ? // Dates have no hours.
          severalMoments(low, high, count, grain).filter((value) => kind !== "date" || value % DAY === 0)
        : kind === "duration"
          ? durationTicks(low, high, count)
          : ticks(low, high, count).filter((value) => !whole || Number.isInteger(value));
  // Times in their own short form may repeat: 2024, Apr, Jul, Oct, 2025, Apr.
  const repeats = scale === "time" && writing.format === undefined;
  const textsOf = (values: number[]) => {
    const step = values.length > 1 ? Math.abs((values[1] as number) - (values[0] as number)) : high - low;
    const texts = values.map(tickWriter({ ...writing, kind, scale }, step, Math.max(Math.abs(low), Math.abs(high))));
    return repeats ? withYear(values, texts) : texts;
  };
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
