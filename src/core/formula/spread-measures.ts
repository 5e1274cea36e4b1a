import type { NumericKind } from "../table/column";
import type { Double } from "../table/double-double";
import { centred, type ExactValues, longSums, productSums, spread } from "../table/exact-sum";
import { knownFlags, type MakeMeasure, measuredBy, numbersOf, type TotalsMeasure } from "./measures";
import type { Vector } from "./vector";

/** The contributions of several sums one after the other, and where each begins. */
function lined(sums: readonly ExactValues[], first: number): { parts: Float64Array[]; places: number[] } {
  const places: number[] = [];
  let place = first;
  for (const { parts } of sums) {
    places.push(place);
    place += parts.length;
  }
  return { parts: sums.flatMap(({ parts }) => parts), places };
}

/** Variance and standard deviation, from exact sums of the values and of their squares. */
function squares(name: "stdev" | "variance", values: Float64Array, kind: NumericKind): TotalsMeasure {
  const { values: x, scale } = centred(values);
  const [sum, square] = [longSums(x), productSums(x, x)];
  const { parts, places } = lined([sum, square], 1);
  return {
    type: "totals",
    kind,
    contributions: [knownFlags(values), ...parts],
    finish: (totals) => {
      const n = totals[0] as number;
      if (n < 2) return Number.NaN;
      const s1 = sum.readLong(totals, places[0] as number);
      const scaled = Math.max(0, spread(n, square.readLong(totals, places[1] as number), s1, s1)) / (n * (n - 1));
      return name === "stdev" ? Math.sqrt(scaled) / scale : scaled / scale / scale;
    },
  };
}

/** How two measures go together, over the rows where both are known. */
function pairs(name: "corr" | "slope", xs: Float64Array, ys: Float64Array): TotalsMeasure {
  const both = xs.map((x, row) => (x === x && ys[row] === ys[row] ? 1 : Number.NaN));
  const [x, y] = [centred(xs, both), centred(ys, both)];
  const sums = [
    longSums(x.values),
    longSums(y.values),
    productSums(x.values, x.values),
    productSums(y.values, y.values),
    productSums(x.values, y.values),
  ];
  const { parts, places } = lined(sums, 1);
  return {
    type: "totals",
    kind: "number",
    contributions: [knownFlags(both), ...parts],
    finish: (totals) => {
      const n = totals[0] as number;
      const [sx, sy, sxx, syy, sxy] = sums.map(({ readLong }, at) => readLong(totals, places[at] as number)) as [
        Double,
        Double,
        Double,
        Double,
        Double,
      ];
      const [spreadX, spreadY, together] = [spread(n, sxx, sx, sx), spread(n, syy, sy, sy), spread(n, sxy, sx, sy)];
      if (n < 2 || !(spreadX > 0) || (name === "corr" && !(spreadY > 0))) return Number.NaN;
      if (name === "slope") return (together / spreadX) * (x.scale / y.scale);
      const product = spreadX * spreadY;
      // Of spreads that are tiny the product would be nothing.
      return Math.max(
        -1,
        Math.min(
          1,
          product > 1e-290 ? together / Math.sqrt(product) : together / Math.sqrt(spreadX) / Math.sqrt(spreadY),
        ),
      );
    },
  };
}

const both = (args: readonly Vector[], length: number) =>
  [numbersOf(args[0] as Vector, length), numbersOf(args[1] as Vector, length)] as const;

/** Measures of how values spread, and of how two go together. */
export const SPREAD_MEASURES: Readonly<Record<string, MakeMeasure>> = {
  stdev: (args, length) => {
    const { values, plain } = measuredBy(args, length);
    return squares("stdev", values, plain);
  },
  variance: (args, length) => squares("variance", measuredBy(args, length).values, "number"),
  corr: (args, length) => pairs("corr", ...both(args, length)),
  // slope(y, x): the measured comes first, as in the formula of the line.
  slope: (args, length) => {
    const [y, x] = both(args, length);
    return pairs("slope", x, y);
  },
};
