import type { Query } from "../query/query";

/**
 * A part of a text with values in it: words as they are, a value, the label of a setting, or what a selection
 * holds.
 */
export type WordPart = string | { channel: string } | { setting: string } | { selection: string; column: string };

/** Texts of a piece in which values stand, by their keys, and the question that answers the values. */
export interface LiveWords {
  parts: Record<string, WordPart[]>;
  query: Query;
}

/** Most values of a selection that are named one by one. */
export const MOST_NAMED = 3;

/** What a selection holds in words: its one value, a few by name, or how many. */
export function heldWords(values: readonly string[] | undefined): string {
  if (values === undefined) return "all";
  if (values.length > MOST_NAMED) return `${values.length} values`;
  return values.length === 0 ? "none" : values.join(", ");
}
