/**
 * Numbers of about 106 bits as the unevaluated sum of two floats, for differences in which nearly
 * all digits cancel out. After T. J. Dekker, "A floating-point technique for extending the available
 * precision", Numerische Mathematik 18 (1971), and D. Knuth's sum without a branch (vol. 2, 4.2.2).
 */
export type Double = readonly [high: number, low: number];

export const double = (value: number): Double => [value, 0];

/** The sum of two floats and what rounding it left out. */
function sumOf(a: number, b: number): Double {
  const sum = a + b;
  const other = sum - a;
  return [sum, a - (sum - other) + (b - other)];
}

/** 2^27 + 1: parts a float into two halves of 26 bits. */
const SPLITTER = 134217729;

/** The product of two floats and what rounding it left out; exact while nothing overflows or underflows. */
function productOf(a: number, b: number): Double {
  const product = a * b;
  const [bigA, bigB] = [a * SPLITTER, b * SPLITTER];
  const [highA, highB] = [bigA - (bigA - a), bigB - (bigB - b)];
  const [lowA, lowB] = [a - highA, b - highB];
  return [product, highA * highB - product + highA * lowB + lowA * highB + lowA * lowB];
}

export function plus(a: Double, b: Double): Double {
  const [high, low] = sumOf(a[0], b[0]);
  return sumOf(high, low + a[1] + b[1]);
}

export function times(a: Double, b: Double): Double {
  const [high, low] = productOf(a[0], b[0]);
  // With two floats this is exact; further halves are products of halves.
  return a[1] === 0 && b[1] === 0 ? [high, low] : sumOf(high, low + a[0] * b[1] + a[1] * b[0]);
}
