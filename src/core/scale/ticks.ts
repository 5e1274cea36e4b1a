import { civilOf, DAY, type Grain, periodAfter, periodStart } from "../table/calendar";

/**
 * A step of 1, 2 or 5 times a power of ten, by its multiples. Fractions are kept as divisors: the third tenth is
 * 3 / 10, and not three times what is nearly a tenth.
 */
interface RoundStep {
  size: number;
  multiple(times: number): number;
  /** How often the step goes into a value, not rounded. */
  times(value: number): number;
}

/** From each ratio on the next larger of 1, 2, 5 and 10 is nearer, measured in factors. */
const NEARER: readonly [ratio: number, factor: number][] = [
  [Math.sqrt(50), 10],
  [Math.sqrt(10), 5],
  [Math.sqrt(2), 2],
];

/** The round step nearest to a given one. */
function roundStep(wanted: number): RoundStep {
  const power = Math.floor(Math.log10(wanted));
  const ratio = wanted / 10 ** power;
  const factor = NEARER.find(([least]) => ratio >= least)?.[1] ?? 1;
  if (power < 0) {
    const parts = 10 ** -power / factor;
    return { size: 1 / parts, multiple: (times) => times / parts, times: (value) => value * parts };
  }
  const size = 10 ** power * factor;
  return { size, multiple: (times) => times * size, times: (value) => value / size };
}

/** The step of so many ticks between two ends, and which of its multiples lie there. */
function stepped(low: number, high: number, count: number): { step: RoundStep; first: number; last: number } {
  const step = roundStep((high - low) / count);
  let [first, last] = [low, high].map((end) => Math.round(step.times(end))) as [number, number];
  if (step.multiple(first) < low) first += 1;
  if (step.multiple(last) > high) last -= 1;
  // One tick that was asked for and falls beside the ends leaves none.
  return last < first && count >= 0.5 && count < 2 ? stepped(low, high, count * 2) : { step, first, last };
}

/** Round numbers from `low` to `high`, about as many as wanted: multiples of 1, 2 or 5 times a power of ten. */
export function ticks(low: number, high: number, count: number): number[] {
  if (!(count > 0)) return [];
  if (low === high) return [low];
  const { step, first, last } = stepped(low, high, count);
  return last >= first ? Array.from({ length: last - first + 1 }, (_, at) => step.multiple(first + at)) : [];
}

/** How far apart such ticks lie; 0 where both ends are one. */
export const tickStep = (low: number, high: number, count: number): number =>
  low === high ? 0 : stepped(low, high, count).step.size;

/** A step of a clock in seconds, or a period of a calendar and about how many seconds it takes. */
interface MomentStep {
  grain?: Grain;
  seconds: number;
}

const MINUTE = 60;
const HOUR = 60 * MINUTE;

/** Steps that people count in. */
const MOMENT_STEPS: readonly MomentStep[] = [
  ...[1, 5, 15, 30].map((seconds) => ({ seconds })),
  ...[1, 5, 15, 30].map((minutes) => ({ seconds: minutes * MINUTE })),
  ...[1, 3, 6, 12].map((hours) => ({ seconds: hours * HOUR })),
  ...[1, 2].map((days) => ({ seconds: days * DAY })),
  { grain: "week", seconds: 7 * DAY },
  { grain: "month", seconds: 30 * DAY },
  { grain: "quarter", seconds: 90 * DAY },
  { grain: "year", seconds: 365 * DAY },
];

/** All multiples of a step between two ends. */
function multiples(step: number, low: number, high: number): number[] {
  const found: number[] = [];
  // A first multiple of -0 is 0.
  for (let at = Math.ceil(low / step) + 0; at * step <= high; at++) found.push(at * step);
  return found;
}

/** The beginnings of periods between two ends; of years those that are multiples of `every`. */
function periods(grain: Grain, every: number, low: number, high: number): number[] {
  const found: number[] = [];
  const start = periodStart(grain, low);
  for (let at = start < low ? periodAfter(grain, start) : start; at <= high; at = periodAfter(grain, at))
    if (every === 1 || civilOf(at / DAY).year % every === 0) found.push(at);
  return found;
}

/** About how long each period takes, in seconds. */
const GRAIN_SECONDS: Readonly<Record<Grain, number>> = {
  minute: MINUTE,
  hour: HOUR,
  day: DAY,
  week: 7 * DAY,
  month: 30 * DAY,
  quarter: 90 * DAY,
  year: 365 * DAY,
};

/**
 * Moments from `low` to `high`, in seconds, about as many as wanted, where a clock or a calendar begins anew.
 * @param least the grain of periods along the axis: between their beginnings nothing is measured
 */
export function momentTicks(low: number, high: number, count: number, least?: Grain): number[] {
  const wanted = (high - low) / count;
  if (least && wanted < GRAIN_SECONDS[least]) return periods(least, 1, low, high);
  const after = MOMENT_STEPS.findIndex(({ seconds }) => seconds > wanted);
  if (after === 0) {
    const [first, last] = [low * 1000, high * 1000];
    return multiples(Math.max(1, tickStep(first, last, count)), first, last).map((thousandths) => thousandths / 1000);
  }
  const year = 365 * DAY;
  if (after < 0) return periods("year", Math.max(1, tickStep(low / year, high / year, count)), low, high);
  const [below, above] = MOMENT_STEPS.slice(after - 1, after + 1) as [MomentStep, MomentStep];
  const { grain, seconds } = wanted / below.seconds < above.seconds / wanted ? below : above;
  return grain ? periods(grain, 1, low, high) : multiples(seconds, low, high);
}
