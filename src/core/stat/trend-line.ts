import type { Curve } from "./local-regression";

/**
 * The straight line with the least squares of distances in y, from the least to the largest x. Rows where
 * x or y is missing do not count; fewer than two different x give no line.
 */
export function trendLine(x: Float64Array, y: Float64Array): Curve {
  let [n, meanX, meanY] = [0, 0, 0];
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const isKnown = (row: number) => Number.isFinite(x[row]) && Number.isFinite(y[row]);
  for (let row = 0; row < x.length; row++) {
    if (!isKnown(row)) continue;
    n += 1;
    // Means that move along with the rows keep their digits where values are large.
    meanX += ((x[row] as number) - meanX) / n;
    meanY += ((y[row] as number) - meanY) / n;
    low = Math.min(low, x[row] as number);
    high = Math.max(high, x[row] as number);
  }
  let [spread, together] = [0, 0];
  for (let row = 0; row < x.length; row++) {
    if (!isKnown(row)) continue;
    spread += ((x[row] as number) - meanX) ** 2;
    together += ((x[row] as number) - meanX) * ((y[row] as number) - meanY);
  }
  if (n < 2 || !(spread > 0)) return { x: new Float64Array(0), y: new Float64Array(0) };
  const slope = together / spread;
  const xs = Float64Array.of(low, high);
  return { x: xs, y: xs.map((value) => meanY + slope * (value - meanX)) };
}
