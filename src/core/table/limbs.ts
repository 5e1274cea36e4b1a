import { type Double, plus } from "./double-double";

/**
 * Values as integers at quanta that follow one another, from one above the largest value down to the
 * last bit of the smallest, as in a long accumulator (U. Kulisch, "Computer Arithmetic and Validity", 2008).
 */
export interface Limbs {
  /** The highest first: integers of each row, small enough for all rows to add up below 2^53. */
  parts: Float64Array[];
  /** Bits between one quantum and the next. */
  bits: number;
  /** The power of two of the lowest quantum. */
  lowest: number;
  /** Values smaller than the lowest quantum: where there are very many rows there is not room for all magnitudes. */
  lost: { rows: number; below: number };
}

/** Most integers in all limbs together; 256 MB. */
const MOST_INTEGERS = 1 << 25;
/**
 * So many limbs are there for any number of rows: values of one magnitude to the last bit, and what is some
 * digits smaller.
 */
const LEAST_LIMBS = 3;

/** Where the first bit of a value is above the point, and where its last one is. */
interface Reach {
  top: number;
  lowest: number;
}

/** Turns values, and what is to be added to them, into limbs. `NaN` counts as 0. */
export function limbsOf(values: Float64Array, rests?: Float64Array): Limbs {
  const { length } = values;
  const bits = 51 - Math.ceil(Math.log2(Math.max(2, length)));
  const reach: Reach = { top: -1074, lowest: 1023 };
  widen(reach, values);
  if (rests) widen(reach, rests);
  const wanted = Math.max(1, Math.ceil((reach.top - reach.lowest) / bits));
  const count = Math.min(wanted, Math.max(LEAST_LIMBS, Math.floor(MOST_INTEGERS / Math.max(1, length))));
  const lowest = count < wanted ? reach.top - count * bits : Math.min(reach.lowest, reach.top);
  const parts = Array.from({ length: count }, () => new Float64Array(length));
  cut(values, parts, bits, lowest);
  if (rests) cut(rests, parts, bits, lowest);
  return { parts, bits, lowest, lost: count < wanted ? smaller(values, 2 ** lowest) : { rows: 0, below: 0 } };
}

function widen(reach: Reach, values: Float64Array) {
  // Bits of floats, the lower word first on every machine that browsers and Node run on.
  const words = new Uint32Array(values.buffer, values.byteOffset, values.length * 2);
  for (let row = 0; row < values.length; row++) {
    const value = values[row] as number;
    if (value !== value || value === 0) continue;
    const low = words[row * 2] as number;
    const high = words[row * 2 + 1] as number;
    const exponent = (high >>> 20) & 0x7ff;
    // Numbers below 2^-1022 have no bit before the point.
    const last = Math.max(1, exponent) - 1075;
    const rest = (high & 0xfffff) | (exponent ? 0x100000 : 0);
    const trailing = low ? 31 - Math.clz32(low & -low) : 63 - Math.clz32(rest & -rest);
    if (last + trailing < reach.lowest) reach.lowest = last + trailing;
    if (last + 53 > reach.top) reach.top = last + 53;
  }
}

function cut(values: Float64Array, parts: readonly Float64Array[], bits: number, lowest: number) {
  const quanta = parts.map((_, place) => 2 ** (lowest + bits * (parts.length - 1 - place)));
  for (let row = 0; row < values.length; row++) {
    let rest = values[row] as number;
    for (let place = 0; place < parts.length && rest !== 0 && rest === rest; place++) {
      const quantum = quanta[place] as number;
      // Cut and not rounded: what is rounded up could leave the range of floats.
      const whole = Math.trunc(rest / quantum);
      if (whole === 0) continue;
      const part = parts[place] as Float64Array;
      part[row] = (part[row] as number) + whole;
      rest -= whole * quantum;
    }
  }
}

function smaller(values: Float64Array, quantum: number): { rows: number; below: number } {
  let rows = 0;
  // Below this a value keeps less than the twelve digits that sums are held to.
  const below = quantum * 2 ** 40;
  for (const value of values) if (value !== 0 && Math.abs(value) < below) rows += 1;
  return { rows, below };
}

/** The sum that totals of the parts stand for, from place `at` on. */
export function readLimbs({ parts, bits, lowest }: Limbs, totals: readonly number[], at: number): Double {
  const count = parts.length;
  const size = 2 ** bits;
  // What exceeds a limb is carried into the one above, so that no two of them cancel out.
  let carry = 0;
  let sum: Double = [0, 0];
  for (let place = count - 1; place >= 0; place--) {
    const total = (totals[at + place] as number) + carry;
    carry = place > 0 ? Math.round(total / size) : 0;
    sum = plus([(total - carry * size) * 2 ** (lowest + bits * (count - 1 - place)), 0], sum);
  }
  return sum;
}
