/** Row numbers side by side: those with key k stand from `starts[k]` to `starts[k + 1]`. */
export interface LaidOut {
  rows: Int32Array;
  starts: Int32Array;
}

/**
 * Where the rows of every key begin once they stand side by side, and after the last one how many there are.
 * @param ranks in which order keys follow one another; by their numbers where there are none
 */
export function startsOf(keys: Int32Array, count: number, ranks?: Int32Array): Int32Array {
  const starts = new Int32Array(count + 1);
  for (let row = 0; row < keys.length; row++) {
    const key = keys[row] as number;
    if (key < 0) continue;
    const after = (ranks ? (ranks[key] as number) : key) + 1;
    starts[after] = (starts[after] as number) + 1;
  }
  for (let key = 0; key < count; key++) starts[key + 1] = (starts[key + 1] as number) + (starts[key] as number);
  return starts;
}

/**
 * Rows laid out by a key, by counting: stable, and in time that grows with rows and keys alone.
 * @param keys of each row, from 0 up to, not including, `count`; rows below 0 are left out
 * @param order in which the rows of a key follow one another; the table's own where there is none
 */
export function laidOut(keys: Int32Array, count: number, order?: Int32Array): LaidOut {
  const starts = startsOf(keys, count);
  const next = starts.slice();
  const rows = new Int32Array(starts[count] as number);
  for (let at = 0; at < keys.length; at++) {
    const row = order ? (order[at] as number) : at;
    const key = keys[row] as number;
    if (key < 0) continue;
    const place = next[key] as number;
    rows[place] = row;
    next[key] = place + 1;
  }
  return { rows, starts };
}
