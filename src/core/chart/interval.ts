import { evaluate, type Frame } from "../formula/evaluate";
import { binEdge, equalBins, widthIndex } from "../formula/functions";
import type { Formula } from "../formula/tree";
import { columnOf, type NumericVector, textAt, type Vector } from "../formula/vector";
import type { Column } from "../table/column";
import { GRAINS, type Grain, periodAfter, periodStart } from "../table/calendar";
import type { Interval } from "./plan";

/** The stretches of a bin or period channel over all rows: where each begins, and where the last one ends. */
export interface Edges {
  starts: Float64Array;
  end: number;
  /** Set for periods: brushes snap to whole ones. */
  grain?: Grain;
}

const MOST_STRETCHES = 20_000;

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

function extent(values: Float64Array): [number, number] | undefined {
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (const value of values) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return low <= high ? [low, high] : undefined;
}

const constant = (vector: Vector) => (vector as NumericVector).values[0] as number;

/** The grain of a period interval, which may be a setting. */
export function grainOf(interval: Interval & { type: "period" }, frame: Frame): Grain {
  if (typeof interval.grain === "string") return interval.grain;
  const vector = evaluate(interval.grain, frame);
  const word = vector.kind === "text" ? textAt(vector, 0) : null;
  return GRAINS.find((grain) => grain === word) ?? "month";
}

/** All stretches over the known values of all rows; none when nothing is known. */
export function intervalEdges(interval: Interval, frame: Frame): Edges | undefined {
  const column = columnOf(evaluate(interval.of, frame), frame.length);
  if (column.kind === "text") return undefined;
  const { values } = column;
  if (interval.type === "bin") {
    const bins = equalBins(values, constant(evaluate(interval.count, frame)));
    if (!bins) return undefined;
    return { starts: Float64Array.from({ length: bins.count }, (_, index) => binEdge(bins, index)), end: binEdge(bins, bins.count) };
  }
  const range = extent(values);
  if (!range) return undefined;
  if (interval.type === "width") {
    const width = constant(evaluate(interval.width, frame));
    if (!(width > 0)) return undefined;
    const [from, to] = [widthIndex(range[0], width), widthIndex(range[1], width)];
    const count = Math.min(MOST_STRETCHES, to - from + 1);
    return { starts: Float64Array.from({ length: count }, (_, index) => (from + index) * width), end: (from + count) * width };
  }
  const grain = grainOf(interval, frame);
  const starts: number[] = [];
  let at = periodStart(grain, range[0]);
  while (at <= range[1] && starts.length < MOST_STRETCHES) {
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

/** Where the stretch that begins at `start` ends. */
export function stretchEnd(edges: Edges, start: number): number {
  const place = stretchOf(edges, start);
  return place + 1 < edges.starts.length ? (edges.starts[place + 1] as number) : edges.end;
}

/** The start of the stretch of every row, among stretches that were made from other rows. */
export function startsOf(interval: Interval, edges: Edges, frame: Frame): Column {
  const column = columnOf(evaluate(interval.of, frame), frame.length);
  if (column.kind === "text") return column;
  return { kind: column.kind, values: column.values.map((value) => (value === value ? (edges.starts[stretchOf(edges, value)] as number) : value)) };
}
