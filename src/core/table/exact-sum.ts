import { type Double, double, plus, times } from "./double-double";
import { type Limbs, limbsOf, readLimbs } from "./limbs";

/**
 * Sums that can be taken apart again to the last bit. Every value becomes one integer, or several at
 * quanta that follow one another (its *limbs*), fixed once from the unfiltered column; integers below
 * 2^53 add without rounding, so the order of adding, and adding and taking away, cannot matter.
 */
export interface ExactValues {
  /** What each row adds to each total, all integers; 0 where the value is missing. */
  parts: Float64Array[];
  /** The sum that totals of the parts stand for, from place `at` on. */
  read: (totals: readonly number[], at: number) => number;
  /** Values too small to be held beside the others; they count as 0. */
  lost: { rows: number; below: number };
}

/** Sums that are read with twice the digits, for differences in which most of them cancel out. */
export interface LongSums extends ExactValues {
  readLong: (totals: readonly number[], at: number) => Double;
}

const LIMIT = 2 ** 53;
const MOST_DIGITS = 6;
const NOTHING_LOST = { rows: 0, below: 0 };

/** Turns values into integers. `NaN` counts as 0. */
export function exactValues(values: Float64Array): ExactValues {
  const whole = wholeNumbers(values);
  if (!whole) return ofLimbs(limbsOf(values));
  const { numbers, divisor } = whole;
  return { parts: [numbers], read: (totals, at) => (totals[at] as number) / divisor, lost: NOTHING_LOST };
}

/** The same for values of a {@link Centred} column. */
export const longSums = (values: Float64Array): LongSums => ofLimbs(limbsOf(values));

function ofLimbs(limbs: Limbs): LongSums {
  const readLong = (totals: readonly number[], at: number) => readLimbs(limbs, totals, at);
  return {
    parts: limbs.parts,
    readLong,
    read: (totals, at) => {
      const [high, low] = readLong(totals, at);
      return high + low;
    },
    lost: limbs.lost,
  };
}

/** Values as whole numbers of the largest decimal unit that they all are multiples of, if their sum fits 53 bits. */
function wholeNumbers(values: Float64Array): { numbers: Float64Array; divisor: number } | undefined {
  let total = 0;
  for (const value of values) if (value === value) total += Math.abs(value);
  for (let digits = 0, divisor = 1; digits <= MOST_DIGITS; digits++, divisor *= 10) {
    if (total * divisor >= LIMIT / 4) return undefined;
    const numbers = decimals(values, divisor);
    if (numbers) return { numbers, divisor };
  }
  return undefined;
}

/** Values times `divisor` as integers, if every value is a decimal of that many places. */
function decimals(values: Float64Array, divisor: number): Float64Array | undefined {
  const whole = new Float64Array(values.length);
  for (let row = 0; row < values.length; row++) {
    const value = values[row] as number;
    if (value !== value) continue;
    const scaled = Math.round(value * divisor);
    if (scaled / divisor !== value) return undefined;
    whole[row] = scaled;
  }
  return whole;
}

/**
 * A column made ready for sums of its products: values from which a constant is taken away where
 * that rounds nothing, so that their squares have few digits before the ones that matter.
 */
export interface Centred {
  values: Float64Array;
  /** What a value was multiplied by. */
  scale: number;
}

/** Whole numbers about their rounded mean; other values as they are. Rows where `use` is missing count nowhere. */
export function centred(values: Float64Array, use: Float64Array = values): Centred {
  const used = use === values ? values : values.map((value, row) => (use[row] === use[row] ? value : Number.NaN));
  const whole = wholeNumbers(used);
  if (!whole) {
    // A power of two that brings the largest near 1, so that no square leaves the range of floats.
    let largest = 0;
    for (const value of used) if (Math.abs(value) > largest) largest = Math.abs(value);
    const scale = largest > 0 ? 2 ** -Math.max(-1000, Math.min(1000, Math.ceil(Math.log2(largest)))) : 1;
    return { values: scale === 1 ? used : used.map((value) => value * scale), scale };
  }
  let [total, count] = [0, 0];
  for (let row = 0; row < used.length; row++) {
    if (used[row] !== used[row]) continue;
    total += whole.numbers[row] as number;
    count += 1;
  }
  const centre = count ? Math.round(total / count) : 0;
  return {
    values: used.map((value, row) => (value === value ? (whole.numbers[row] as number) - centre : value)),
    scale: whole.divisor,
  };
}

/** Sums of the products of two columns, with the parts of products that a float has no room for. */
export function productSums(xs: Float64Array, ys: Float64Array): LongSums {
  const products = new Float64Array(xs.length);
  const rests = new Float64Array(xs.length);
  for (let row = 0; row < xs.length; row++) {
    const [product, rest] = times(double(xs[row] as number), double(ys[row] as number));
    products[row] = product;
    rests[row] = rest;
  }
  return ofLimbs(limbsOf(products, rests));
}

/** `n * sum(xy) - sum(x) * sum(y)`, in which digits before those that matter cancel out. */
export function spread(count: number, products: Double, x: Double, y: Double): number {
  const [high, low] = plus(times(double(count), products), times([-x[0], -x[1]], y));
  return high + low;
}
