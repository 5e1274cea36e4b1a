import type { Finding } from "../finding/finding";
import { keepBound } from "../finding/limits";
import { type Column, type Kind, kindOf, textColumn } from "../table/column";
import { type ColumnInfo, makeTable, type Table } from "../table/table";
import type { QuickColumn } from "./cell-column";
import { type Habits, USUAL } from "./cell-readers";
import { type ColumnWish, inferCells, inferColumn, inferQuick, type RawColumn } from "./infer";
import type { IntakeReport } from "./report";

/** What the sheet says of a file, as far as reading it goes. */
export interface ReadOptions {
  /** What the sheet says of columns, by name. */
  columns?: ReadonlyMap<string, ColumnWish>;
  missingAs?: readonly string[];
  /** The row that names the columns, from 1, or none. */
  header?: number | "none";
  /** The sheet of a workbook. */
  sheet?: string;
  /** Seconds ahead of UTC of the clock on which times with an offset are told, and how it is spelt. */
  zone?: { seconds: number; name: string };
  /** Is told how much of the file is read, from 0 to 1, and how many rows that is, where that is known. */
  progress?: (part: number, rows?: number) => void;
}

export interface ReadResult {
  table: Table;
  report: IntakeReport;
  findings: Finding[];
}

/** A reader turns the bytes of a file into a table and says what became of them; it never throws. */
export type Reader = (file: string, bytes: Uint8Array, options: ReadOptions) => ReadResult;

/** So many heads are named that stand twice. */
const MOST_DOUBLED = 5;

/** Names for heads: none empty, none twice. `places` are those of the columns in the file, from 0. */
export function headNames(heads: readonly string[], notes: string[], places?: readonly number[]): string[] {
  keepBound("fileColumns", heads.length, "the file");
  const taken = new Set<string>();
  /** The last number behind a head, so that the thousandth of its kind does not ask for all before. */
  const numbers = new Map<string, number>();
  let doubled = 0;
  const names = heads.map((head, place) => {
    const wanted =
      head
        .replace(/^\ufeff/, "")
        .replace(/\s+/g, " ")
        .trim() || `column_${(places?.[place] ?? place) + 1}`;
    keepBound("headLength", wanted.length, "the name of a column");
    let name = wanted;
    let number = numbers.get(wanted) ?? 1;
    while (taken.has(name)) name = `${wanted}_${++number}`;
    numbers.set(wanted, number);
    taken.add(name);
    if (name !== wanted && ++doubled <= MOST_DOUBLED)
      notes.push(`the head "${wanted}" stands twice; the second is called "${name}"`);
    return name;
  });
  if (doubled > MOST_DOUBLED)
    notes.push(`${doubled - MOST_DOUBLED} more heads stand twice and have a number behind them`);
  return names;
}

/** Makes a table of columns of texts: kinds are found by looking at every cell. */
export function tableOfTexts(
  file: string,
  names: readonly string[],
  columns: readonly (string | null)[][],
  rows: number,
  notes: string[],
  findings: Finding[],
  options: ReadOptions,
  habits: Partial<Habits> = {},
): ReadResult {
  return tableOfCells(
    file,
    names,
    columns.map((texts) => textColumn(texts, texts.length)),
    rows,
    notes,
    findings,
    options,
    habits,
  ) as ReadResult;
}

/** The same of cells that were coded or read as they came. Answers nothing where a column was read too soon. */
export function tableOfCells(
  file: string,
  names: readonly string[],
  columns: readonly (RawColumn | QuickColumn)[],
  rows: number,
  notes: string[],
  findings: Finding[],
  options: ReadOptions,
  habits: Partial<Habits> = {},
): ReadResult | undefined {
  const spellings = new Set(options.missingAs ?? []);
  const report: IntakeReport = { file, rows, columns: [], notes };
  const info = new Map<string, ColumnInfo>();
  const own: Habits = {
    ...USUAL,
    ...habits,
    ...(options.zone ? { zone: options.zone.seconds, zoneName: options.zone.name } : {}),
  };
  const made: [string, Column][] = [];
  for (const [place, name] of names.entries()) {
    const cells = columns[place] as RawColumn | QuickColumn;
    const wish = options.columns?.get(name) ?? {};
    const result =
      "odd" in cells ? inferQuick(name, cells, wish, own, spellings) : inferCells(name, cells, wish, own, spellings);
    if (!result) return undefined;
    options.progress?.((place + 1) / names.length);
    report.columns.push(result.report);
    if (result.info) info.set(name, result.info);
    made.push([name, result.column]);
  }
  return { table: makeTable(rows, made, info), report, findings };
}

/** The row that names the columns: the first that fills as many cells as the rows below it mostly do. */
export function guessHeader(rows: readonly (readonly (string | null)[])[]): number {
  const filled = rows.slice(0, 40).map((cells) => cells.filter((cell) => cell !== null && cell.trim() !== "").length);
  const widest = Math.max(0, ...filled);
  const found = filled.findIndex((count) => count > 0 && count >= widest * 0.6);
  return Math.max(0, found);
}

/** A file of which nothing can be read. */
export function unreadable(file: string, code: string, message: string): ReadResult {
  return {
    table: makeTable(0, []),
    report: { file, rows: 0, columns: [], notes: [] },
    findings: [{ code, severity: "error", file, message }],
  };
}

/** Where the first row looks like data, that is said, with what to do; it is not guessed. */
export function warnOfDataAsHeads(file: string, names: readonly string[], table: Table, findings: Finding[]) {
  const valued = names.filter((name) => /^[+-]?\d[\d.,:/ -]*$/.test(name.trim())).length;
  // Years as heads are usual in wide tables; values beside texts are not.
  const years = names.filter((name) => /^(?:19|20)\d\d(?:[-/ ]?(?:\d\d?|Q[1-4]))?$/.test(name.trim())).length;
  if (table.rowCount > 0 && valued > years && valued * 2 >= names.length)
    findings.push({
      code: "heads-look-like-data",
      severity: "warning",
      file,
      message:
        `the first row of ${file} looks like data ` +
        `(${names.slice(0, 3).join(", ")}); if no row names the columns, say header: none`,
    });
}

/**
 * Columns whose kinds the file itself knows. A kind that the sheet asks for in another one is read from the
 * written value.
 */
export function tableOfColumns(
  file: string,
  columns: readonly (readonly [string, Column])[],
  rows: number,
  notes: string[],
  options: ReadOptions,
  write: (column: Column, row: number) => string | null,
): ReadResult {
  const report: IntakeReport = { file, rows, columns: [], notes };
  const names = headNames(
    columns.map(([name]) => name),
    notes,
  );
  const made = columns.map(([, column], place) => {
    const name = names[place] as string;
    const wish = options.columns?.get(name);
    const kind: Kind = kindOf(column);
    if (wish?.type !== undefined && wish.type !== kind) {
      const texts = Array.from({ length: rows }, (_, row) => write(column, row));
      const inferred = inferColumn(name, texts, wish, USUAL, new Set(options.missingAs ?? []));
      report.columns.push(inferred.report);
      return [name, inferred.column] as const;
    }
    let missing = 0;
    if (column.kind === "text") for (const code of column.codes) missing += code < 0 ? 1 : 0;
    else for (const value of column.values) missing += value === value ? 0 : 1;
    report.columns.push({ name, kind, missing, unread: 0, examples: [] });
    return [name, column] as const;
  });
  return { table: makeTable(rows, made), report, findings: [] };
}
