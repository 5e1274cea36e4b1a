/**
 * Sums that can be taken apart again to the last bit. Every value becomes one integer, or a high
 * and a low one, at a quantum chosen once from the unfiltered column; integers below 2^53 add
 * without rounding, so the order of adding, and adding and taking away, cannot matter.
 */
export interface ExactValues {
  /** Integer of each row; 0 where the value is missing. */
  high: Float64Array;
  /** The rest below the high quantum, as integers; absent when the high ones are the whole value. */
  low?: Float64Array;
  /** sum = high / divisor (decimals) or high * quantum + low * lowQuantum. */
  divisor: number;
  quantum: number;
  lowQuantum: number;
}

const LIMIT = 2 ** 53;

/** Chooses the quantum and turns values into integers. `NaN` counts as 0. */
export function exactValues(values: Float64Array): ExactValues {
  let largest = 0;
  let total = 0;
  for (const value of values) {
    if (value !== value) continue;
    const size = Math.abs(value);
    total += size;
    if (size > largest) largest = size;
  }
  for (let digits = 0, divisor = 1; digits <= 6; digits++, divisor *= 10) {
    if (total * divisor >= LIMIT / 4) break;
    const high = decimals(values, divisor);
    if (high) return { high, divisor, quantum: 1 / divisor, lowQuantum: 0 };
  }
  return twoLimbs(values, largest);
}

/** Values times `divisor` as integers, if every value is a decimal of that many places. */
function decimals(values: Float64Array, divisor: number): Float64Array | undefined {
  const high = new Float64Array(values.length);
  for (let row = 0; row < values.length; row++) {
    const value = values[row] as number;
    if (value !== value) continue;
    const whole = Math.round(value * divisor);
    if (whole / divisor !== value) return undefined;
    high[row] = whole;
  }
  return high;
}

function twoLimbs(values: Float64Array, largest: number): ExactValues {
  const bits = 51 - Math.ceil(Math.log2(Math.max(2, values.length)));
  const top = largest > 0 ? Math.ceil(Math.log2(largest)) : 0;
  const quantum = 2 ** Math.max(-1000, top - bits);
  const lowQuantum = quantum * 2 ** -bits;
  const high = new Float64Array(values.length);
  const low = new Float64Array(values.length);
  for (let row = 0; row < values.length; row++) {
    const value = values[row] as number;
    if (value !== value) continue;
    const whole = Math.round(value / quantum);
    high[row] = whole;
    low[row] = lowQuantum > 0 ? Math.round((value - whole * quantum) / lowQuantum) : 0;
  }
  return { high, low, divisor: 0, quantum, lowQuantum };
}

/** The sum that integer totals stand for. */
export function sumOf(exact: ExactValues, high: number, low: number): number {
  if (exact.divisor > 0) return high / exact.divisor;
  return high * exact.quantum + low * exact.lowQuantum;
}
