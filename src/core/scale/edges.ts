import type { Edges } from "../query/interval";
import type { Kind } from "../table/column";
import { firstPlace } from "../table/first-place";
import type { Scale } from "./scales";

const TIME_UNITS = [1, 60, 300, 900, 1800, 3600, 10800, 21600, 43200, 86400];

/** A round unit not larger than a pixel is wide. */
function unitOf(perPixel: number, kind: Kind): number {
  if (kind === "date" || kind === "datetime" || kind === "duration") {
    const fitting = TIME_UNITS.filter((unit) => unit <= perPixel && (kind !== "date" || unit === 86400));
    return fitting.at(-1) ?? (kind === "date" ? 86400 : 1);
  }
  return 10 ** Math.floor(Math.log10(perPixel));
}

/** The value at a whole number of units; decimals come out as people write them. */
function atUnit(count: number, unit: number): number {
  return unit >= 1 ? count * unit : count / Math.round(1 / unit);
}

/**
 * The values at which the ends of a brush may stand: one a pixel, at round values, rising.
 * Periods stay whole. The last edge lies above every value of the axis, so that `[lo, hi)` can hold all.
 */
export function brushEdges(scale: Scale, kind: Kind, intervals?: Edges): Float64Array {
  if (intervals?.grain) {
    const edges = new Float64Array(intervals.starts.length + 1);
    edges.set(intervals.starts);
    edges[intervals.starts.length] = intervals.end;
    return edges;
  }
  const [from, to] = [Math.min(...scale.range), Math.max(...scale.range)];
  const [low, high] = scale.domain;
  const pixels = Math.max(2, Math.round(to - from));
  const found: number[] = [];
  const add = (value: number) => {
    if (found.length === 0 || value > (found.at(-1) as number)) found.push(value);
  };
  // Where pixels are not evenly wide, three digits tell them apart.
  if (scale.type !== "linear" && scale.type !== "time") {
    const first = Math.min(scale.place(low), scale.place(high));
    const rising = scale.place(low) < scale.place(high);
    for (let pixel = 0; pixel <= pixels; pixel++)
      add(Number(scale.invert(first + (rising ? pixel : pixels - pixel)).toPrecision(3)));
    if ((found.at(-1) as number) <= high) add(Number((high + Math.abs(high) * 0.01 || 1).toPrecision(3)));
    if ((found[0] as number) > low) found[0] = low;
    return Float64Array.from(found);
  }
  // Below what floats of this size can tell apart there are no places for an end.
  const unit = Math.max(unitOf((high - low) / pixels, kind), Math.max(Math.abs(low), Math.abs(high)) * 2 ** -48);
  // Division rounds; the edges themselves must lie beyond the ends.
  let first = Math.floor(low / unit);
  if (atUnit(first, unit) > low) first -= 1;
  add(atUnit(first, unit));
  for (let pixel = 0; pixel <= pixels; pixel++)
    add(atUnit(Math.round((low + ((high - low) * pixel) / pixels) / unit), unit));
  for (let last = Math.floor(high / unit) + 1; (found.at(-1) as number) <= high; last++) add(atUnit(last, unit));
  return Float64Array.from(found);
}

/** The edge nearest to a value. */
export function nearestEdge(edges: Float64Array, value: number): number {
  const last = edges.length - 1;
  const above = Math.min(
    last,
    firstPlace(1, last, (place) => (edges[place] as number) > value),
  );
  const [low, high] = [edges[above - 1] as number, edges[above] as number];
  return Math.abs(low - value) <= Math.abs(high - value) ? above - 1 : above;
}
