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
    before += rows[file] as number;
  });
  return merged;
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
  const notes = [
    `${files.length} files, one under the other: ${files
      .slice(0, 4)
      .map(({ path }) => path)
      .join(", ")}${files.length > 4 ? " …" : ""}`,
  ];
  results.forEach(({ table, report }, at) => {
    const path = (files[at] as StackedFile).path;
    const lacking = names.filter((name) => !table.columns.has(name));
    if (lacking.length && table.columns.size)
      notes.push(`${path} lacks ${lacking.slice(0, 4).join(", ")}; missing there`);
    for (const note of report.notes) notes.push(`${path}: ${note}`);
  });
  const kinds = common
    ? [...common]
        .filter(([name, wish]) => wish.type === "text" && options.columns?.get(name)?.type !== "text")
        .map(([name]) => name)
    : [];
  if (kinds.length) notes.push(`${kinds.join(", ")} hold different kinds in different files and were read as text`);
  const columns: [string, Column][] = names.map((name) => [
    name,
    stacked(
      results.map(({ table }) => table.columns.get(name)),
      rows,
    ),
  ]);
  const reports = columns.map(([name, column]) =>
    mergedReport(
      name,
      results.map(({ report }) => report.columns.find((own) => own.name === name)),
      rows,
      column,
    ),
  );
  const info = new Map(results.flatMap(({ table }) => [...table.info]));
  if (fileAs) {
    const parts = files.map(({ path }) => fileAs.of(path));
    const texts = parts.flatMap((part, at) => new Array<string>(rows[at] as number).fill(part));
    const inferred =
      options.columns?.has(fileAs.name) || total > 0
        ? inferColumn(fileAs.name, texts, options.columns?.get(fileAs.name))
        : {
            column: textColumn(texts, total),
            report: { name: fileAs.name, kind: "text" as const, missing: 0, unread: 0, examples: [] },
          };
    columns.push([fileAs.name, inferred.column]);
    reports.push(inferred.report);
  }
  return {
    table: makeTable(total, columns, info),
    report: { file: pattern, rows: total, columns: reports, notes },
    findings: results.flatMap(({ findings }) => findings),
  };
}
