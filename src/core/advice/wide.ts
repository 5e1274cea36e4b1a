/** A head that is a year, a month, a day, or a word and a number: `2024`, `2024-03`, `Mar 24`, `gene_12`. */
const NUMBERED = /^[\d\s./-]*\d[\d\s./-]*$|^\p{L}+[ _-]?\d{1,4}$/u;

/** Fewer columns alike are no wide table. */
const LEAST = 4;

/**
 * The columns that look like one measure in many columns, one for each period or thing: the same
 * word, or none, with numbers, and values of one kind. Nothing where they are few.
 */
export function wideColumns(columns: readonly { name: string; kind: string }[]): string[] {
  const alike = new Map<string, string[]>();
  for (const { name, kind } of columns) {
    if (!NUMBERED.test(name.trim())) continue;
    const key = `${kind} ${name.trim().replace(/[\d\s._/-]+/g, "").toLowerCase()}`;
    alike.set(key, [...(alike.get(key) ?? []), name]);
  }
  // Months in words are one family, though their words differ.
  const months = columns.filter(({ name }) => /^(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)\p{L}*[ _-]?\d{0,4}$/iu.test(name.trim())).map(({ name }) => name);
  const [longest = []] = [months, ...alike.values()].sort((a, b) => b.length - a.length);
  return longest.length >= LEAST ? longest : [];
}
