import { isFormat, writer } from "../formula/format";
import { numberFormat } from "../formula/number-format";
import type { UnevenScale } from "./scales";
import { DAY, TINY } from "./tick-text";

/**
 * Powers of ten or a few of them: 0.001 and 1M, as prefixes below 1 are not read by everybody. Where the least is so
 * small that its zeros would have to be counted, all below 1 stand with their power.
 */
function powerWriter(least: number): (value: number) => string {
  const [plain, short, power] = [numberFormat(",~r"), numberFormat("~s"), numberFormat(".0e")];
  return (value) => {
    if (value >= 1e6 && value < 1e13) return short(value);
    return value >= 1e13 || (value < 1 && least < TINY) ? power(value) : plain(value);
  };
}

/** Lengths of time that people count in, the roundest first. */
const LENGTHS = [
  [1, 60, 3600, DAY, 10 * DAY, 100 * DAY],
  [10, 600, 6 * 3600, 1000 * DAY],
  [5, 30, 300, 1800, 3 * 3600, 12 * 3600, 2 * DAY, 5 * DAY, 20 * DAY, 50 * DAY, 200 * DAY, 500 * DAY],
  [2, 20, 120, 1200, 2 * 3600, 3 * DAY, 30 * DAY],
].flat();

/** Lengths within two ends that stand apart from one another by a share of what lies between them. */
function lengthsBetween(low: number, high: number, count: number): number[] {
  const apart = (Math.log(high / low) / (count + 1)) * 0.8;
  const chosen: number[] = [];
  for (const value of LENGTHS)
    if (value >= low && value <= high && chosen.every((other) => Math.abs(Math.log(value / other)) >= apart))
      chosen.push(value);
  return chosen.sort((a, b) => a - b);
}

/** A scale on which equal factors are equally long; ends at or below 0 are moved above it. */
export const logScale: UnevenScale = ({ kind, format: said, columnFormat }, [low, high], range, tickCount) => {
  const top = high > 0 ? high : 10;
  const bottom = low > 0 ? low : top / 1000;
  const [from, to] = range;
  const [logLow, logHigh] =
    bottom === top ? [Math.log10(bottom) - 0.5, Math.log10(top) + 0.5] : [Math.log10(bottom), Math.log10(top)];
  const slope = (to - from) / (logHigh - logLow);
  const place = (value: number) => from + (Math.log10(value) - logLow) * slope;
  const decades = logHigh - logLow;
  const every = Math.max(1, Math.ceil(decades / (tickCount + 2)));
  const multiples = decades > tickCount / 1.5 ? [1] : decades > tickCount / 3 ? [1, 2, 5] : [1, 2, 3, 5, 7];
  const values: number[] = [];
  for (let power = Math.floor(logLow); power <= logHigh; power++) {
    if (power % every !== 0) continue;
    for (const multiple of multiples) {
      const value = multiple * 10 ** power;
      if (value >= 10 ** logLow * 0.999 && value <= 10 ** logHigh * 1.001) values.push(value);
    }
  }
  const lengths = kind === "duration" ? lengthsBetween(10 ** logLow * 0.999, 10 ** logHigh * 1.001, tickCount) : [];
  const given = said ?? columnFormat;
  const isSaid = given !== undefined && isFormat(kind, given);
  const write = isSaid || lengths.length ? writer(kind, given) : powerWriter(Math.min(...values));
  return {
    type: "log",
    domain: [10 ** logLow, 10 ** logHigh],
    range,
    place,
    invert: (pixel) => 10 ** (logLow + (pixel - from) / slope),
    ticks: (lengths.length ? lengths : values).map((value) => ({ value, place: place(value), text: write(value) })),
    band: 0,
  };
};
