import { listed, nearest } from "../finding/nearest";
import { isFormat } from "../formula/format";
import { type ReadResult, readCsv, textOfBytes } from "../read/csv";
import { readJson } from "../read/json";
import type { ColumnWish } from "../read/infer";
import type { ColumnSpec, TableSpec } from "../sheet/schema";
import type { Path } from "../sheet/tree";
import { runStep } from "../steps/run";
import type { LedgerLine, Step } from "../steps/step";
import { type ColumnInfo, emptyTable, makeTable, type Table } from "../table/table";
import { timeReader } from "../table/time-text";
import { addFinding, type BuiltTable, type Compiling, settingValue, type TableStages } from "./compiling";
import { readyStep, usesSettings } from "./steps";

/** Reads and runs all tables of the sheet, each after the one it is made from. */
export function buildTables(compiling: Compiling) {
  const { sheet } = compiling;
  const building = new Set<string>();
  const build = (name: string): BuiltTable | undefined => {
    const known = compiling.tables.get(name);
    if (known) return known;
    const spec = sheet.tables.get(name);
    if (!spec) return undefined;
    if (building.has(name)) {
      addFinding(compiling, ["tables", name, "from"], "cycle", `${[...building, name].join(" is made from ")}: a table cannot be made from itself`, { piece: `tables.${name}` });
      return undefined;
    }
    building.add(name);
    const built = buildTable(compiling, name, spec, build);
    building.delete(name);
    if (built) compiling.tables.set(name, built);
    else sheet.broken.add(`tables.${name}`);
    return built;
  };
  for (const name of sheet.tables.keys()) build(name);
}

function buildTable(compiling: Compiling, name: string, spec: TableSpec, build: (name: string) => BuiltTable | undefined): BuiltTable | undefined {
  const path = ["tables", name];
  const wishes = columnWishes(compiling, name, spec);
  let start: { table: Table; report?: ReadResult["report"] } | undefined;
  if (spec.from !== undefined) {
    const parent = compiling.sheet.tables.has(spec.from) ? build(spec.from) : undefined;
    if (!parent) {
      if (!compiling.sheet.tables.has(spec.from) && !compiling.sheet.broken.has(`tables.${spec.from}`)) unknownTable(compiling, [...path, "from"], spec.from, `tables.${name}`);
      return undefined;
    }
    compiling.used.add(`tables.${spec.from}`);
    start = { table: parent.table };
  } else start = readSource(compiling, name, spec, wishes.wishes);
  if (!start) return undefined;
  let table: Table = { ...start.table, info: mergeInfo(start.table.info, wishes.info) };
  checkColumnNames(compiling, name, spec, table);
  compiling.sourceTables.set(name, table);
  const ledger: LedgerLine[] = [];
  const steps: Step[] = [];
  let sound = true;
  const setting = settingValue(compiling);
  const stages: TableStages = { name, tables: [table], ledger, ...(start.report ? { report: start.report } : {}) };
  compiling.stages.set(name, stages);
  for (const [at, stepSpec] of (spec.steps ?? []).entries()) {
    const ready = readyStep({ compiling, path: [...path, "steps", at], tableName: name, table }, stepSpec);
    if (!ready) {
      sound = false;
      stages.brokenStep = at;
      break;
    }
    const result = compiling.cache.step(ready.step, table, setting, () => runStep(ready.step, table, setting));
    const line: LedgerLine = { step: ready.text, rowsIn: table.rowCount, rowsOut: result.table.rowCount, losses: result.losses };
    if (stepSpec.why !== undefined) line.why = stepSpec.why;
    ledger.push(line);
    steps.push(ready.step);
    table = result.table;
    stages.tables.push(table);
  }
  if (!sound) return undefined;
  checkFormats(compiling, name, spec, table);
  return {
    name,
    spec,
    table,
    steps,
    ledger,
    usesSettings: steps.some(usesSettings),
    ...(spec.from === undefined ? {} : { from: spec.from }),
    ...(start.report ? { report: start.report } : {}),
  };
}

export function unknownTable(compiling: Compiling, path: Path, wanted: string, piece?: string) {
  const names = [...compiling.sheet.tables.keys()];
  const near = nearest(wanted, names);
  const span = compiling.sheet.source.valueSpan(path);
  addFinding(compiling, path, "unknown-table", `there is no table "${wanted}"${near ? `; did you mean ${near}?` : names.length ? `; tables are ${listed(names)}` : ""}`, {
    ...(piece ? { piece } : {}),
    ...(near && span ? { fix: { title: `write ${near}`, edits: [{ ...span, text: near }] } } : {}),
  });
}

function mergeInfo(inherited: ReadonlyMap<string, ColumnInfo>, own: ReadonlyMap<string, ColumnInfo>): Map<string, ColumnInfo> {
  const merged = new Map(inherited);
  for (const [name, info] of own) merged.set(name, { ...merged.get(name), ...info });
  return merged;
}

const asMap = (spec: ColumnSpec | string): ColumnSpec => (typeof spec === "string" ? ({ type: spec } as ColumnSpec) : spec);

function columnWishes(compiling: Compiling, table: string, spec: TableSpec): { wishes: Map<string, ColumnWish>; info: Map<string, ColumnInfo> } {
  const wishes = new Map<string, ColumnWish>();
  const info = new Map<string, ColumnInfo>();
  for (const [name, given] of Object.entries(spec.columns ?? {})) {
    const column = asMap(given);
    const path = ["tables", table, "columns", name];
    if (column.read !== undefined) {
      const kind = column.type ?? "datetime";
      const piece = `tables.${table}`;
      if (kind !== "date" && kind !== "datetime" && kind !== "duration") addFinding(compiling, [...path, "read"], "wrong-value", `read: is for dates, datetimes and durations, not for a ${kind}`, { piece });
      else {
        const reader = timeReader(column.read, kind);
        if (typeof reader !== "function") addFinding(compiling, [...path, "read"], "wrong-format", `the format cannot be read: ${reader.unknown}; letters are %Y %m %d %H %M %S and the like`, { piece });
      }
      if (column.type === undefined) column.type = "datetime";
    }
    wishes.set(name, { ...(column.type ? { type: column.type } : {}), ...(column.read === undefined ? {} : { read: column.read }) });
    const { type: _type, read: _read, ...said } = column;
    info.set(name, said);
  }
  return { wishes, info };
}

function checkColumnNames(compiling: Compiling, name: string, spec: TableSpec, table: Table) {
  const later = new Set((spec.steps ?? []).flatMap((step) => [...Object.keys(step.add ?? {}), ...Object.values(step.rename ?? {}), ...Object.keys(step.group?.get ?? {}), ...named(step.group?.by)]));
  for (const column of Object.keys(spec.columns ?? {})) {
    if (table.columns.has(column) || later.has(column)) continue;
    const near = nearest(column, [...table.columns.keys(), ...later]);
    const span = compiling.sheet.source.keySpan(["tables", name, "columns", column]);
    compiling.findings.push({
      code: "unknown-column",
      severity: "error",
      message: `${name} has no column "${column}"${near ? `; did you mean ${near}?` : `; its columns are ${listed(table.columns.keys())}`}`,
      piece: `tables.${name}`,
      ...(span ? { span } : {}),
      ...(near && span ? { fix: { title: `write ${near}`, edits: [{ ...span, text: near }] } } : {}),
    });
  }
}

/** Names given in a group's `by` with `as`. */
function named(by: string | string[] | undefined): string[] {
  const items = by === undefined ? [] : Array.isArray(by) ? by : [by];
  return items.flatMap((item) => / as `?([^`]+)`?\s*$/.exec(item)?.[1] ?? []);
}

function checkFormats(compiling: Compiling, name: string, spec: TableSpec, table: Table) {
  for (const [column, given] of Object.entries(spec.columns ?? {})) {
    const { format } = asMap(given);
    const kind = table.columns.get(column)?.kind;
    if (format === undefined || kind === undefined || kind === "text" || isFormat(kind, format)) continue;
    addFinding(compiling, ["tables", name, "columns", column, "format"], "wrong-format", `"${format}" is no format for a ${kind}; numbers are written as ",.1f", dates as "%-d %b %Y"`, { piece: `tables.${name}` });
  }
}

/** Readers by the ending of a file's name. */
const READERS: Readonly<Record<string, typeof readCsv>> = { csv: readCsv, tsv: readCsv, txt: readCsv, json: readJson, ndjson: readJson, jsonl: readJson };

function readSource(compiling: Compiling, name: string, spec: TableSpec, wishes: Map<string, ColumnWish>): { table: Table; report?: ReadResult["report"] } | undefined {
  const options = { columns: wishes, missingAs: spec.missing_as ?? [], progress: (part: number) => compiling.progress(`reading ${spec.read ?? name}`, part) };
  const piece = `tables.${name}`;
  const take = (result: ReadResult) => {
    for (const finding of result.findings) compiling.findings.push({ ...finding, piece });
    reportUnread(compiling, name, result, wishes);
    return result.findings.some((finding) => finding.severity === "error") ? undefined : { table: result.table, report: result.report };
  };
  if (spec.read !== undefined) {
    const path = ["tables", name, "read"];
    if (/^[a-z]+:\/\//i.test(spec.read) || spec.read.startsWith("/") || spec.read.split(/[\\/]/).includes("..") || /^[A-Za-z]:/.test(spec.read)) {
      addFinding(compiling, path, "file-outside", `"${spec.read}" lies outside the sheet's folder; files are read from beside the sheet and below`, { piece });
      return undefined;
    }
    const ending = /\.([a-z0-9]+)$/i.exec(spec.read)?.[1]?.toLowerCase() ?? "";
    const read = READERS[ending];
    if (!read) {
      addFinding(compiling, path, "unknown-file-kind", `this version reads ${listed(Object.keys(READERS).map((kind) => `.${kind}`))} files, not "${spec.read}"`, { piece });
      return undefined;
    }
    const bytes = compiling.readFile(spec.read);
    if (!bytes) {
      addFinding(compiling, path, "no-such-file", `there is no file "${spec.read}" beside the sheet`, { piece });
      return undefined;
    }
    return take(compiling.cache.read(bytes, JSON.stringify([spec.read, [...wishes], options.missingAs]), () => read(spec.read as string, textOfBytes(bytes), options)));
  }
  if (typeof spec.rows === "string") return take(readCsv(`rows of ${name}`, spec.rows, options));
  if (spec.rows) {
    const heads = [...new Set(spec.rows.flatMap((row) => Object.keys(row)))];
    if (heads.length === 0) return { table: makeTable(0, []) };
    const quoted = (text: string) => `"${text.replaceAll('"', '""')}"`;
    const lines = [heads.map(quoted).join(","), ...spec.rows.map((row) => heads.map((head) => (row[head] === null || row[head] === undefined ? "" : quoted(String(row[head])))).join(","))];
    return take(readCsv(`rows of ${name}`, lines.join("\n"), options));
  }
  return { table: emptyTable };
}

/** Cells that were lost in reading are said, the loudest where the sheet itself asked for the kind. */
function reportUnread(compiling: Compiling, name: string, result: ReadResult, wishes: ReadonlyMap<string, ColumnWish>) {
  for (const column of result.report.columns) {
    if (column.unread === 0) continue;
    const examples = column.examples.slice(0, 3).map(({ row, text }) => `"${text.slice(0, 30)}" in row ${row}`).join(", ");
    const wished = wishes.get(column.name)?.type !== undefined;
    const all = column.unread + column.missing === result.report.rows;
    const path = wished ? ["tables", name, "columns", column.name] : ["tables", name];
    const span = compiling.sheet.source.keySpan(path);
    compiling.findings.push({
      code: "unread-cells",
      severity: all && wished ? "warning" : "advice",
      message: `${column.unread} cells of ${column.name} could not be read as a ${column.kind} and count as missing: ${examples}`,
      piece: `tables.${name}`,
      ...(span ? { span } : {}),
    });
  }
}
