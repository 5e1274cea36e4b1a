import Papa from "papaparse";
import type { Finding } from "../finding/finding";
import { headNames, type ReadOptions, type ReadResult, tableOfTexts, warnOfDataAsHeads } from "./texts";

/** The part of reading that goes into cutting cells; the rest finds kinds. */
const PARSING = 0.55;

const SEPARATORS = [",", ";", "\t", "|"];

/** The separator that parts the first lines most evenly. */
export function guessSeparator(text: string): string {
  const lines = text.slice(0, 20000).split(/\r?\n/).slice(0, 20).filter(Boolean);
  let best = ",";
  let bestScore = 0;
  for (const separator of SEPARATORS) {
    const rows = Papa.parse<string[]>(lines.join("\n"), { delimiter: separator }).data;
    const width = rows[0]?.length ?? 1;
    const even = rows.filter((row) => row.length === width).length;
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

/** Reads comma-, semicolon-, tab- or bar-separated text whose first row names the columns, unless the sheet says otherwise. */
export function readCsv(file: string, text: string, options: ReadOptions = {}): ReadResult {
  const notes: string[] = [];
  const findings: Finding[] = [];
  const columns: string[][] = [];
  let names: string[] = [];
  let heads: string[] = [];
  let [rows, short, long, repeated, seen] = [0, 0, 0, 0, 0];
  const header = options.header ?? 1;
  const begin = (cells: string[]) => {
    heads = header === "none" ? [] : cells;
    names = header === "none" ? cells.map((_, place) => `column_${place + 1}`) : headNames(cells, notes);
    for (const _ of names) columns.push([]);
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
      for (let place = 0; place < names.length; place++) (columns[place] as string[]).push(cells[place] ?? "");
      rows += 1;
    }
  };
  // The line break that ends the last line begins no further row.
  const clean = text.slice(text.startsWith("\ufeff") ? 1 : 0, text.endsWith("\r\n") ? -2 : text.endsWith("\n") ? -1 : undefined);
  const broken: string[] = [];
  const separator = guessSeparator(clean);
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
  const said = (count: number, one: string, several: string) => notes.push(count === 1 ? `1 row ${one}` : `${count} rows ${several}`);
  if (short) said(short, "has fewer cells than there are heads; the rest is missing", "have fewer cells than there are heads; the rest is missing");
  if (long) said(long, "has more cells than there are heads; the rest was left out", "have more cells than there are heads; the rest was left out");
  if (repeated) said(repeated, "repeats the heads and was left out", "repeat the heads and were left out");
  const result = tableOfTexts(file, names, columns, rows, notes, findings, { ...options, progress: (part) => options.progress?.(PARSING + part * (1 - PARSING), rows) }, { decimal: separator === ";" ? "," : "." });
  if (options.header === undefined) warnOfDataAsHeads(file, names, result.table, findings);
  return result;
}
