import type { Column, NumericColumn, TextColumn } from "./column";

/**
 * A column on its way from one thread to another. Texts go as one long text with the places where they end: what is
 * sent is copied, a million short texts one by one and a long one at once.
 */
export type SentColumn =
  | NumericColumn
  | TextColumn
  | (Omit<TextColumn, "dictionary"> & { joined: string; ends: Int32Array });

/** A longer text than this is not made; such texts are few and long, and go as they are. */
const MOST_CHARACTERS = 2 ** 28;

/** The column as it is sent; the arrays are the column's own. */
export function sentColumn(column: Column): SentColumn {
  if (column.kind !== "text") return column;
  const { dictionary, ...rest } = column;
  const ends = new Int32Array(dictionary.length);
  let end = 0;
  for (let code = 0; code < ends.length; code++) {
    end += (dictionary[code] as string).length;
    if (end > MOST_CHARACTERS) return column;
    ends[code] = end;
  }
  return { ...rest, joined: dictionary.join(""), ends };
}

/** The column that was sent. */
export function receivedColumn(column: SentColumn): Column {
  if (!("joined" in column)) return column;
  const { joined, ends, ...rest } = column;
  const dictionary = Array.from(ends, (end, code) => joined.slice(code === 0 ? 0 : ends[code - 1], end));
  return { ...rest, dictionary };
}
