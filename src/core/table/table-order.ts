/** One bit a row, all 0 between two uses. */
let marks = new Int32Array(0);

/**
 * Different rows in the order of their table, found by marking them: columns that are read from their beginning to
 * their end cost a fraction of what they cost to and fro.
 *
 * @param rows row numbers below `rowCount`, none of them twice
 * @returns the same rows, ascending, in memory of their own
 */
export function inTableOrder(rows: Int32Array, rowCount: number): Int32Array {
  const words = (rowCount + 31) >> 5;
  // To sort few is quicker than to look at every mark.
  if (rows.length < words / 16) return rows.slice().sort();
  if (marks.length < words) marks = new Int32Array(words);
  for (let at = 0; at < rows.length; at++) {
    const row = rows[at] as number;
    marks[row >> 5] = (marks[row >> 5] as number) | (1 << (row & 31));
  }
  const found = new Int32Array(rows.length);
  let count = 0;
  for (let word = 0; word < words; word++) {
    let bits = marks[word] as number;
    if (bits === 0) continue;
    marks[word] = 0;
    for (; bits !== 0; bits &= bits - 1) found[count++] = (word << 5) | (31 - Math.clz32(bits & -bits));
  }
  return found;
}
