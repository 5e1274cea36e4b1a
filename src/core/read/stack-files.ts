import { type Column, isAllMissing, kindOf, type TextColumn, textColumn } from "../table/column";
import { makeTable } from "../table/table";
import { type ColumnWish, inferColumn } from "./infer";
import type { ColumnReport } from "./report";
import { MOST_EXAMPLES } from "./report";
import type { ReadOptions, ReadResult } from "./texts";

interface StackedFile {
  path: string;
  read: (options: ReadOptions) => ReadResult;
}

/**
 * Columns that hold one kind in one file and another in the next are read as text in all; dates beside times as
 * times.
 */
function commonWishes(
  results: readonly ReadResult[],
  wishes: ReadonlyMap<string, ColumnWish>,
): Map<string, ColumnWish> | undefined {
  const kinds = new Map<string, Set<string>>();
  for (const { table } of results) {
    for (const [name, column] of table.columns)
      if (!isAllMissing(column)) kinds.set(name, (kinds.get(name) ?? new Set()).add(kindOf(column)));
  }
  const differing = [...kinds].filter(([name, own]) => own.size > 1 && wishes.get(name)?.type === undefined);
  if (differing.length === 0) return undefined;
  const common = new Map(wishes);
  for (const [name, own] of differing)
    common.set(name, {
      ...wishes.get(name),
      type: [...own].every((kind) => kind === "date" || kind === "datetime") ? "datetime" : "text",
    });
  return common;
}

/** A column of all files one after the other; where a file lacks it, missing. */
function stacked(parts: readonly (Column | undefined)[], rows: readonly number[]): Column {
  const model = parts.find((part) => part && !isAllMissing(part)) ?? (parts.find(Boolean) as Column);
  const length = rows.reduce((sum, count) => sum + count, 0);
  if (model.kind === "text") {
    const dictionary: string[] = [];
    const known = new Map<string, number>();
    const codes = new Int32Array(length).fill(-1);
    let at = 0;
    parts.forEach((part, file) => {
      if (part?.kind === "text") {
        const recode = Int32Array.from(part.dictionary, (text) => {
          const code = known.get(text) ?? dictionary.push(text) - 1;
          known.set(text, code);
          return code;
        });
        (part as TextColumn).codes.forEach((code, row) => {
          codes[at + row] = recode[code] ?? -1;
        });
      }
      at += rows[file] as number;
    });
    return { ...model, codes, dictionary };
  }
  const values = new Float64Array(length).fill(Number.NaN);
  let at = 0;
  parts.forEach((part, file) => {
    if (part && part.kind !== "text") values.set(part.values, at);
    at += rows[file] as number;
  });
  return { kind: model.kind, values };
}

function mergedReport(
  name: string,
  reports: readonly (ColumnReport | undefined)[],
  rows: readonly number[],
  column: Column,
): ColumnReport {
  const merged: ColumnReport = { name, kind: kindOf(column), missing: 0, unread: 0, examples: [] };
  let before = 0;
  reports.forEach((report, file) => {
    merged.missing += report ? report.missing : (rows[file] as number);
    merged.unread += report?.unread ?? 0;
    for (const example of report?.examples ?? [])
      if (merged.examples.length < MOST_EXAMPLES) merged.examples.push({ ...example, row: example.row + before });
    if (report?.note && !merged.note) merged.note = report.note;
    if (report?.thousands && !merged.thousands) merged.thousands = report.thousands;
    before += rows[file] as number;
  });
  return merged;
}

/** What is said of several files that are read as one table. */
function notesOn(files: readonly StackedFile[], results: readonly ReadResult[], names: readonly string[]): string[] {
  const first = files.slice(0, 4).map(({ path }) => path);
  const notes = [`${files.length} files, one under the other: ${first.join(", ")}${files.length > 4 ? " …" : ""}`];
  results.forEach(({ table, report }, at) => {
    const { path } = files[at] as StackedFile;
    const lacking = names.filter((name) => !table.columns.has(name));
    if (lacking.length && table.columns.size)
      notes.push(`${path} lacks ${lacking.slice(0, 4).join(", ")}; missing there`);
    for (const note of report.notes) notes.push(`${path}: ${note}`);
  });
  return notes;
}

/** Columns that are read as text because they hold other kinds in other files, and not because the sheet says so. */
const mixedNames = (common: ReadonlyMap<string, ColumnWish>, told: ReadOptions["columns"]): string[] =>
  [...common].flatMap(([name, { type }]) => (type === "text" && told?.get(name)?.type !== "text" ? [name] : []));

/** The part in which the files' names differ, as a column. */
function nameColumn(
  { name, of }: { name: string; of: (path: string) => string },
  files: readonly StackedFile[],
  rows: readonly number[],
  wish: ColumnWish | undefined,
) {
  const texts = files.flatMap(({ path }, at) => new Array<string>(rows[at] as number).fill(of(path)));
  if (texts.length || wish) return inferColumn(name, texts, wish);
  const report: ColumnReport = { name, kind: "text", missing: 0, unread: 0, examples: [] };
  return { column: textColumn(texts, 0), report };
}

/**
 * Reads several files as one table, in the order of their names. `fileAs` keeps the part in which these differ
 * as a column.
 */
export function stackResults(
  pattern: string,
  files: readonly StackedFile[],
  options: ReadOptions,
  fileAs?: { name: string; of: (path: string) => string },
): ReadResult {
  let results = files.map(({ read }) => read(options));
  const common = commonWishes(results, options.columns ?? new Map());
  if (common) results = files.map(({ read }) => read({ ...options, columns: common }));
  const rows = results.map(({ table }) => table.rowCount);
  const total = rows.reduce((sum, count) => sum + count, 0);
  const names = [...new Set(results.flatMap(({ table }) => [...table.columns.keys()]))];
  const notes = notesOn(files, results, names);
  const mixed = common ? mixedNames(common, options.columns) : [];
  if (mixed.length) notes.push(`${mixed.join(", ")} hold different kinds in different files and were read as text`);
  const columns: [string, Column][] = [];
  const reports: ColumnReport[] = [];
  for (const name of names) {
    const parts = results.map(({ table }) => table.columns.get(name));
    const said = results.map(({ report }) => report.columns.find((own) => own.name === name));
    const column = stacked(parts, rows);
    columns.push([name, column]);
    reports.push(mergedReport(name, said, rows, column));
  }
  const info = new Map(results.flatMap(({ table }) => [...table.info]));
  if (fileAs) {
    const { column, report } = nameColumn(fileAs, files, rows, options.columns?.get(fileAs.name));
    columns.push([fileAs.name, column]);
    reports.push(report);
  }
  return {
    table: makeTable(total, columns, info),
    report: { file: pattern, rows: total, columns: reports, notes },
    findings: results.flatMap(({ findings }) => findings),
  };
}
