import { LIMITS } from "../finding/limits";
import { equalBins, widthBins } from "../formula/bins";
import { evaluate, type Frame } from "../formula/evaluate";
import type { Formula } from "../formula/tree";
import { columnOf, type NumericVector, textAt, type Vector } from "../formula/vector";
import { DAY, GRAINS, type Grain, periodAfter, periodStart } from "../table/calendar";
import { type Column, gather, type NumericKind } from "../table/column";
import { extentOf } from "../table/extent";
import type { Interval } from "./query";

/** The stretches of a bin or period channel over all rows: where each begins, and where the last one ends. */
export interface Edges {
  starts: Float64Array;
  end: number;
  /** Set for periods: brushes snap to whole ones. */
  grain?: Grain;
}

/** The interval of a formula, if its outermost call makes one. */
export function intervalOf(formula: Formula): Interval | undefined {
  if (formula.type !== "call") return undefined;
  const [first, second] = formula.arguments;
  if (formula.name === "bin" && first && second) return { type: "bin", of: first, count: second };
  if (formula.name === "bin_width" && first && second) return { type: "width", of: first, width: second };
  if (formula.name === "by" && first && second) return { type: "period", of: second, grain: first };
  const grain = GRAINS.find((name) => formula.name === `by_${name}`);
  return grain && first ? { type: "period", of: first, grain } : undefined;
}

const constant = (vector: Vector) => (vector as NumericVector).values[0] as number;

/** The grain of a period interval, which may be a setting. */
export function grainOf(interval: Interval & { type: "period" }, frame: Frame): Grain {
  if (typeof interval.grain === "string") return interval.grain;
  const vector = evaluate(interval.grain, frame);
  const word = vector.kind === "text" ? textAt(vector, 0) : null;
  return GRAINS.find((grain) => grain === word) ?? "month";
}

/** Seconds of the shortest period of each grain, in which stretches are counted before they are made. */
const SHORTEST: Record<Grain, number> = {
  minute: 60,
  hour: 3600,
  day: DAY,
  week: 7 * DAY,
  month: 28 * DAY,
  quarter: 90 * DAY,
  year: 365 * DAY,
};

/** About how many stretches an interval makes over its rows; not fewer than there are, by more than a part. */
export function stretchCount(interval: Interval, frame: Frame): number {
  const column = columnOf(evaluate(interval.of, frame), frame.length);
  const range = column.kind === "text" ? undefined : extentOf(column.values);
  if (!range) return 0;
  if (interval.type === "bin") return constant(evaluate(interval.count, frame));
  const length = range[1] - range[0];
  return (
    Math.floor(
      length /
        (interval.type === "width" ? constant(evaluate(interval.width, frame)) : SHORTEST[grainOf(interval, frame)]),
    ) + 1
  );
}

const startsIn = (from: number, count: number, edge: (index: number) => number) =>
  Float64Array.from({ length: count }, (_, index) => edge(from + index));

/**
 * All stretches over the known values of all rows; none when nothing is known, or when they are more than can be
 * drawn.
 */
export function intervalEdges(interval: Interval, frame: Frame): Edges | undefined {
  const column = columnOf(evaluate(interval.of, frame), frame.length);
  if (column.kind === "text" || stretchCount(interval, frame) > LIMITS.stretches) return undefined;
  const { values } = column;
  if (interval.type === "bin") {
    const bins = equalBins(values, constant(evaluate(interval.count, frame)));
    return bins && { starts: startsIn(0, bins.count, bins.edge), end: bins.edge(bins.count) };
  }
  const range = extentOf(values);
  if (!range) return undefined;
  if (interval.type === "width") {
    const bins = widthBins(constant(evaluate(interval.width, frame)));
    if (!bins) return undefined;
    const [from, to] = [bins.indexOf(range[0]), bins.indexOf(range[1])];
    return { starts: startsIn(from, to - from + 1, bins.edge), end: bins.edge(to + 1) };
  }
  const grain = grainOf(interval, frame);
  const starts: number[] = [];
  let at = periodStart(grain, range[0]);
  while (at <= range[1]) {
    starts.push(at);
    at = periodAfter(grain, at);
  }
  return { starts: Float64Array.from(starts), end: at, grain };
}

/** The number of the stretch that holds a value; values outside belong to the nearest. */
function stretchOf(edges: Edges, value: number): number {
  let low = 0;
  let high = edges.starts.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((edges.starts[middle] as number) <= value) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Seconds beyond which nothing is a moment: ends of ranges there stand for open ones. */
const LAST_MOMENT = 8.64e12;

/** A range moved out to whole periods, also of a time in which there are no rows; open ends stay open. */
export function wholePeriods(grain: Grain, [low, high]: [number, number]): [number, number] {
  const startOf = (end: number) => (Math.abs(end) < LAST_MOMENT ? periodStart(grain, end) : end);
  const start = startOf(high);
  return [startOf(low), start < high ? periodAfter(grain, start) : high];
}

/** Where the stretch begins and ends in which a value lies. */
export function stretchAround(edges: Edges, value: number): [from: number, to: number] {
  const from = edges.starts[stretchOf(edges, value)] as number;
  return [from, stretchEnd(edges, from)];
}

/** Where the stretch that begins at `start` ends. */
export function stretchEnd(edges: Edges, start: number): number {
  const place = stretchOf(edges, start);
  return place + 1 < edges.starts.length ? (edges.starts[place + 1] as number) : edges.end;
}

/**
 * The number of the stretch of every row, among stretches that may have been made from other rows; -1 where it
 * has none.
 */
export function stretchesOf(interval: Interval, edges: Edges, frame: Frame): Int32Array {
  const column = columnOf(evaluate(interval.of, frame), frame.length);
  const stretches = new Int32Array(frame.length);
  if (column.kind === "text") return stretches.fill(-1);
  const { values } = column;
  const { starts, end } = edges;
  const last = starts.length - 1;
  const first = starts[0] as number;
  const perStretch = starts.length / (end - first);
  for (let row = 0; row < values.length; row++) {
    const value = values[row] as number;
    if (value !== value) {
      stretches[row] = -1;
      continue;
    }
    // Stretches are about equally long, so that the first guess is seldom off by more than one. Within the bounds
    // a number is cut down by `|`, in half the time that functions for it take.
    const guess = (value - first) * perStretch;
    let at = guess > 0 ? (guess < last ? guess | 0 : last) : 0;
    while (at > 0 && (starts[at] as number) > value) at -= 1;
    while (at < last && (starts[at + 1] as number) <= value) at += 1;
    stretches[row] = at;
  }
  return stretches;
}

/** Where stretches begin, by their numbers, as a column of the kind that the formula of the interval has. */
export function startsAt(formula: Formula, edges: Edges, frame: Frame, stretches: Int32Array): Column {
  const values = new Float64Array(stretches.length);
  for (let at = 0; at < values.length; at++) {
    const stretch = stretches[at] as number;
    values[at] = stretch < 0 ? Number.NaN : (edges.starts[stretch] as number);
  }
  return { kind: kindOver(formula, frame), values };
}

const NO_ROWS = new Int32Array(0);

/** The kind of what a formula gives, which follows from its columns without their rows. */
function kindOver(formula: Formula, frame: Frame): NumericKind {
  const column = (name: string) => {
    const own = frame.column(name);
    return own && gather(own, NO_ROWS);
  };
  const { kind } = evaluate(formula, { length: 0, column, setting: frame.setting });
  return kind === "text" ? "number" : kind;
}
