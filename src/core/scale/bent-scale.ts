import { BENDS, type Bend } from "./bends";
import type { UnevenScale } from "./scales";
import { distinctTicks, tickWriter } from "./tick-text";
import { ticks } from "./ticks";

/** Values that ticks may stand at, the roundest first: 0, powers of ten, their doubles and fives, then even steps. */
function candidates(low: number, high: number, count: number): number[] {
  const largest = Math.max(Math.abs(low), Math.abs(high));
  const top = Math.floor(Math.log10(largest || 1));
  const powers = Array.from({ length: 8 }, (_, down) => 10 ** (top - down));
  const round = [1, 5, 2].flatMap((multiple) => powers.flatMap((power) => [multiple * power, -multiple * power]));
  return [0, ...round, ...ticks(low, high, count).reverse()].filter((value) => value >= low && value <= high);
}

/** A scale for numbers that is even in the bent value; ticks are round and at least a tick's share apart. */
export const bentScale: UnevenScale = (writing, domain, range, tickCount) => {
  const { bend, straighten } = BENDS[writing.scale] as Bend;
  const [low, high] = domain[0] === domain[1] ? [domain[0] - 0.5, domain[1] + 0.5] : domain;
  const [from, to] = range;
  const start = bend(low);
  const slope = (to - from) / (bend(high) - start);
  const place = (value: number) => from + (bend(value) - start) * slope;
  const valuesFor = (count: number) => {
    const apart = (Math.abs(to - from) / (count + 1)) * 0.8;
    const chosen: number[] = [];
    for (const value of candidates(low, high, count))
      if (chosen.every((other) => Math.abs(place(other) - place(value)) >= apart)) chosen.push(value);
    return chosen.sort((a, b) => a - b);
  };
  const textsOf = (values: number[]) => {
    const smallest = Math.min(...values.filter((value) => value !== 0).map(Math.abs));
    const finest = Number.isFinite(smallest) ? 10 ** Math.floor(Math.log10(smallest)) : 1;
    return values.map(tickWriter(writing, finest, Math.max(Math.abs(low), Math.abs(high))));
  };
  return {
    type: writing.scale,
    domain: [low, high],
    range,
    place,
    invert: (pixel) => straighten(start + (pixel - from) / slope),
    ticks: distinctTicks(tickCount, valuesFor, textsOf, false).map((tick) => ({ ...tick, place: place(tick.value) })),
    band: 0,
  };
};
