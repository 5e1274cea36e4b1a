import { type TextColumn, valuesIn } from "./column";

/** What parts several values in one cell, the likeliest first. */
const SEPARATORS = [";", "|", ", ", ","] as const;
/** So many different cells are looked at. */
const LOOKED_AT = 400;
/** Among different cells this part or more holds several values; */
const SEVERAL = 0.3;
/** and each value stands in so many different cells on average. */
const CELLS_A_VALUE = 3;
/** and of the values this part or more also stands alone: what always comes in pairs has parts, and is one value. */
const ALONE = 0.5;
/** More different values, or longer ones, are no list of words from which some are chosen. */
const MOST_VALUES = 60;
const LONGEST = 40;

const known = new WeakMap<readonly string[], string | undefined>();

/**
 * What parts the values in the cells of a column that holds several in one, as "access;billing" does: few values
 * that come again and again, beside one another and alone. Nothing for other texts, as addresses or remarks.
 */
export function separatorIn({ dictionary }: TextColumn): string | undefined {
  if (known.has(dictionary)) return known.get(dictionary);
  const cells = dictionary.slice(0, LOOKED_AT);
  const found = SEPARATORS.find((separator) => parts(cells, separator));
  known.set(dictionary, found);
  return found;
}

function parts(cells: readonly string[], separator: string): boolean {
  const several = cells.filter((cell) => cell.includes(separator));
  if (several.length < 2 || several.length < cells.length * SEVERAL) return false;
  const values = cells.flatMap((cell) => valuesIn(cell, separator));
  const different = new Set(values);
  const alone = cells.filter((cell) => different.has(cell.trim())).length;
  return (
    different.size > 1 &&
    alone >= different.size * ALONE &&
    different.size <= MOST_VALUES &&
    values.length >= different.size * CELLS_A_VALUE &&
    values.every((value) => value.length <= LONGEST)
  );
}
