import type { Finding } from "./finding";

/** Line and column of an offset, both counted from 1, as editors and terminals do. */
export interface Place {
  line: number;
  column: number;
}

/** Finds line and column of an offset in a text; columns count UTF-16 code units. */
export function placeOf(text: string, offset: number): Place {
  const end = Math.max(0, Math.min(offset, text.length));
  let line = 1;
  let lineStart = 0;
  for (let at = text.indexOf("\n"); at !== -1 && at < end; at = text.indexOf("\n", at + 1)) {
    line += 1;
    lineStart = at + 1;
  }
  return { line, column: end - lineStart + 1 };
}

/** One line for a terminal: `FILE:LINE:COLUMN severity code: message`. */
export function lineOf(finding: Finding, file: string, text: string): string {
  const { line, column } = placeOf(text, finding.span?.start ?? 0);
  const message = finding.message.replace(/\s*[\r\n]+\s*/g, " ");
  const way = finding.fix ? ` (fix: ${finding.fix.title.replace(/\s*[\r\n]+\s*/g, " ")})` : "";
  return `${finding.file ?? file}:${line}:${column} ${finding.severity} ${finding.code}: ${message}${way}`;
}
