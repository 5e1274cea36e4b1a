import { listed, nearest } from "../finding/nearest";
import type { Finding } from "../finding/finding";
import { decodedOf } from "./decoded";
import { guessHeader, headNames, type ReadOptions, type ReadResult, tableOfTexts, unreadable, warnOfDataAsHeads } from "./texts";

const isEmpty = (cells: readonly (string | null)[]) => cells.every((cell) => cell === null || cell.trim() === "");

/** Reads one sheet of a workbook that was decoded ahead: the one asked for, else the first that has rows. */
export function readXlsx(file: string, bytes: Uint8Array, options: ReadOptions): ReadResult {
  const decoded = decodedOf(bytes);
  if (decoded?.type === "problem") return unreadable(file, decoded.code, `${file} ${decoded.message}`);
  if (decoded?.type !== "workbook") return unreadable(file, "not-decoded", `${file} was not decoded before the sheet was compiled`);
  const notes: string[] = [];
  const findings: Finding[] = [];
  const names = decoded.sheets.map(({ name }) => name);
  const sheet = options.sheet === undefined ? (decoded.sheets.find(({ rows }) => rows.some((cells) => !isEmpty(cells))) ?? decoded.sheets[0]) : decoded.sheets.find(({ name }) => name === options.sheet);
  if (!sheet) {
    const near = nearest(options.sheet ?? "", names);
    return unreadable(file, "no-such-sheet", `${file} has no sheet "${options.sheet}"${near ? `; did you mean "${near}"?` : `; its sheets are ${listed(names)}`}`);
  }
  if (names.length > 1) notes.push(`the sheet "${sheet.name}" of ${listed(names)}`);
  const head = options.header === "none" ? -1 : options.header === undefined ? guessHeader(sheet.rows) : options.header - 1;
  const width = Math.max(0, ...sheet.rows.map((cells) => cells.length));
  const heads = head < 0 ? Array.from({ length: width }, (_, place) => `column_${place + 1}`) : (sheet.rows[head] ?? []).map((cell) => cell ?? "");
  if (sheet.rows.length === 0 || (head >= 0 && isEmpty(sheet.rows[head] ?? []))) return unreadable(file, "empty-file", `the sheet "${sheet.name}" of ${file} ${sheet.rows.length === 0 ? "holds no rows" : `has nothing in row ${head + 1}, which should name the columns`}`);
  if (head > 0 && options.header === undefined) notes.push(`row ${head + 1} names the columns; what stands above it was left out`);
  // Empty columns at the right are only formatted cells.
  const body = sheet.rows.slice(head + 1).filter((cells) => !isEmpty(cells));
  const used = Array.from({ length: width }, (_, place) => place).filter((place) => (heads[place] ?? "").trim() !== "" || body.some((cells) => (cells[place] ?? "") !== ""));
  const blank = sheet.rows.length - head - 1 - body.length;
  if (blank) notes.push(`${blank} empty row${blank === 1 ? " was" : "s were"} left out`);
  const columns = used.map((place) => body.map((cells) => cells[place] ?? null));
  const result = tableOfTexts(file, headNames(used.map((place) => heads[place] ?? ""), notes), columns, body.length, notes, findings, options);
  if (options.header === undefined) warnOfDataAsHeads(file, used.map((place) => heads[place] ?? ""), result.table, findings);
  return result;
}
