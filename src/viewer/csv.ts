/** A cell of CSV: quoted where it holds a separator, a quote or a line break. */
export function csvCell(text: string): string {
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

/** Rows as CSV; missing is an empty cell. A byte order mark lets spreadsheets know that it is UTF-8. */
export function csvText(heads: readonly string[], rows: Iterable<readonly (string | number | boolean | null | [number, number])[]>): string {
  const lines = [heads.map(csvCell).join(",")];
  for (const row of rows) lines.push(row.map((value) => (value === null ? "" : csvCell(String(value)))).join(","));
  return `\ufeff${lines.join("\r\n")}\r\n`;
}
