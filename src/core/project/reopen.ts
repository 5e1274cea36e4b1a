import { applyEdits } from "../finding/finding";
import { plainValue } from "../query/categories";
import { removeValue, type SheetValue, setValue } from "../sheet/edit/edit";
import { removeStep } from "../sheet/edit/step-edit";
import { readSheet } from "../sheet/read-sheet";
import type { TableSpec } from "../sheet/schema-tables";
import { type Column, kindOf } from "../table/column";
import type { Table } from "../table/table";
import type { ProjectFiles } from "./archive";
import type { DashboardFile } from "./dashboard-file";

export interface Reopened {
  project: ProjectFiles;
  /** What is to be known of each table: where it was cut, or that it is not there. */
  notes: string[];
}

/** Keys that say how a source is read; what was packed is read otherwise. */
const SOURCE_KEYS = ["rows", "make", "sheet", "header", "zone", "missing_as", "file_as"] as const;

/**
 * A report made of a written dashboard: its sheet, and its tables as they were packed. Steps that were
 * done before packing are taken off the sheet, which the notes say; to change them the original file
 * is needed. Nothing where the dashboard was written without its sheet.
 */
export function reopened(file: DashboardFile, name: string): Reopened | undefined {
  if (file.sheet === undefined) return undefined;
  const files = new Map<string, Uint8Array>();
  const notes: string[] = [];
  const take = (text: string, folder: string) => {
    let taken = text;
    for (const [table, spec] of readSheet(text, "part").tables)
      if (spec.from === undefined) taken = restoreTable(taken, table, spec, file, { folder, files, notes });
    return taken;
  };
  const text = take(file.sheet, "");
  for (const [path, used] of file.used)
    files.set(path, new TextEncoder().encode(take(used, path.slice(0, path.lastIndexOf("/") + 1))));
  return { project: { sheetName: `${name}.still.yaml`, text, files }, notes };
}

interface Into {
  folder: string;
  files: Map<string, Uint8Array>;
  notes: string[];
}

/** The sheet's text with a table that is read from what was packed of it. */
function restoreTable(
  text: string,
  name: string,
  spec: TableSpec,
  { plan, tables, whole }: DashboardFile,
  { folder, files, notes }: Into,
): string {
  const full = whole.get(name);
  const table = full ?? tables.get(name) ?? tables.get(`${name}/source`);
  if (!table) {
    notes.push(`${name} is not in the file: nothing on its pages needed it`);
    return text;
  }
  const path = `${name}.csv`;
  files.set(`${folder}${path}`, new TextEncoder().encode(csvOf(table)));
  const live = plan.tables.find((one) => one.name === name)?.steps?.length ?? 0;
  const finished = full ? 0 : Math.max(0, (spec.steps?.length ?? 0) - live);
  let restored = text;
  const edit = (edits: ReturnType<typeof setValue>) => {
    if (edits) restored = applyEdits(restored, edits);
  };
  for (const key of SOURCE_KEYS) if (spec[key] !== undefined) edit(removeValue(restored, ["tables", name, key]));
  edit(setValue(restored, ["tables", name, "read"], path));
  edit(setValue(restored, ["tables", name, "columns"], columnsOf(table, spec)));
  for (let step = 0; step < finished; step++) edit(removeStep(restored, name, 0));
  if (full) notes.push(`${name} is whole, with all its rows and columns`);
  else if (finished)
    notes.push(
      `${name} is as it was packed, after its first ${finished === 1 ? "step" : `${finished} steps`}; to change those, the original file is needed`,
    );
  else notes.push(`${name} is as it was packed: the columns that its pages needed`);
  return restored;
}

/** Kinds of all columns, so that they are read back as they were, and the words that the sheet has for them. */
function columnsOf(table: Table, { columns = {} }: TableSpec): SheetValue {
  return Object.fromEntries(
    [...table.columns].map(([name, column]) => {
      const said = Object.hasOwn(columns, name) ? columns[name] : undefined;
      const { type: _type, read: _read, missing_as: _missing, ...words } = typeof said === "object" ? said : {};
      return [name, { type: kindOf(column), ...(words as { [key: string]: SheetValue }) }];
    }),
  );
}

/** A length of time as it is read back: hours, minutes, seconds and what is left of them. */
function lengthText(seconds: number): string {
  const whole = Math.floor(Math.abs(seconds));
  const rest = Math.round((Math.abs(seconds) - whole) * 1000);
  const two = (value: number) => String(value).padStart(2, "0");
  const text = `${Math.floor(whole / 3600)}:${two(Math.floor(whole / 60) % 60)}:${two(whole % 60)}`;
  return `${seconds < 0 ? "-" : ""}${text}${rest ? `.${String(rest).padStart(3, "0")}` : ""}`;
}

function cellText(column: Column, row: number): string {
  const value = plainValue(column, row);
  if (value === null) return "";
  const text = column.kind === "duration" ? lengthText(Number(value)) : String(value);
  return /[",\r\n]|^\s|\s$/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

/** A table as CSV that is read back as the same table. */
function csvOf(table: Table): string {
  const columns = [...table.columns];
  const head = columns.map(([name]) => `"${name.replaceAll('"', '""')}"`).join(",");
  const lines = [head];
  for (let row = 0; row < table.rowCount; row++)
    lines.push(columns.map(([, column]) => cellText(column, row)).join(","));
  return `${lines.join("\n")}\n`;
}
