/** A text that a spreadsheet would take for a formula or a command stands behind an apostrophe. */
export const guarded = (text: string): string => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text);

/** A cell of CSV: quoted where it holds a separator, a quote or a line break. */
function csvCell(text: string): string {
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

const csvValue = (value: string | number | boolean) =>
  csvCell(typeof value === "string" ? guarded(value) : String(value));

/** Rows as CSV; missing is an empty cell. A byte order mark lets spreadsheets know that it is UTF-8. */
export function csvText(
  heads: readonly string[],
  rows: Iterable<readonly (string | number | boolean | null)[]>,
): string {
  const lines = [heads.map(csvValue).join(",")];
  for (const row of rows) lines.push(row.map((value) => (value === null ? "" : csvValue(value))).join(","));
  return `\ufeff${lines.join("\r\n")}\r\n`;
}
