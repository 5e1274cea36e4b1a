/**
 * The package that checks shapes passes over one key of maps, `__proto__`, which a column may well
 * have as its name. Meanwhile it goes by another that no text of a sheet can hold.
 */
const ODD = "__proto__";
const MEANWHILE = "\u0000proto";

function renamed<T>(value: T, from: string, to: string): T {
  if (typeof value !== "object" || value === null) return value;
  if (Array.isArray(value)) return value.map((item) => renamed(item, from, to)) as T;
  return Object.fromEntries(
    Object.entries(value).map(([key, part]) => [key === from ? to : key, renamed(part, from, to)]),
  ) as T;
}

export const withoutOddKey = <T>(value: T): T => renamed(value, ODD, MEANWHILE);
export const withOddKey = <T>(value: T): T => renamed(value, MEANWHILE, ODD);
/** A path of the other form as it stands in the sheet. */
export const pathWithOddKey = (path: readonly PropertyKey[]): PropertyKey[] =>
  path.map((part) => (part === MEANWHILE ? ODD : part));
