/** A string, or a number outside of one. */
const TOKEN = /"[^"\\]*(?:\\.[^"\\]*)*"|-?\d+(?:\.\d+)?(?:[eE][+-]?\d+)?/gs;

/**
 * A JSON text in which whole numbers beyond 2^53, of which parsing would make the nearest float, are strings of
 * their digits.
 */
export function withExactIntegers(text: string): string {
  if (!/\d{16}/.test(text)) return text;
  return text.replace(TOKEN, (token) =>
    token.length >= 16 && /^-?\d+$/.test(token) && !Number.isSafeInteger(Number(token)) ? `"${token}"` : token,
  );
}

/** A number as a cell of text; large ones are written so that they are not taken for a code of many digits. */
export const writtenNumber = (value: number): string =>
  Math.abs(value) >= 1e15 ? value.toExponential() : String(value);
