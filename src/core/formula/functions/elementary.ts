/**
 * Elementary functions made of additions, multiplications and divisions alone. IEEE 754 fixes those to
 * the last bit, while every engine rounds `Math.exp`, `Math.sin` and `**` in its own way: with these a
 * table comes out the same in the terminal, in the workbench and in any reader's browser. Argument
 * reduction and series are the text-book ones (Muller, Elementary Functions, 3rd edition, 2016, chapters
 * 3, 5 and 11); what rounding takes from a sum or a product is kept as Dekker did (1971). Results are
 * within one unit in the last place, `tangent` and `arcTangent` within two.
 */

const LN2_HIGH = 0.6931471805598903;
const LN2_LOW = 5.497923018708371e-14;
const PER_LN10 = Math.LOG10E;
const PER_LN10_LOW = 1.098319650216765e-17;
/** A quarter turn in three parts; the first two have 33 bits each, so that small multiples of them are exact. */
const QUARTER = [1.5707963267341256, 6.077100506303966e-11, 2.0222662487959506e-21] as const;
const PI_LOW = 1.2246467991473532e-16;
/** Up to here a number of quarter turns times a part of one is exact. */
const MOST_TURNED = 1e6;

/** What rounding has taken from a sum. */
function lostOfSum(a: number, b: number, sum: number): number {
  const added = sum - a;
  return a - (sum - added) + (b - added);
}

/** What rounding has taken from a product. */
function lostOfProduct(a: number, b: number, product: number): number {
  const splitA = a * 134217729;
  const splitB = b * 134217729;
  const highA = splitA - (splitA - a);
  const highB = splitB - (splitB - b);
  const lowA = a - highA;
  const lowB = b - highB;
  return lowA * lowB - (product - highA * highB - lowA * highB - highA * lowB);
}

/** A sum of powers of `x`, from the highest coefficient down to that of `x` to the power of 0. */
function series(coefficients: Float64Array, x: number): number {
  let sum = coefficients[0] as number;
  for (let at = 1; at < coefficients.length; at++) sum = sum * x + (coefficients[at] as number);
  return sum;
}

/** `[f(least), …, f(most)]`, from the highest down. */
const downFrom = (most: number, least: number, coefficient: (n: number) => number) =>
  Float64Array.from({ length: most - least + 1 }, (_, at) => coefficient(most - at));

function factorial(n: number): number {
  let product = 1;
  for (let factor = 2; factor <= n; factor++) product *= factor;
  return product;
}

const alternating = (n: number) => (n % 2 ? -1 : 1);
const EXPONENTIAL = downFrom(15, 2, (n) => 1 / factorial(n));
const SINE = downFrom(10, 1, (n) => alternating(n) / factorial(2 * n + 1));
const COSINE = downFrom(10, 2, (n) => alternating(n) / factorial(2 * n));
const LOGARITHM = downFrom(12, 2, (n) => 1 / (2 * n + 1));
const ARC_TANGENT = downFrom(8, 1, (n) => alternating(n) / (2 * n + 1));
/** Arc tangents of 0, 1/8, … 1. */
const EIGHTHS = [
  0, 0.12435499454676144, 0.24497866312686414, 0.3587706702705722, 0.4636476090008061, 0.5585993153435624,
  0.6435011087932844, 0.7188299996216245, 0.7853981633974483,
] as const;

const bits = new DataView(new ArrayBuffer(8));

/** The exponent of a normal number: it is at least 2 to this power, and less than twice that. */
function exponentOf(value: number): number {
  bits.setFloat64(0, value);
  return ((bits.getUint16(0) >> 4) & 2047) - 1023;
}

/** 2 to a power between -1022 and 1023. */
function powerOfTwo(exponent: number): number {
  bits.setUint32(0, (exponent + 1023) << 20);
  bits.setUint32(4, 0);
  return bits.getFloat64(0);
}

/** `value` times 2 to any power, rounded once. */
function scaled(value: number, exponent: number): number {
  const nearer = Math.max(-800, Math.min(800, exponent));
  return value * powerOfTwo(nearer) * powerOfTwo(exponent - nearer);
}

/** What the function answered last has below its last place. Read at once, before another is called. */
let below = 0;

/** The natural logarithm of a finite number above 0, with what is below its last place. */
function fullLogarithm(value: number): number {
  const small = value < 2.3e-308;
  const normal = small ? value * powerOfTwo(60) : value;
  let exponent = exponentOf(normal);
  let part = scaled(normal, -exponent);
  if (part > Math.SQRT2) {
    part /= 2;
    exponent += 1;
  }
  if (small) exponent -= 60;
  // ln(part) = 2 (s + s^3/3 + s^5/5 + …) with s = (part - 1) / (part + 1).
  const [over, under] = [part - 1, part + 1];
  const s = over / under;
  const back = s * under;
  const sLow = (over - back - lostOfProduct(s, under, back) - s * lostOfSum(part, 1, under)) / under;
  const square = s * s;
  const third = square / 3;
  const thirdLow = (square - third * 3 - lostOfProduct(third, 3, third * 3) + lostOfProduct(s, s, square)) / 3;
  const factor = 1 + third;
  const factorLow =
    lostOfSum(1, third, factor) + thirdLow + (2 / 3) * s * sLow + square * square * series(LOGARITHM, square);
  const high = 2 * s * factor;
  const low = lostOfProduct(2 * s, factor, high) + 2 * (s * factorLow + sLow * factor);
  const whole = exponent * LN2_HIGH;
  const sum = whole + high;
  const rest = lostOfSum(whole, high, sum) + low + exponent * LN2_LOW;
  const result = sum + rest;
  below = rest - (result - sum);
  return result;
}

/** e to the power of `value + low`. */
function fullExponential(value: number, low: number): number {
  if (value > 710) return Number.POSITIVE_INFINITY;
  if (value < -746) return 0;
  const exponent = Math.round(value / Math.LN2);
  const near = value - exponent * LN2_HIGH;
  const correction = low - exponent * LN2_LOW;
  const part = near + correction;
  const partLow = lostOfSum(near, correction, part);
  const first = 1 + part;
  const rest = part * part * series(EXPONENTIAL, part) + partLow * first;
  return scaled(first + (lostOfSum(1, part, first) + rest), exponent);
}

/** e to a power. */
export const exponential = (value: number): number => (value === value ? fullExponential(value, 0) : value);

/** The natural logarithm; missing for what is not above 0. */
export const naturalLogarithm = (value: number): number =>
  value > 0 && value < Number.POSITIVE_INFINITY ? fullLogarithm(value) : Number.NaN;

/** The logarithm to the base of 10; whole for powers of ten. Missing for what is not above 0. */
export function decimalLogarithm(value: number): number {
  if (!(value > 0 && value < Number.POSITIVE_INFINITY)) return Number.NaN;
  const natural = fullLogarithm(value);
  const product = natural * PER_LN10;
  return product + (lostOfProduct(natural, PER_LN10, product) + natural * PER_LN10_LOW + below * PER_LN10);
}

/** `base` to a power, both finite or missing; whole where that can be held. Missing for roots of negative numbers. */
export function power(base: number, exponent: number): number {
  if (base !== base || exponent !== exponent) return Number.NaN;
  if (exponent === 0 || base === 1) return 1;
  if (exponent === 1) return base;
  if (exponent === 2) return base * base;
  const isWhole = Number.isInteger(exponent);
  if (base < 0 && !isWhole) return Number.NaN;
  const sign = base < 0 && Math.abs(exponent % 2) === 1 ? -1 : 1;
  if (base === 0) return exponent > 0 ? 0 : Number.POSITIVE_INFINITY;
  const natural = fullLogarithm(Math.abs(base));
  const naturalLow = below;
  const product = natural * exponent;
  if (Math.abs(product) > 800) return sign * fullExponential(product, 0);
  return sign * fullExponential(product, lostOfProduct(natural, exponent, product) + naturalLow * exponent);
}

/** The bits after the point with which large angles are turned back; the largest number has 1,024 before it. */
const TURN_BITS = 1200n;
let quarterTurn = 0n;

/** A quarter turn as a whole number of 2 to the power of -1200, by Machin's formula. */
function wholeQuarterTurn(): bigint {
  const arcTangentOfOneBy = (n: bigint) => {
    let term = (1n << TURN_BITS) / n;
    let sum = term;
    for (let odd = 3n; term; odd += 2n) {
      term /= -n * n;
      sum += term / odd;
    }
    return sum;
  };
  quarterTurn ||= 8n * arcTangentOfOneBy(5n) - 2n * arcTangentOfOneBy(239n);
  return quarterTurn;
}

/** Takes quarter turns off a large angle above 0, exactly. */
function turnedBackFar(angle: number): [quarters: number, rest: number, low: number] {
  const exponent = exponentOf(angle) - 52;
  const whole = BigInt(scaled(angle, -exponent)) << (BigInt(exponent) + TURN_BITS);
  const quarter = wholeQuarterTurn();
  const quarters = (whole + quarter / 2n) / quarter;
  const left = (whole - quarters * quarter) >> 1000n;
  const rest = Number(left);
  const unit = powerOfTwo(-200);
  return [Number(quarters & 3n), rest * unit, Number(left - BigInt(rest)) * unit];
}

/** Takes quarter turns off an angle until at most half of one is left. */
function turnedBack(angle: number): [quarters: number, rest: number, low: number] {
  if (Math.abs(angle) > MOST_TURNED) {
    const [quarters, rest, low] = turnedBackFar(Math.abs(angle));
    return angle < 0 ? [-quarters & 3, -rest, -low] : [quarters, rest, low];
  }
  const quarters = Math.round(angle / QUARTER[0]);
  const first = angle - quarters * QUARTER[0];
  const second = first - quarters * QUARTER[1];
  const last = quarters * QUARTER[2];
  const low = lostOfSum(first, -quarters * QUARTER[1], second) - lostOfProduct(quarters, QUARTER[2], last);
  const rest = second - last;
  return [quarters & 3, rest, lostOfSum(second, -last, rest) + low];
}

/** The sine of an angle of at most an eighth of a turn. */
function nearSine(angle: number, low: number): number {
  const square = angle * angle;
  return angle + (angle * square * series(SINE, square) + low * (1 - square / 2));
}

/** The cosine of an angle of at most an eighth of a turn. */
function nearCosine(angle: number, low: number): number {
  const square = angle * angle;
  const half = square / 2;
  const first = 1 - half;
  return first + (1 - first - half + (square * square * series(COSINE, square) - angle * low));
}

/** Sine and cosine of any angle from those of what is left of it. */
function turned(angle: number, quartersOn: number): number {
  if (!Number.isFinite(angle)) return Number.NaN;
  const [quarters, rest, low] = turnedBack(angle);
  const place = (quarters + quartersOn) & 3;
  const value = place & 1 ? nearCosine(rest, low) : nearSine(rest, low);
  return place & 2 ? -value : value;
}

/** The sine of an angle in radians. */
export const sine = (angle: number): number => turned(angle, 0);
/** The cosine of an angle in radians. */
export const cosine = (angle: number): number => turned(angle, 1);
/** The tangent of an angle in radians. */
export const tangent = (angle: number): number => sine(angle) / cosine(angle);

/** The angle of the point (x, y), in radians from -π to π. */
export function arcTangent(y: number, x: number): number {
  if (y !== y || x !== x) return Number.NaN;
  const [high, wide] = [Math.abs(y), Math.abs(x)];
  const isSteep = high > wide;
  const ratio = high === wide ? (high ? 1 : 0) : isSteep ? wide / high : high / wide;
  const eighth = Math.round(ratio * 8);
  const near = eighth / 8;
  const left = (ratio - near) / (1 + ratio * near);
  const square = left * left;
  const flat = (EIGHTHS[eighth] as number) + (left + left * square * series(ARC_TANGENT, square));
  const upper = isSteep ? Math.PI / 2 - flat + PI_LOW / 2 : flat;
  const angle = x < 0 || Object.is(x, -0) ? Math.PI - upper + PI_LOW : upper;
  return y < 0 || Object.is(y, -0) ? -angle : angle;
}

/** The angle whose sine is a number from -1 to 1, in radians. */
export const arcSine = (value: number): number => arcTangent(value, Math.sqrt((1 - value) * (1 + value)));
