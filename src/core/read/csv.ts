import Papa from "papaparse";
import type { Finding } from "../finding/finding";
import type { Table } from "../table/table";
import type { ColumnWish } from "./infer";
import type { IntakeReport } from "./report";
import { headNames, tableOfTexts } from "./texts";

export interface ReadOptions {
  /** What the sheet says of columns, by name. */
  columns?: ReadonlyMap<string, ColumnWish>;
  missingAs?: readonly string[];
  /** Is told how much of the text is read, from 0 to 1. */
  progress?: (part: number) => void;
}

export interface ReadResult {
  table: Table;
  report: IntakeReport;
  findings: Finding[];
}

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

/** Text of a file's bytes: UTF-8 or UTF-16 by their mark, else UTF-8, else Latin-1 where that is what it must be. */
export function textOfBytes(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder("utf-16le").decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder("utf-16be").decode(bytes);
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder("windows-1252").decode(bytes);
  }
}

/** Reads comma-, semicolon- or tab-separated text whose first row names the columns. */
export function readCsv(file: string, text: string, options: ReadOptions = {}): ReadResult {
  const notes: string[] = [];
  const findings: Finding[] = [];
  const columns: string[][] = [];
  let names: string[] = [];
  let rows = 0;
  let short = 0;
  let long = 0;
  const parsed = (batch: string[][]) => {
    for (const cells of batch) {
      if (cells.length === 1 && cells[0] === "" && names.length !== 1) continue;
      if (names.length === 0) {
        names = headNames(cells, notes);
        for (const _ of names) columns.push([]);
        continue;
      }
      if (cells.length < names.length) short += 1;
      else if (cells.length > names.length) long += 1;
      for (let place = 0; place < names.length; place++) (columns[place] as string[]).push(cells[place] ?? "");
      rows += 1;
    }
  };
  // The line break that ends the last line begins no further row.
  const clean = text.slice(text.startsWith("\ufeff") ? 1 : 0, text.endsWith("\r\n") ? -2 : text.endsWith("\n") ? -1 : undefined);
  const broken: string[] = [];
  // For texts the streaming settings are missing from the package's types.
  const settings = {
    delimiter: guessSeparator(clean),
    chunkSize: 1 << 20,
    chunk: (result: Papa.ParseResult<string[]>) => {
      parsed(result.data);
      options.progress?.(Math.min(1, result.meta.cursor / clean.length) * PARSING);
      for (const error of result.errors) if (error.type === "Quotes" && broken.length < 3) broken.push(`row ${rows}: ${error.message}`);
    },
  };
  Papa.parse<string[]>(clean, settings as Papa.ParseConfig<string[]>);
  if (names.length === 0) findings.push({ code: "empty-file", severity: "error", file, message: `${file} holds no rows; its first row should name the columns` });
  for (const message of broken) findings.push({ code: "odd-quotes", severity: "warning", file, message: `${file}, ${message}` });
  if (short) notes.push(`${short} rows have fewer cells than there are heads; the rest is missing`);
  if (long) notes.push(`${long} rows have more cells than there are heads; the rest was left out`);
  return tableOfTexts(file, names, columns, rows, notes, findings, { ...options, progress: (part) => options.progress?.(PARSING + part * (1 - PARSING)) });
}
