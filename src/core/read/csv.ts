import type { Finding } from "../finding/finding";
import { RowCutter } from "./row-cutter";
import { RowTaker } from "./row-taker";
import { guessHeader, type ReadOptions, type ReadResult, tableOfCells, warnOfDataAsHeads } from "./texts";

/** The part of reading that goes into cutting cells; the rest finds kinds. */
const CUTTING = 0.8;

/** What a file is like is seen from so many units of its beginning. */
const LOOKED_AT = 20_000;

const SEPARATORS = [",", ";", "\t", "|"];

/** How many cells most rows have, and how many rows that are; lines of title above a table are narrower. */
function usualWidth(rows: readonly string[][]): { width: number; rows: number } {
  const counts = new Map<number, number>();
  for (const { length } of rows) counts.set(length, (counts.get(length) ?? 0) + 1);
  const [width, count] = [...counts].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0] ?? [1, 0];
  return { width, rows: count };
}

/** Rows at the beginning of a text, as texts; the last may be cut off. */
function firstRows(text: string, separator: string, most: number): string[][] {
  const cutter = new RowCutter(text, separator);
  const rows: string[][] = [];
  while (rows.length < most && cutter.next())
    rows.push(Array.from({ length: cutter.count }, (_, place) => cutter.cell(place)));
  return rows;
}

/** The separator that parts the first lines most evenly. */
export function guessSeparator(text: string): string {
  const lines = text
    .slice(0, LOOKED_AT)
    .split(/\r\n|[\r\n]/)
    .slice(0, 20)
    .filter(Boolean);
  let best = ",";
  let bestScore = 0;
  for (const separator of SEPARATORS) {
    const { width, rows: even } = usualWidth(firstRows(lines.join("\n"), separator, lines.length));
    const score = width > 1 ? even * width : 0;
    if (score > bestScore) {
      best = separator;
      bestScore = score;
    }
  }
  return best;
}

/**
 * Text of a file's bytes: UTF-8 or UTF-16 by their mark (or by their zeros), else UTF-8, else Latin-1 where that
 * is what it must be.
 */
export function textOfBytes(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder("utf-16le").decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder("utf-16be").decode(bytes);
  // Text of mostly Latin letters in UTF-16 without its mark has a zero in every other place.
  if (bytes.length >= 4 && bytes[0] !== 0 && bytes[1] === 0 && bytes[2] !== 0 && bytes[3] === 0)
    return new TextDecoder("utf-16le").decode(bytes);
  if (bytes.length >= 4 && bytes[0] === 0 && bytes[1] !== 0 && bytes[2] === 0 && bytes[3] !== 0)
    return new TextDecoder("utf-16be").decode(bytes);
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder("windows-1252").decode(bytes);
  }
}

/** Rows of title above the one that names the columns: they fill far fewer cells than the rows below. */
function titleRows(text: string, separator: string): number {
  const rows = firstRows(text, separator, 30);
  return rows.length > 3 ? guessHeader(rows.slice(0, -1)) : 0;
}

/**
 * Reads comma-, semicolon-, tab- or bar-separated text whose first row names the columns, unless the sheet says
 * otherwise.
 */
export function readCsv(file: string, text: string, options: ReadOptions = {}): ReadResult {
  // Mostly what a column is like at its beginning is what it is; where not, it is read once more.
  return readOnce(file, text, options, true) ?? (readOnce(file, text, options, false) as ReadResult);
}

/** So many rows are cut between two words of progress. */
const ROWS_A_WORD = 20_000;

/** What to say of cells whose quotes do not close: where they stand, and what they look like. */
function oddQuotes(file: string, text: string, { oddQuotes, oddCount }: RowCutter): Finding[] {
  if (oddCount === 0) return [];
  const places = oddQuotes.map((at) => {
    const before = text.slice(0, at);
    const line = before.split(/\r\n|[\r\n]/).length;
    const column = at - Math.max(before.lastIndexOf("\n"), before.lastIndexOf("\r"));
    return `line ${line}, column ${column}: ${text.slice(at, at + 20).split(/[\r\n]/)[0]}`;
  });
  const cells =
    oddCount === 1
      ? "a cell begins with a quote that does not end it; it was taken"
      : `${oddCount} cells begin with a quote that does not end them; they were taken`;
  return [
    {
      code: "odd-quotes",
      severity: "warning",
      file,
      message:
        `${file}: ${cells} as written. Inside quotes, write a quote twice ` +
        `(${places.join("; ")}${oddCount > places.length ? "; …" : ""})`,
    },
  ];
}

/** Reads the text once. With quick columns it answers nothing if one of them is not what it seemed. */
function readOnce(file: string, text: string, options: ReadOptions, mayBeQuick: boolean): ReadResult | undefined {
  const begin = text.startsWith("\ufeff") ? 1 : 0;
  // The line break that ends the last line begins no further row.
  const end = text.length - (/\r?\n$|\r$/.exec(text.slice(-2))?.[0].length ?? 0);
  const separator = guessSeparator(text.slice(begin, begin + LOOKED_AT));
  const header = options.header ?? titleRows(text.slice(begin, begin + LOOKED_AT), separator) + 1;
  const taker = new RowTaker(header, options, mayBeQuick);
  const cutter = new RowCutter(text, separator, begin, end);
  for (let word = ROWS_A_WORD; cutter.next(); word--) {
    taker.take(cutter);
    if (word > 0) continue;
    options.progress?.((cutter.at / text.length) * CUTTING, taker.rows);
    word = ROWS_A_WORD;
  }
  if (taker.failed) return undefined;
  const { names, rows } = taker;
  const findings = oddQuotes(file, text, cutter);
  if (names.length === 0)
    findings.unshift({
      code: "empty-file",
      severity: "error",
      file,
      message:
        header === "none" || header === 1
          ? `${file} holds no rows; its first row should name the columns`
          : `${file} has no row ${header}, which should name the columns`,
    });
  const notes = taker.notes(options.header === undefined);
  const result = tableOfCells(
    file,
    names,
    taker.finish(),
    rows,
    notes,
    findings,
    { ...options, progress: (part) => options.progress?.(CUTTING + part * (1 - CUTTING), rows) },
    { decimal: separator === ";" ? "," : "." },
  );
  if (result && options.header === undefined) warnOfDataAsHeads(file, names, result.table, findings);
  return result;
}
