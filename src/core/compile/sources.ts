import { Glob } from "../finding/glob";
import { boundMessage, LIMITS } from "../finding/limits";
import { listed } from "../finding/nearest";
import { ownOf } from "../finding/own";
import { readParquet } from "../read/columns-file";
import { readCsv } from "../read/csv";
import { readGeoJson } from "../read/geojson";
import { readGpx } from "../read/gpx";
import type { ColumnWish } from "../read/infer";
import type { ColumnReport } from "../read/report";
import { stackResults } from "../read/stack-files";
import { endingOf, ofText, TEXT_READERS, withinBounds } from "../read/text-readers";
import type { Reader, ReadOptions, ReadResult } from "../read/texts";
import { readXlsx } from "../read/xlsx";
import { withColumnWords } from "../sheet/edit/column-edit";
import { setValue } from "../sheet/edit/edit";
import { shortestEdit } from "../sheet/edit/shortest-edit";
import type { TableSpec } from "../sheet/schema-tables";
import { separatorIn } from "../table/several-in-cell";
import { emptyTable, makeTable, type Table } from "../table/table";
import { addFinding, type Compiling } from "./compiling";

/** Readers by the ending of a file's name. */
const READERS: Readonly<Record<string, Reader>> = {
  ...TEXT_READERS,
  geojson: ofText(readGeoJson),
  gpx: ofText(readGpx),
  xlsx: readXlsx,
  parquet: readParquet,
};

export interface Source {
  table: Table;
  report?: ReadResult["report"];
}

/**
 * The reader of a file by its name. What is more than may be taken is said, like anything else that is wrong
 * with a file.
 */
export function readerOf(path: string): Reader | undefined {
  const read = ownOf(READERS, endingOf(path));
  return read && ((file, bytes, options) => withinBounds(file, () => read(file, bytes, options)));
}

const isOutside = (path: string) =>
  /^[a-z]+:\/\//i.test(path) || path.startsWith("/") || path.split(/[\\/]/).includes("..") || /^[A-Za-z]:/.test(path);

/** Paths that a `read:` means, among those that are there: itself, or what a pattern fits, by name. */
export function pathsOf(read: string, files: Iterable<string>): string[] {
  if (!/[*?]/.test(read)) return [read];
  const glob = new Glob(read);
  // A star does not reach into folders below.
  const depth = read.split("/").length;
  return [...files]
    .filter((path) => path.split("/").length === depth && glob.fits(path))
    .sort((a, b) => (a < b ? -1 : 1));
}

/** The part of a file's name that a pattern leaves open. */
export function openPart(pattern: string, path: string): string {
  return (new Glob(pattern).open(path) ?? []).filter(Boolean).join(" ");
}

/** What the sheet says of how a table's file is read, beside its columns. */
export const readingOf = (spec: TableSpec): Omit<ReadOptions, "columns" | "progress"> => ({
  missingAs: spec.missing_as ?? [],
  ...(spec.header === undefined ? {} : { header: spec.header === "none" ? "none" : Number(spec.header) }),
  ...(spec.sheet === undefined ? {} : { sheet: spec.sheet }),
  ...(spec.zone === undefined ? {} : { zone: { name: spec.zone, seconds: zoneSeconds(spec.zone) } }),
});

/** Says what was found while a table was read; gives its rows unless something was wrong with them. */
function takeRead(
  compiling: Compiling,
  name: string,
  spec: TableSpec,
  wishes: Map<string, ColumnWish>,
  result: ReadResult,
): Source | undefined {
  const { source } = compiling.sheet;
  const path = ["tables", name];
  for (const { file, ...finding } of result.findings) {
    const { code, severity } = finding;
    const edits = code === "heads-look-like-data" ? setValue(source.text, [...path, "header"], "none") : undefined;
    const word = code === "no-such-sheet" ? "sheet" : "read";
    const span = severity === "error" ? source.valueSpan([...path, word]) : undefined;
    compiling.findings.push({
      ...finding,
      piece: `tables.${name}`,
      // What keeps a table from being read stands at the word of the sheet that names its file.
      ...(span ? { span } : file === undefined ? {} : { file }),
      ...(edits ? { fix: { title: "say header: none", edits } } : {}),
    });
  }
  reportUnread(compiling, name, result, wishes);
  adviseSpellings(compiling, name, spec, result);
  adviseSeveral(compiling, name, spec, result);
  adviseThousands(compiling, name, result);
  const isWrong = result.findings.some(({ severity }) => severity === "error");
  return isWrong ? undefined : { table: result.table, report: result.report };
}

/** Rows that stand in the sheet as maps, as the text of a table. */
function rowsAsText(rows: readonly Readonly<Record<string, unknown>>[]): string | undefined {
  const heads = [...new Set(rows.flatMap((row) => Object.keys(row)))];
  if (heads.length === 0) return undefined;
  const quoted = (text: string) => `"${text.replaceAll('"', '""')}"`;
  const cellOf = (value: unknown) => (String(value ?? "") === "" ? "" : quoted(String(value)));
  const lines = rows.map((row) => heads.map((head) => cellOf(ownOf(row, head))).join(","));
  return [heads.map(quoted).join(","), ...lines].join("\n");
}

/** Reads the rows with which a table begins; nothing where they cannot be had, which is said. */
export function readSource(
  compiling: Compiling,
  name: string,
  spec: TableSpec,
  wishes: Map<string, ColumnWish>,
): Source | undefined {
  const piece = `tables.${name}`;
  const path = ["tables", name];
  const options: ReadOptions = {
    ...readingOf(spec),
    columns: wishes,
    progress: (part: number, rows?: number) => compiling.progress(`reading ${spec.read ?? name}`, part, rows),
  };
  const take = (result: ReadResult | undefined) => result && takeRead(compiling, name, spec, wishes, result);
  const takeText = (text: string, own: ReadOptions) =>
    take(withinBounds(`rows of ${name}`, () => readCsv(`rows of ${name}`, text, own)));
  if (spec.file_as !== undefined && !/[*?]/.test(spec.read ?? "")) {
    const message = 'file_as goes with a pattern such as read: "wharf-*.csv"';
    addFinding(compiling, [...path, "file_as"], "wrong-key", message, { severity: "warning", piece });
  }
  if (spec.sheet !== undefined && spec.read !== undefined && !/\.xlsx$/i.test(spec.read)) {
    const message = `sheet: names a sheet of a workbook, and ${spec.read} is none`;
    addFinding(compiling, [...path, "sheet"], "wrong-key", message, { severity: "warning", piece });
  }
  if (spec.read !== undefined) return take(readFiles(compiling, name, spec, options));
  if (typeof spec.rows === "string") return takeText(spec.rows, options);
  if (spec.rows) {
    const text = rowsAsText(spec.rows);
    return text === undefined ? { table: makeTable(0, []) } : takeText(text, { ...options, header: 1 });
  }
  if (!spec.make) return { table: emptyTable };
  const { rows } = spec.make;
  if (Number.isInteger(rows) && rows >= 0 && rows <= LIMITS.madeRows) return { table: makeTable(rows, []) };
  const message = `rows: is a whole number up to ${LIMITS.madeRows}, not ${rows}`;
  addFinding(compiling, [...path, "make", "rows"], "wrong-value", message, { piece });
  return undefined;
}

function zoneSeconds(zone: string): number {
  if (zone === "UTC") return 0;
  const seconds = Number(zone.slice(1, 3)) * 3600 + Number(zone.slice(4)) * 60;
  return zone.startsWith("-") ? -seconds : seconds;
}

interface SourceFile {
  path: string;
  bytes: Uint8Array;
}

type Refuse = (code: string, message: string) => undefined;

/** The files that a `read:` means, in their order, or nothing where one cannot be had. */
function filesOf(compiling: Compiling, read: string, refuse: Refuse): SourceFile[] | undefined {
  if (read.length > LIMITS.patternLength)
    return refuse("too-long", boundMessage("patternLength", read.length, "this pattern"));
  const paths = pathsOf(read, compiling.listFiles());
  if (paths.length === 0) return refuse("no-such-file", `no file beside the sheet fits "${read}"`);
  const files: SourceFile[] = [];
  for (const path of paths) {
    const bytes = compiling.readFile(path);
    if (!bytes) return refuse("no-such-file", `there is no file "${path}" beside the sheet`);
    files.push({ path, bytes });
  }
  return files;
}

/** All of how a file is read, as a key under which it is kept. */
const keyOf = ({ columns, missingAs, header, sheet, zone }: ReadOptions) => [
  [...(columns ?? [])],
  missingAs,
  header,
  sheet,
  zone,
];

function readFiles(compiling: Compiling, name: string, spec: TableSpec, options: ReadOptions): ReadResult | undefined {
  const { cache } = compiling;
  const read = spec.read as string;
  const refuse: Refuse = (code, message) => {
    addFinding(compiling, ["tables", name, "read"], code, message, { piece: `tables.${name}` });
    return undefined;
  };
  if (isOutside(read))
    return refuse(
      "file-outside",
      `"${read}" lies outside the sheet's folder; files are read from beside the sheet and below`,
    );
  const reader = readerOf(read);
  const kinds = Object.keys(READERS).map((kind) => `.${kind}`);
  if (!reader) return refuse("unknown-file-kind", `this version reads ${listed(kinds, 12)} files, not "${read}"`);
  const files = filesOf(compiling, read, refuse);
  const first = files?.[0];
  if (!files || !first) return undefined;
  const readOne = ({ path, bytes }: SourceFile, own: ReadOptions) =>
    cache.read(bytes, JSON.stringify([path, ...keyOf(own)]), () => reader(path, bytes, own));
  if (!/[*?]/.test(read)) return readOne(first, options);
  const parts = files.map((file) => ({ path: file.path, read: (own: ReadOptions) => readOne(file, own) }));
  const fileName = spec.file_as;
  const named = fileName === undefined ? undefined : { name: fileName, of: (path: string) => openPart(read, path) };
  const stamps = files.map(({ path, bytes }) => [path, cache.numberOf(bytes)]);
  return cache.read(first.bytes, JSON.stringify(["stacked", read, fileName, stamps, ...keyOf(options)]), () =>
    withinBounds(read, () => stackResults(read, parts, options, named)),
  );
}

/** Few odd spellings among numbers or dates mostly mean missing; that is not guessed but offered. */
function adviseSpellings(compiling: Compiling, name: string, spec: TableSpec, { report }: ReadResult) {
  // What a boolean could not read are mostly its own words for true and for false.
  const columns = report.columns.filter(({ odd, kind }) => odd?.length && kind !== "boolean");
  const spellings = [...new Set(columns.flatMap(({ odd }) => odd ?? []))].sort();
  if (spellings.length === 0 || spellings.length > 6) return;
  const quoted = spellings.map((text) => JSON.stringify(text)).join(", ");
  const edits = setValue(
    compiling.sheet.source.text,
    ["tables", name, "missing_as"],
    [...(spec.missing_as ?? []), ...spellings],
  );
  const span = compiling.sheet.source.keySpan(["tables", name]);
  compiling.findings.push({
    code: "odd-spellings",
    severity: "advice",
    message: `${quoted} stand${spellings.length === 1 ? "s" : ""} among the values of ${listed(
      columns.map((column) => column.name),
      4,
    )}; if that means missing, say missing_as: [${quoted}]`,
    piece: `tables.${name}`,
    ...(span ? { span } : {}),
    ...(edits ? { fix: { title: `take ${quoted} as missing`, edits } } : {}),
  });
}

/** Cells that hold several values are offered to be parted, as picks then find each of them. */
function adviseSeveral(compiling: Compiling, name: string, spec: TableSpec, { table }: ReadResult) {
  const { source } = compiling.sheet;
  for (const [column, values] of table.columns) {
    const said = ownOf(spec.columns ?? {}, column);
    if (values.kind !== "text" || (said !== undefined && (typeof said === "string" || said.split !== undefined)))
      continue;
    const separator = separatorIn(values);
    if (separator === undefined) continue;
    const quoted = JSON.stringify(separator);
    const span = source.keySpan(["tables", name]);
    const edits = setValue(source.text, ["tables", name, "columns", column, "split"], separator);
    compiling.findings.push({
      code: "several-in-a-cell",
      severity: "advice",
      message:
        `cells of ${column} hold several values, parted by ` +
        `${quoted}; with split: ${quoted} a pick finds each of them`,
      piece: `tables.${name}`,
      ...(span ? { span } : {}),
      ...(edits ? { fix: { title: `part them by ${quoted}`, edits } } : {}),
    });
  }
}

/** Decimals that look like thousands are offered to be read as such: they would be a thousand times too small. */
function adviseThousands(compiling: Compiling, name: string, { report }: ReadResult) {
  const { source } = compiling.sheet;
  for (const { name: column, thousands } of report.columns) {
    if (!thousands) continue;
    const { cell, read } = thousands;
    const whole = cell.replace(/[.,]/, "");
    const span = source.keySpan(["tables", name]);
    const after = withColumnWords(source.text, name, column, { type: "number", read });
    compiling.findings.push({
      code: "thousands-as-decimals",
      severity: "advice",
      message:
        `${column} has whole numbers below a thousand, and others with just three decimals, ` +
        `such as ${cell}; if that means ${whole}, say {type: number, read: "${read}"}`,
      piece: `tables.${name}`,
      ...(span ? { span } : {}),
      fix: { title: `read ${cell} as ${whole}`, edits: [shortestEdit(source.text, after)] },
    });
  }
}

/** How cells that say what is true in words of their own are read. */
function wayToRead({ kind, odd }: ColumnReport): string {
  const [yes, no] = odd ?? [];
  if (kind !== "boolean" || yes === undefined || no === undefined) return "";
  return `; the words for true and for false are told as read: ${yes}/${no}`;
}

/** Cells that were lost in reading are said, the loudest where the sheet itself asked for the kind. */
function reportUnread(compiling: Compiling, name: string, result: ReadResult, wishes: ReadonlyMap<string, ColumnWish>) {
  for (const column of result.report.columns) {
    if (column.unread === 0) continue;
    const examples = column.examples
      .slice(0, 3)
      .map(({ row, text }) => `"${text.slice(0, 30)}" in row ${row}`)
      .join(", ");
    const wished = wishes.get(column.name)?.type !== undefined;
    const all = column.unread + column.missing === result.report.rows;
    const path = wished ? ["tables", name, "columns", column.name] : ["tables", name];
    const span = compiling.sheet.source.keySpan(path);
    compiling.findings.push({
      code: "unread-cells",
      severity: all && wished ? "warning" : "advice",
      message:
        `${column.unread} ${column.unread === 1 ? "cell" : "cells"} of ${column.name} could not be read as ` +
        `a ${column.kind} and ${column.unread === 1 ? "counts" : "count"} as missing: ${examples}${wayToRead(column)}`,
      piece: `tables.${name}`,
      ...(span ? { span } : {}),
    });
  }
}
