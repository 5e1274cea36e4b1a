import { type DataTablePlan, TAKES, type TableColumn } from "../chart/plan";
import { writeFix } from "../finding/finding";
import { listed, nearest } from "../finding/nearest";
import { madeBy } from "../formula/made";
import { printFormula } from "../formula/print";
import type { Channel } from "../query/query";
import type { ChartSpec } from "../sheet/schema-charts";
import type { Path } from "../sheet/tree";
import { namesThings } from "../table/column-names";
import type { ColumnInfo } from "../table/table";
import { readChannel } from "./channels";
import { addFinding } from "./compiling";
import { checkFormat, keepFormula, type Place, queryOf, wrongAt } from "./piece-place";

/** True for a column whose values make a total: neither rates nor means, nor numbers that are names. */
function addsUp({ kind, format, formula }: Channel, made: ColumnInfo | undefined): boolean {
  if (kind !== "number" && kind !== "duration") return false;
  const isName = formula.type === "column" && namesThings(formula.name);
  return !made?.single && !made?.unparted && !isName && !format?.endsWith("%");
}

type Listed = Pick<DataTablePlan, "columns"> & { channels: Record<string, Channel> };

/** Takes up a column of a data table; false where it cannot be one. */
function addColumn(
  place: Place,
  spec: ChartSpec,
  { channels, columns }: Listed,
  text: string,
  path: Path,
  list?: TableColumn["list"],
): boolean {
  const { compiling, name, built } = place;
  const at = { compiling, path, tableName: built.name, table: built.table, piece: name };
  const read = readChannel(at, text, { named: true });
  if (!read) return false;
  const { formula } = read.channel;
  const key = read.checked.name ?? (formula.type === "column" ? formula.name : text.trim());
  if (columns.some((column) => column.key === key)) {
    wrongAt(place, path, "doubled-column", `"${key}" stands twice in this table`);
    return false;
  }
  const channel = `column${columns.length}`;
  const made = formula.type === "column" ? built.table.info.get(formula.name) : madeBy(formula);
  channels[channel] = read.channel;
  const adds = spec.totals === true && addsUp(read.channel, made);
  columns.push({ channel, key, ...(list ? { list } : {}), ...(adds ? { adds } : {}) });
  return true;
}

/** The columns of a data table as the sheet lists them, else all; nothing where one is wrong. */
function listColumns(place: Place, spec: ChartSpec): Listed | undefined {
  const { compiling, path, built } = place;
  const column = (name: string) => printFormula({ type: "column", name });
  const listed: Listed = { channels: {}, columns: [] };
  let sound = true;
  for (const [at, text] of (spec.columns ?? [...built.table.columns.keys()].map(column)).entries()) {
    const inner = spec.columns ? [...path, "columns", at] : path;
    const setting = /^\$([a-z][a-z0-9_]*)$/.exec(text.trim())?.[1];
    const plan = setting === undefined ? undefined : compiling.settings.get(setting);
    if (setting === undefined || !plan?.list) {
      if (!addColumn(place, spec, listed, text, inner)) sound = false;
      continue;
    }
    compiling.used.add(setting);
    for (const value of plan.of ?? [])
      if (!addColumn(place, spec, listed, column(value), inner, { setting, value })) sound = false;
  }
  return sound ? listed : undefined;
}

export function readDataTable(place: Place, spec: ChartSpec): DataTablePlan | undefined {
  const { path, built } = place;
  const listed = listColumns(place, spec);
  const identity = spec.identity === undefined ? undefined : readIdentity(place, spec.identity);
  if (spec.identity !== undefined && !identity) return undefined;
  const { sound: keepSound, keep } = keepFormula(place, [...path, "keep"], spec.keep);
  if (!listed || !keepSound) return undefined;
  const { channels, columns } = listed;
  // Rows of a grouped table are known by their keys.
  if (identity && !Object.values(channels).some(({ aggregate }) => aggregate)) channels.identity = identity;
  const query = queryOf(
    place,
    channels,
    () => path,
    keep,
    () => true,
  );
  if (!query) return undefined;
  const pages = (spec.page === undefined ? ["all"] : Array.isArray(spec.page) ? spec.page : [spec.page]).map((page) =>
    page === "all" ? "all" : Number(page),
  );
  // By what rows are put together is a name, even where it is a number.
  if (query.grouped) for (const column of columns) if (query.groupBy.includes(column.channel)) delete column.adds;
  if (!takeTotals(place, spec, channels, columns) || !takeCells(place, spec, channels, columns)) return undefined;
  const take = spec.take === "none" ? [] : (spec.take ?? [...TAKES]);
  const totals = columns.some(({ adds }) => adds);
  return { type: "table", from: built.name, query, columns, pages, take, totals };
}

/** The column of a data table that a part of the sheet speaks of; a finding where there is none. */
function columnNamed(
  place: Place,
  path: Path,
  key: string,
  columns: DataTablePlan["columns"],
): TableColumn | undefined {
  const column = columns.find((one) => one.key === key);
  if (column) return column;
  // What a column was made of is how people call it: over, for sum(over).
  const made = /^\w+$/.test(key) ? columns.filter((one) => new RegExp(`\\b${key}\\b`).test(one.key)) : [];
  const names = columns.map((one) => one.key);
  const near = made.length === 1 ? made[0]?.key : nearest(key, names);
  const hint = near ? `; did you mean ${near}?` : `; its columns are ${listed(names)}`;
  const { source } = place.compiling.sheet;
  const isKey = typeof path.at(-1) === "string";
  const span = isKey ? source.keySpan(path) : source.valueSpan(path);
  const text = near === undefined || /^[\w()]+$/.test(near) ? near : JSON.stringify(near);
  addFinding(place.compiling, path, "unknown-column", `this table has no column "${key}"${hint}`, {
    piece: place.name,
    ...writeFix(span, text),
  });
  return undefined;
}

/** Marks the columns whose sums the author asks for by name; false where one is not there, or has no numbers. */
function takeTotals(
  place: Place,
  { totals }: ChartSpec,
  channels: Readonly<Record<string, Channel>>,
  columns: DataTablePlan["columns"],
): boolean {
  if (!Array.isArray(totals)) return true;
  return totals.every((key, at) => {
    const path = [...place.path, "totals", at];
    const column = columnNamed(place, path, key, columns);
    if (!column) return false;
    const kind = channels[column.channel]?.kind;
    column.adds = true;
    if (kind === "number" || kind === "duration") return true;
    wrongAt(place, path, "wrong-kind", `sums are of numbers or lengths of time, and ${key} holds ${kind}`);
    return false;
  });
}

function readIdentity({ compiling, name, path, built }: Place, text: string): Channel | undefined {
  const at = [...path, "identity"];
  return readChannel({ compiling, path: at, tableName: built.name, table: built.table, piece: name }, text)?.channel;
}

/** Adds how cells are drawn by their values; false where a column is not there, or has no numbers. */
function takeCells(
  place: Place,
  { cells = {} }: ChartSpec,
  channels: Record<string, Channel>,
  columns: DataTablePlan["columns"],
): boolean {
  for (const [key, cell] of Object.entries(cells)) {
    const path = [...place.path, "cells", key];
    const column = columnNamed(place, path, key, columns);
    const kind = column && channels[column.channel]?.kind;
    if (!column || kind === undefined) return false;
    if (kind === "text" || kind === "boolean" || kind === "place") {
      wrongAt(place, path, "wrong-kind", `cells are drawn by numbers, and ${key} holds ${kind}`);
      return false;
    }
    if (!checkFormat(place, [...path, "format"], kind, cell.format)) return false;
    const channel = channels[column.channel] as Channel;
    if (cell.format !== undefined) channels[column.channel] = { ...channel, format: cell.format };
    column.cell = {
      ...(cell.bar ? { bar: true as const } : {}),
      ...(cell.shade ? { shade: cell.shade } : {}),
      ...(cell.middle === undefined ? {} : { middle: cell.middle }),
    };
  }
  return true;
}
