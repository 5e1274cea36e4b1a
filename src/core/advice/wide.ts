/** A head that is a year, a month, a day, or a word and a number: `2024`, `2024-03`, `Mar 24`, `gene_12`. */
const NUMBERED = /^[\d\s./-]*\d[\d\s./-]*$|^\p{L}+[ _-]?\d{1,4}$/u;

/** Fewer columns alike are no wide table. */
const LEAST = 4;

/** Most of the columns must be of one kind; some may be spoilt by a dash or a note in a cell. */
const ALIKE = 0.6;

type Head = { name: string; kind: string };

function isOfOneKind(columns: readonly Head[]): boolean {
  const counts = new Map<string, number>();
  for (const { kind } of columns) counts.set(kind, (counts.get(kind) ?? 0) + 1);
  return Math.max(0, ...counts.values()) >= columns.length * ALIKE;
}

/**
 * The columns that look like one measure in many columns, one for each period or thing: the same
 * word, or none, with numbers, and values mostly of one kind. Nothing where they are few.
 */
export function wideColumns(columns: readonly Head[]): string[] {
  const families = new Map<string, Head[]>();
  for (const column of columns) {
    const name = column.name.trim();
    if (!NUMBERED.test(name)) continue;
    const word = name.replace(/[\d\s._/-]+/g, "").toLowerCase();
    const family = families.get(word);
    if (family) family.push(column);
    else families.set(word, [column]);
  }
  // Months in words are one family, though their words differ.
  const months = columns.filter(({ name }) =>
    /^(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)\p{L}*[ _-]?\d{0,4}$/iu.test(name.trim()),
  );
  const [longest = []] = [months, ...families.values()]
    .filter(isOfOneKind)
    .sort((one, other) => other.length - one.length);
  return longest.length >= LEAST ? longest.map(({ name }) => name) : [];
}
