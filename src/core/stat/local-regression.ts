/** Places at which a smooth curve is evaluated. */
const PLACES = 200;
/** Above this many rows they are put together in bins of x first, each weighing as many as it holds. */
const MOST_ROWS = 5000;
const BINS = 1000;

export interface Curve {
  x: Float64Array;
  y: Float64Array;
}

interface Weighted extends Curve {
  weight: Float64Array;
}

/** Rows in the order of x, alike ones in bins put together. */
function prepared(x: Float64Array, y: Float64Array, isBinned?: boolean): Weighted {
  const rows = [...x.keys()]
    .filter((row) => Number.isFinite(x[row]) && Number.isFinite(y[row]))
    .sort((a, b) => (x[a] as number) - (x[b] as number));
  if (!(isBinned ?? rows.length > MOST_ROWS) || rows.length === 0)
    return {
      x: Float64Array.from(rows, (row) => x[row] as number),
      y: Float64Array.from(rows, (row) => y[row] as number),
      weight: new Float64Array(rows.length).fill(1),
    };
  const [low, high] = [x[rows[0] as number] as number, x[rows.at(-1) as number] as number];
  const width = (high - low) / BINS || 1;
  const binned: { x: number; y: number; weight: number; bin: number }[] = [];
  for (const row of rows) {
    const bin = Math.min(BINS - 1, Math.floor(((x[row] as number) - low) / width));
    const last = binned.at(-1);
    if (last?.bin === bin) {
      last.x += x[row] as number;
      last.y += y[row] as number;
      last.weight += 1;
    } else binned.push({ x: x[row] as number, y: y[row] as number, weight: 1, bin });
  }
  return {
    x: Float64Array.from(binned, (one) => one.x / one.weight),
    y: Float64Array.from(binned, (one) => one.y / one.weight),
    weight: Float64Array.from(binned, (one) => one.weight),
  };
}

/**
 * Local linear regression with tricube weights over the nearest share `span` of the rows
 * (Cleveland, Robust locally weighted regression and smoothing scatterplots, 1979, without the robust passes).
 * `isBinned` says whether bins stand for the rows; left out, that depends on how many there are.
 * Rows where x or y is missing do not count; fewer than two different x give no curve.
 */
export function smoothCurve(x: Float64Array, y: Float64Array, span: number, isBinned?: boolean): Curve {
  const all = prepared(x, y, isBinned);
  const { x: xs, y: ys, weight } = all;
  const n = xs.length;
  if (n < 2 || xs[0] === xs[n - 1]) return { x: new Float64Array(0), y: new Float64Array(0) };
  const [low, high] = [xs[0] as number, xs[n - 1] as number];
  const places = Float64Array.from({ length: PLACES }, (_, at) =>
    at === PLACES - 1 ? high : low + ((high - low) * at) / (PLACES - 1),
  );
  const near = Math.min(n, Math.max(3, Math.ceil(n * Math.min(1, Math.max(0, span)))));
  let from = 0;
  const fitted = places.map((place) => {
    while (from + near < n && place - (xs[from] as number) > (xs[from + near] as number) - place) from += 1;
    // The furthest keeps a little weight: two points alone still make a line.
    const reach = Math.max(place - (xs[from] as number), (xs[from + near - 1] as number) - place) * 1.01 || 1;
    let [w, wx, wy, wxx, wxy] = [0, 0, 0, 0, 0];
    for (let at = from; at < from + near; at++) {
      const dx = (xs[at] as number) - place;
      const share = Math.abs(dx) / reach;
      const left = 1 - share * share * share;
      const own = share < 1 ? left * left * left * (weight[at] as number) : 0;
      w += own;
      wx += own * dx;
      wy += own * (ys[at] as number);
      wxx += own * dx * dx;
      wxy += own * dx * (ys[at] as number);
    }
    const spread = w * wxx - wx * wx;
    // All the weight on one x: the level there is all that can be said.
    return spread > 1e-12 * w * wxx ? (wy * wxx - wx * wxy) / spread : wy / w;
  });
  return { x: places, y: fitted };
}
