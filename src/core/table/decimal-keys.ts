/** Values as whole numbers of their last decimal, from 0 at the least one on. */
export interface DecimalKeys {
  /** One a row; -1 where the value is missing. */
  keys: Int32Array;
  /** One more than the largest key. */
  count: number;
}

const MOST_DECIMALS = 3;
/** More different places than this are sorted as quickly by their bits. */
const MOST_KEYS = 1 << 21;

const known = new WeakMap<Float64Array, { keys: DecimalKeys | undefined }>();

/**
 * Numbers that are short decimals close together - counts, prices, hours with one decimal, codes - as
 * whole numbers of which each knows its place. Nothing where some value is no such decimal, or they lie far apart.
 */
export function decimalKeys(values: Float64Array): DecimalKeys | undefined {
  const before = known.get(values);
  if (before) return before.keys;
  let keys: DecimalKeys | undefined;
  for (let decimals = 0; decimals <= MOST_DECIMALS && !keys; decimals++) keys = keysOf(values, 10 ** decimals);
  known.set(values, { keys });
  return keys;
}

function keysOf(values: Float64Array, unit: number): DecimalKeys | undefined {
  let [least, most] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let row = 0; row < values.length; row++) {
    const value = values[row] as number;
    if (value !== value) continue;
    const whole = Math.round(value * unit);
    if (whole / unit !== value) return undefined;
    if (whole < least) least = whole;
    if (whole > most) most = whole;
  }
  if (!(most >= least && most - least < MOST_KEYS)) return undefined;
  const keys = new Int32Array(values.length);
  for (let row = 0; row < values.length; row++) {
    const value = values[row] as number;
    keys[row] = value === value ? Math.round(value * unit) - least : -1;
  }
  return { keys, count: most - least + 1 };
}
