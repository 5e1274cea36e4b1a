/** Curves as the language states them, the plain way: every place looks at every row. */

const evenly = (low: number, high: number): number[] =>
  Array.from({ length: 200 }, (_, at) => low + ((high - low) * at) / 199);

/** At each place the straight line through the nearest rows, those further off with less weight. */
export function smoothed(rows: readonly Readonly<Record<string, unknown>>[], span: number): [number, number][] {
  const points = rows
    .flatMap(({ w, v }) => (typeof w === "number" && typeof v === "number" ? [{ w, v }] : []))
    .sort((a, b) => a.w - b.w);
  const [low, high] = [points[0]?.w ?? 0, points.at(-1)?.w ?? 0];
  if (low === high) return [];
  const count = Math.min(points.length, Math.max(3, Math.ceil(points.length * span)));
  return evenly(low, high).map((place) => {
    const near = points
      .map((point, at) => ({ ...point, at, far: Math.abs(point.w - place), isLeft: point.w < place }))
      .sort((a, b) => a.far - b.far || Number(b.isLeft) - Number(a.isLeft) || (a.isLeft ? b.at - a.at : a.at - b.at))
      .slice(0, count);
    const reach = Math.max(...near.map(({ far }) => far)) * 1.01 || 1;
    const weighed = near.map((point) => ({ ...point, weight: (1 - (point.far / reach) ** 3) ** 3 }));
    const all = weighed.reduce((total, { weight }) => total + weight, 0);
    const mean = (of: (point: (typeof weighed)[number]) => number) =>
      weighed.reduce((total, point) => total + point.weight * of(point), 0) / all;
    const [w, v] = [mean((point) => point.w), mean((point) => point.v)];
    const spread = mean((point) => (point.w - w) ** 2);
    const slope = mean((point) => (point.w - w) * (point.v - v)) / spread;
    return [place, spread > 1e-9 ? v + slope * (place - w) : v];
  });
}

/** How densely values lie: a triangle over each of them, as wide as Silverman says. */
export function densities(values: readonly number[]): [number, number][] {
  if (values.length === 0) return [];
  const sorted = [...values].sort((a, b) => a - b);
  const at = (place: number) => {
    const [low, high] = [sorted[Math.floor(place)] as number, sorted[Math.ceil(place)] as number];
    return low + (high - low) * (place - Math.floor(place));
  };
  const mean = sorted.reduce((total, value) => total + value, 0) / sorted.length;
  const squares = sorted.reduce((total, value) => total + (value - mean) ** 2, 0);
  const deviation = Math.sqrt(squares / Math.max(1, sorted.length - 1));
  const middle = (at((sorted.length - 1) * 0.75) - at((sorted.length - 1) * 0.25)) / 1.34;
  const width = 0.9 * ((middle > 0 ? Math.min(deviation, middle) : deviation) || 1) * sorted.length ** -0.2;
  const side = Math.sqrt(6) * width;
  return evenly((sorted[0] as number) - side, (sorted.at(-1) as number) + side).map((place) => {
    const heights = sorted.map((value) => Math.max(0, 1 - Math.abs(place - value) / side) / side);
    return [place, heights.reduce((total, height) => total + height, 0) / sorted.length];
  });
}
