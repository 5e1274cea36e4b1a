/** Words that cannot stand as bare column names in a formula. */
export const RESERVED = new Set(["and", "or", "not", "in", "between", "as", "of", "true", "false", "missing"]);

const PLAIN = /^[\p{L}_][\p{L}\p{N}_]*$/u;

/** A column's name as it is written in a formula: in backticks where it needs them. */
export function writeName(name: string): string {
  return PLAIN.test(name) && !RESERVED.has(name) ? name : `\`${name.replaceAll("`", "``")}\``;
}
