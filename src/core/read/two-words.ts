import { capital } from "../table/column-names";
import type { ColumnInfo } from "../table/table";

/** A word in capitals as another is written. */
const as = (other: string, word: string) =>
  other === other.toUpperCase() ? word.toUpperCase() : other === capital(other) ? capital(word) : word;

/**
 * How what is true and what is not is written, where the cells say yes and no: a reader finds the words again that
 * stood in the file. Nothing where they say true and false.
 */
export function twoWords(dictionary: readonly string[]): ColumnInfo | undefined {
  const spelt = (word: string) => dictionary.find((text) => text.trim().toLowerCase() === word)?.trim();
  const [yes, no] = [spelt("yes"), spelt("no")];
  if ((yes ?? no) === undefined || spelt("true") !== undefined || spelt("false") !== undefined) return undefined;
  return { format: `${yes ?? as(no as string, "yes")}/${no ?? as(yes as string, "no")}` };
}
