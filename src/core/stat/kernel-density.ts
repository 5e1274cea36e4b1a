import type { Curve } from "./local-regression";

const PLACES = 200;

export const KERNELS = ["gaussian", "epanechnikov", "triangular", "uniform"] as const;
export type Kernel = (typeof KERNELS)[number];

/** Kernels scaled to a standard deviation of 1, so that one bandwidth means the same in all, and how far they reach. */
const SHAPES: Record<Kernel, { reach: number; weight: (u: number) => number }> = {
  gaussian: { reach: 4, weight: (u) => Math.exp(-0.5 * u * u) / Math.sqrt(2 * Math.PI) },
  epanechnikov: { reach: Math.sqrt(5), weight: (u) => (0.75 * (1 - (u * u) / 5)) / Math.sqrt(5) },
  triangular: { reach: Math.sqrt(6), weight: (u) => (1 - Math.abs(u) / Math.sqrt(6)) / Math.sqrt(6) },
  uniform: { reach: Math.sqrt(3), weight: () => 0.5 / Math.sqrt(3) },
};

/** The bandwidth for a column, by Silverman's rule (Density estimation, 1986, eq. 3.31). */
export function bandwidth(sorted: Float64Array): number {
  const n = sorted.length;
  const mean = sorted.reduce((sum, value) => sum + value, 0) / n;
  const deviation = Math.sqrt(sorted.reduce((sum, value) => sum + (value - mean) ** 2, 0) / Math.max(1, n - 1));
  const quantile = (p: number) => {
    const at = (n - 1) * p;
    const below = sorted[Math.floor(at)] as number;
    return below + (at % 1) * ((sorted[Math.ceil(at)] as number) - below);
  };
  const middle = (quantile(0.75) - quantile(0.25)) / 1.34;
  const spread = middle > 0 ? Math.min(deviation, middle) : deviation;
  return 0.9 * (spread || 1) * n ** -0.2;
}

/** How densely values lie, as a curve with an area of 1; missing values do not count, and nothing gives no curve. */
export function densityCurve(values: Float64Array, kernel: Kernel, adjust: number): Curve {
  const known = values.filter(Number.isFinite).sort();
  const n = known.length;
  const width = n ? bandwidth(known) * adjust : Number.NaN;
  if (!(width > 0)) return { x: new Float64Array(0), y: new Float64Array(0) };
  const { reach, weight } = SHAPES[kernel];
  const low = (known[0] as number) - reach * width;
  const high = (known[n - 1] as number) + reach * width;
  const x = Float64Array.from({ length: PLACES }, (_, at) => low + ((high - low) * at) / (PLACES - 1));
  let from = 0;
  const y = x.map((place) => {
    while (from < n && (known[from] as number) < place - reach * width) from += 1;
    let sum = 0;
    for (let at = from; at < n && (known[at] as number) <= place + reach * width; at++)
      sum += weight((place - (known[at] as number)) / width);
    return sum / (n * width);
  });
  return { x, y };
}
