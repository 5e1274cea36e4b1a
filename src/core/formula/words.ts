/** Words that cannot stand as bare column names in a formula. */
export const RESERVED = new Set(["and", "or", "not", "in", "between", "as", "of", "true", "false", "missing"]);

const PLAIN = /^[\p{L}_][\p{L}\p{N}_]*$/u;

/** A name among others that stands in a formula without the backticks that it needs; of several the longest. */
export function bareName(
  text: string,
  names: Iterable<string>,
): { name: string; start: number; end: number } | undefined {
  const outside = text.replace(/`[^`]*`|"[^"]*"/g, (quoted) => "\0".repeat(quoted.length));
  const odd = [...names].filter((name) => !PLAIN.test(name)).sort((a, b) => b.length - a.length);
  for (const name of odd) {
    const start = outside.indexOf(name);
    const around = `${outside[start - 1] ?? " "}${outside[start + name.length] ?? " "}`;
    if (start >= 0 && name.trim() !== "" && !/[\p{L}\p{N}_]/u.test(around))
      return { name, start, end: start + name.length };
  }
  return undefined;
}

/** A column's name as it is written in a formula: in backticks where it needs them. */
export function writeName(name: string): string {
  return PLAIN.test(name) && !RESERVED.has(name) ? name : `\`${name.replaceAll("`", "``")}\``;
}
