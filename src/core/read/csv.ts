import Papa from "papaparse";
import type { Finding } from "../finding/finding";
import { CellColumn } from "./cell-column";
import { mayTurnOut, toldReader } from "./infer";
import { guessHeader, headNames, type ReadOptions, type ReadResult, tableOfCells, warnOfDataAsHeads } from "./texts";

/** The part of reading that goes into cutting cells; the rest finds kinds. */
const PARSING = 0.55;

const SEPARATORS = [",", ";", "\t", "|"];

/** How many cells most rows have, and how many rows that are; lines of title above a table are narrower. */
function usualWidth(rows: readonly string[][]): { width: number; rows: number } {
  const counts = new Map<number, number>();
  for (const { length } of rows) counts.set(length, (counts.get(length) ?? 0) + 1);
  const [width, count] = [...counts].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0] ?? [1, 0];
  return { width, rows: count };
}

/** The separator that parts the first lines most evenly. */
export function guessSeparator(text: string): string {
  const lines = text.slice(0, 20000).split(/\r?\n/).slice(0, 20).filter(Boolean);
  let best = ",";
  let bestScore = 0;
  for (const separator of SEPARATORS) {
    const rows = Papa.parse<string[]>(lines.join("\n"), { delimiter: separator }).data;
    const { width, rows: even } = usualWidth(rows);
    const score = width > 1 ? even * width : 0;
    if (score > bestScore) {
      best = separator;
      bestScore = score;
    }
  }
  return best;
}

/** Text of a file's bytes: UTF-8 or UTF-16 by their mark (or by their zeros), else UTF-8, else Latin-1 where that is what it must be. */
export function textOfBytes(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder("utf-16le").decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder("utf-16be").decode(bytes);
  // Text of mostly Latin letters in UTF-16 without its mark has a zero in every other place.
  if (bytes.length >= 4 && bytes[0] !== 0 && bytes[1] === 0 && bytes[2] !== 0 && bytes[3] === 0) return new TextDecoder("utf-16le").decode(bytes);
  if (bytes.length >= 4 && bytes[0] === 0 && bytes[1] !== 0 && bytes[2] === 0 && bytes[3] !== 0) return new TextDecoder("utf-16be").decode(bytes);
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder("windows-1252").decode(bytes);
  }
}

const isBlank = (cells: readonly string[]) => cells.every((cell) => cell === "");

/** Rows of title above the one that names the columns: they fill far fewer cells than the rows below. */
function titleRows(text: string, separator: string): number {
  const rows = Papa.parse<string[]>(text.slice(0, 20_000), { delimiter: separator, preview: 30 }).data;
  return rows.length > 3 ? guessHeader(rows.slice(0, -1)) : 0;
}

/** Reads comma-, semicolon-, tab- or bar-separated text whose first row names the columns, unless the sheet says otherwise. */
export function readCsv(file: string, text: string, options: ReadOptions = {}): ReadResult {
  // Mostly what a column is like at its beginning is what it is; where not, it is read once more.
  return readOnce(file, text, options, true) ?? (readOnce(file, text, options, false) as ReadResult);
}

/** Reads the text once. With quick columns it answers nothing if one of them is not what it seemed. */
function readOnce(file: string, text: string, options: ReadOptions, mayBeQuick: boolean): ReadResult | undefined {
  const notes: string[] = [];
  const findings: Finding[] = [];
  let columns: CellColumn[] = [];
  let names: string[] = [];
  let heads: string[] = [];
  let [rows, short, long, repeated, seen] = [0, 0, 0, 0, 0];
  // The line break that ends the last line begins no further row.
  const clean = text.slice(text.startsWith("\ufeff") ? 1 : 0, text.endsWith("\r\n") ? -2 : text.endsWith("\n") ? -1 : undefined);
  const separator = guessSeparator(clean);
  const header = options.header ?? titleRows(clean, separator) + 1;
  const spellings = new Set(options.missingAs ?? []);
  const begin = (cells: string[]) => {
    heads = header === "none" ? [] : cells;
    names = header === "none" ? cells.map((_, place) => `column_${place + 1}`) : headNames(cells, notes);
    columns = names.map((name) => {
      const wish = options.columns?.get(name) ?? {};
      return new CellColumn(mayBeQuick && mayTurnOut(wish), toldReader(wish, spellings));
    });
  };
  const parsed = (batch: string[][]) => {
    for (const cells of batch) {
      seen += 1;
      if (names.length === 0) {
        if (header !== "none" && seen < header) continue;
        if (isBlank(cells)) continue;
        begin(cells);
        if (header !== "none") continue;
      }
      if (cells.length === 1 && cells[0] === "" && names.length !== 1) continue;
      // Files that were put together by hand have their heads again in the middle.
      if (heads.length > 1 && cells[0] === heads[0] && cells.length === heads.length && cells.every((cell, place) => cell === heads[place])) {
        repeated += 1;
        continue;
      }
      if (cells.length < names.length) short += 1;
      else if (cells.length > names.length) {
        // Empty cells at the end are commas too many, and lose nothing.
        if (cells.slice(names.length).some((cell) => cell !== "")) long += 1;
      }
      for (let place = 0; place < names.length; place++) (columns[place] as CellColumn).push(cells[place] ?? "");
      rows += 1;
    }
  };
  const broken: string[] = [];
  // For texts the streaming settings are missing from the package's types.
  const settings = {
    delimiter: separator,
    chunkSize: 1 << 20,
    chunk: (result: Papa.ParseResult<string[]>) => {
      parsed(result.data);
      options.progress?.(Math.min(1, result.meta.cursor / clean.length) * PARSING, rows);
      for (const error of result.errors) if (error.type === "Quotes" && broken.length < 3) broken.push(`row ${rows}: ${error.message}`);
    },
  };
  Papa.parse<string[]>(clean, settings as Papa.ParseConfig<string[]>);
  if (names.length === 0) findings.push({ code: "empty-file", severity: "error", file, message: header === "none" || header === 1 ? `${file} holds no rows; its first row should name the columns` : `${file} has no row ${header}, which should name the columns` });
  for (const message of broken) findings.push({ code: "odd-quotes", severity: "warning", file, message: `${file}, ${message}` });
  if (options.header === undefined && header !== "none" && header > 1) notes.push(`row ${header} names the columns; what stands above it was left out`);
  const said = (count: number, one: string, several: string) => notes.push(count === 1 ? `1 row ${one}` : `${count} rows ${several}`);
  if (short) said(short, "has fewer cells than there are heads; the rest is missing", "have fewer cells than there are heads; the rest is missing");
  if (long) said(long, "has more cells than there are heads; the rest was left out", "have more cells than there are heads; the rest was left out");
  if (repeated) said(repeated, "repeats the heads and was left out", "repeat the heads and were left out");
  if (columns.some(({ failed }) => failed)) return undefined;
  const result = tableOfCells(file, names, columns.map((column) => column.finish()), rows, notes, findings, { ...options, progress: (part) => options.progress?.(PARSING + part * (1 - PARSING), rows) }, { decimal: separator === ";" ? "," : "." });
  if (result && options.header === undefined) warnOfDataAsHeads(file, names, result.table, findings);
  return result;
}
