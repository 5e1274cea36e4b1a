/**
 * Flags of rows, a byte each, gone over four at a time and without branches: of rows that pass at random a processor
 * guesses every second branch wrong. Every array begins its own memory.
 */

/** 1 in each of the four bytes of a word. */
const ONES = 0x01010101;

const wordsOf = (flags: Uint8Array) => new Int32Array(flags.buffer, 0, flags.length >> 2);

/** How many of two choices of rows, 1 or 0 each, differ. */
export function countDifferent(one: Uint8Array, other: Uint8Array): number {
  const [words, others] = [wordsOf(one), wordsOf(other)];
  let count = 0;
  for (let word = 0; word < words.length; word++)
    count += Math.imul((words[word] as number) ^ (others[word] as number), ONES) >>> 24;
  for (let row = words.length * 4; row < one.length; row++) count += (one[row] as number) ^ (other[row] as number);
  return count;
}

/** Calls for every row in which two choices differ. */
export function eachDifferent(one: Uint8Array, other: Uint8Array, take: (row: number) => void) {
  const [words, others] = [wordsOf(one), wordsOf(other)];
  for (let word = 0; word < words.length; word++) {
    if (words[word] === others[word]) continue;
    for (let row = word * 4; row < word * 4 + 4; row++) if (one[row] !== other[row]) take(row);
  }
  for (let row = words.length * 4; row < one.length; row++) if (one[row] !== other[row]) take(row);
}

/** Adds 1 to the counts of rows that do not pass; no count may come to more than 255. */
export function addFailing(counts: Uint8Array, pass: Uint8Array) {
  const [words, passes] = [wordsOf(counts), wordsOf(pass)];
  for (let word = 0; word < words.length; word++)
    words[word] = (words[word] as number) + ((passes[word] as number) ^ ONES);
  for (let row = words.length * 4; row < counts.length; row++)
    counts[row] = (counts[row] as number) + 1 - (pass[row] as number);
}

/** 1 for rows that are there and whose count is 0. */
export function thereAndZero(there: Uint8Array, counts: Uint8Array): Uint8Array {
  const found = new Uint8Array(there.length);
  const [words, theirs, own] = [wordsOf(counts), wordsOf(there), wordsOf(found)];
  for (let word = 0; word < own.length; word++) {
    const four = words[word] as number;
    // The top bit of a byte comes out set where any bit of it was.
    const some = ((four & 0x7f7f7f7f) + 0x7f7f7f7f) | four;
    own[word] = (~some >>> 7) & ONES & (theirs[word] as number);
  }
  for (let row = own.length * 4; row < found.length; row++) found[row] = counts[row] === 0 ? (there[row] as number) : 0;
  return found;
}
