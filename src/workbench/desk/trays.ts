/** Trays at the Tables station, each for one kind of change to a table. */
export type TrayName =
  | "rename"
  | "kind"
  | "values"
  | "frequent"
  | "fill"
  | "words"
  | "colours"
  | "column"
  | "rule"
  | "unique"
  | "group"
  | "long"
  | "wide"
  | "join"
  | "stack"
  | "sort"
  | "sample"
  | "text";

/** Steps that are about the whole table, as they are offered at the foot of the stream. */
export const WHOLE_TABLE: readonly (readonly [TrayName, string])[] = [
  ["rule", "keep by a rule"],
  ["column", "new column"],
  ["unique", "drop duplicates"],
  ["group", "group"],
  ["long", "make long"],
  ["wide", "make wide"],
  ["join", "look up"],
  ["stack", "stack"],
  ["sort", "sort"],
  ["sample", "sample"],
  ["text", "as text"],
];
