/**
 * Findings are how every part of the house speaks of what is wrong or could be better:
 * plain data, never exceptions. A finding knows its place in a text so that a terminal can
 * name line and column and an editor can underline it.
 */

export type Severity = "error" | "warning" | "advice";

/** A stretch of a text, in UTF-16 code units: `start` is in it, `end` is not. */
export interface Span {
  start: number;
  end: number;
  /** A sheet that this one uses, where it is not the sheet itself. */
  file?: string;
}

/** One replacement in a text; an empty stretch inserts. */
export interface TextEdit extends Span {
  text: string;
}

/** A way out that can be taken in one press. Edits do not overlap. */
export interface Fix {
  title: string;
  edits: TextEdit[];
}

/** The marks that a finding speaks of: their channels hold one of these combinations, or a number in a range. */
export interface FoundMarks {
  channels: readonly string[];
  values?: readonly (readonly (string | number | boolean | null)[])[];
  range?: readonly [number, number];
}

export interface Finding {
  /** A short stable name of the kind of finding, such as `unknown-key`. */
  code: string;
  severity: Severity;
  /** One plain sentence: what is wrong, what was expected. */
  message: string;
  /** Where in the file's text; absent when it concerns the whole file. */
  span?: Span;
  /** The file it stands in; absent for the sheet itself. */
  file?: string;
  fix?: Fix;
  /** The piece (chart, control, note) or `tables.NAME` that is broken by it. */
  piece?: string;
  marks?: FoundMarks;
}

/** The fix that writes another text at a place, for a finding; none where the place or the text is not known. */
export const writeFix = (span: Span | undefined, text: string | undefined): { fix?: Fix } =>
  span && text !== undefined ? { fix: { title: `write ${text}`, edits: [{ ...span, text }] } } : {};

/** Applies edits to a text. They may come in any order but must not overlap. */
export function applyEdits(text: string, edits: readonly TextEdit[]): string {
  const ordered = [...edits].sort((a, b) => a.start - b.start || a.end - b.end);
  let result = "";
  let at = 0;
  for (const edit of ordered) {
    if (edit.start < at) throw new RangeError("edits overlap");
    result += text.slice(at, edit.start) + edit.text;
    at = edit.end;
  }
  return result + text.slice(at);
}

/** True if any finding keeps the sheet from being written. */
export function hasErrors(findings: readonly Finding[]): boolean {
  return findings.some((finding) => finding.severity === "error");
}
