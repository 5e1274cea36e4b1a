import "../chart/all";
import "../mark/all";
import "../formula/functions/all";
import "../link/all";
import "../scale/all";
import "../steps/all";
import { freeName } from "../advice/write-suggestions";
import { applyEdits } from "../finding/finding";
import { Model } from "../model/model";
import { removeValue, type SheetValue, setValue } from "../sheet/edit/edit";
import { removeStep } from "../sheet/edit/step-edit";
import { readSheet, type Sheet } from "../sheet/read-sheet";
import type { TableSpec } from "../sheet/schema-tables";
import type { Path } from "../sheet/tree";
import { readWholeSheet } from "../sheet/used-sheets";
import { kindOf } from "../table/column";
import type { Table } from "../table/table";
import type { ProjectFiles } from "./archive";
import { ColumnWords } from "./column-words";
import type { DashboardFile } from "./dashboard-file";
import { pathProblem } from "./directory";
import { onlyReadAgain } from "./finished-tables";
import { isFinished, nounOf, regroup } from "./groups";
import { narrowSteps } from "./narrowed-steps";
import { packedTable, restoredTies, withRowNumbers } from "./restored-ties";
import { type ShownWords, shownWords } from "./shown-words";
import { csvOf } from "./table-csv";
import { tablesNamed } from "./tables-named";

export interface Reopened {
  project: ProjectFiles;
  /** What is to be known of each table: where it was cut, or that it is not there. */
  notes: string[];
}

/** Keys that say how a source is read; what was packed is read otherwise. */
const SOURCE_KEYS = ["rows", "make", "sheet", "header", "zone", "missing_as", "file_as"] as const;

/**
 * A report made of a written dashboard: its sheet, and its tables as they were packed. Steps that were
 * done before packing are taken off the sheet, and pieces whose groups alone were packed are drawn from tables of
 * these, which the notes say; to change that the original file is needed, and the sheet as it was written goes
 * along beside. Nothing where the dashboard was written without its sheet.
 */
export function reopened(file: DashboardFile, name: string): Reopened | undefined {
  if (file.sheet === undefined) return undefined;
  const specs = new Map([...file.used.values()].flatMap((used) => [...readSheet(used, "part").tables]));
  for (const [table, spec] of readSheet(file.sheet).tables) specs.set(table, spec);
  const into: Into = { folder: "", words: new ColumnWords(specs), files: new Map(), notes: [], numbered: new Set() };
  const take = (text: string, folder: string) => {
    let taken = text;
    for (const [table, spec] of readSheet(text, "part").tables) {
      if (file.whole.size === 0) taken = narrowSteps(taken, table, spec, file.plan.tables);
      if (spec.from === undefined) taken = restoreTable(taken, table, spec, file, { ...into, folder });
    }
    return taken;
  };
  for (const [address, bytes] of file.pictures) into.files.set(address, bytes);
  const { style } = readWholeSheet(file.sheet, (path) => usedBytes(file, path));
  if (file.logo && style.logo !== undefined && pathProblem(style.logo) === undefined)
    into.files.set(style.logo, file.logo);
  const used = [...file.used].map(
    ([path, text]) => [path, take(text, path.slice(0, path.lastIndexOf("/") + 1))] as const,
  );
  const whole = take(restoreGroups(file.sheet, file, into), "");
  const numbered = [whole, ...used.map(([, text]) => text)].map((text) =>
    [...into.numbered].reduce((written, table) => {
      return readSheet(written, "part").tables.has(table) ? withRowNumbers(written, table, file) : written;
    }, text),
  );
  const again = numbered[0] as string;
  // What is compiled over them needs the sheets that it uses.
  for (const [at, [path]] of used.entries()) into.files.set(path, new TextEncoder().encode(numbered[at + 1]));
  const [main, ...others] = [
    onlyReadAgain(again, into.files, file).reduce((written, table) => readTable(written, table, file, into), again),
    ...numbered.slice(1),
  ] as [string, ...string[]];
  const texts = withoutUnread([main, ...others], file, into);
  for (const [at, [path]] of used.entries()) into.files.set(path, new TextEncoder().encode(texts[at + 1]));
  const [text] = texts as [string];
  if (text !== file.sheet) into.files.set(`as-written/${name}.yaml`, new TextEncoder().encode(file.sheet));
  return { project: { sheetName: `${name}.still.yaml`, text, files: into.files }, notes: into.notes };
}

function usedBytes({ used }: DashboardFile, path: string): Uint8Array | undefined {
  const text = used.get(path);
  return text === undefined ? undefined : new TextEncoder().encode(text);
}

interface Into {
  folder: string;
  /** What the sheet and those that it uses say of their columns. */
  words: ColumnWords;
  files: Map<string, Uint8Array>;
  notes: string[];
  /** Tables that others look up by the numbers of their rows. */
  numbered: Set<string>;
}

/** The text with a value set, or with the key taken away where there is none. */
function changed(text: string, path: Path, value?: SheetValue): string {
  const edits = value === undefined ? removeValue(text, path) : setValue(text, path, value);
  return edits ? applyEdits(text, edits) : text;
}

/** The sheet's text with each piece whose groups were packed drawn from a table of these. */
function restoreGroups(text: string, file: DashboardFile, { words, files, notes }: Into): string {
  const sheet = readSheet(text);
  // Names come from the sheet, which was read by rule; a foreign plan may hold any.
  const finished = file.plan.pieces.filter(
    (piece) => (sheet.charts.has(piece.name) || sheet.notes.has(piece.name)) && isFinished(piece),
  );
  if (finished.length === 0) return text;
  const taken = new Set(words.specs.keys());
  const model = new Model(file.plan, file.tables);
  let restored = text;
  for (const piece of finished) {
    const nameTable = () => {
      const name = freeName(`${piece.name}_groups`, taken);
      taken.add(name);
      return name;
    };
    const { tables, changes } = regroup(
      { piece, model, saidOf: (table, column) => words.of(table).get(column), nameTable },
      sheet.charts.get(piece.name),
    );
    for (const { path, value } of changes) restored = changed(restored, path, value);
    const label = `groups of ${nounOf(file.plan, piece.plan.from)}`;
    for (const { name, table, columns } of tables) {
      files.set(`${name}.csv`, new TextEncoder().encode(csvOf(table)));
      restored = changed(restored, ["tables", name], { read: `${name}.csv`, label, columns });
    }
  }
  const names = finished.map(({ name }) => name).join(", ");
  notes.push(
    `${names}: drawn from ${finished.length === 1 ? "its" : "their"} groups, which were ` +
      "packed without the rows; to change what is grouped, the original file is needed",
  );
  return restored;
}

/** The texts of a sheet and of those that it uses, without tables of which nothing is packed and nothing speaks. */
function withoutUnread(texts: readonly string[], file: DashboardFile, { notes }: Into): string[] {
  // Where all tables are there, so is all that was made of them.
  if (file.whole.size > 0) return [...texts];
  const sheets = texts.map((text, at) => readSheet(text, at === 0 ? undefined : "part"));
  const named = tablesNamed(sheets);
  const isUnread = (table: string, { from, make }: TableSpec) =>
    !named.has(table) && !make && (from !== undefined || !packedTable(file, table));
  return texts.map((text, at) => {
    let left = text;
    for (const [table, spec] of (sheets[at] as Sheet).tables) {
      if (!isUnread(table, spec)) continue;
      left = changed(left, ["tables", table]);
      notes.push(`${table} is not in the file: nothing on its pages needed its rows`);
    }
    return left;
  });
}

/** The sheet's text with a table that was made of another one and is read from what was packed of it. */
function readTable(text: string, name: string, file: DashboardFile, { words, files, notes }: Into): string {
  const table = packedTable(file, name);
  const spec = words.specs.get(name);
  if (!table || !spec) return text;
  files.set(`${name}.csv`, new TextEncoder().encode(csvOf(table)));
  notes.push(`${name} is as it was packed: what it was made of is not in the file`);
  const bare = ["from", "steps"].reduce((left, key) => changed(left, ["tables", name, key]), text);
  return readFromCsv(bare, name, table, words.after(name, spec.steps?.length ?? 0), shownWords(file.plan, name));
}

/** The sheet's text with a table that is read from what was packed of it. */
function restoreTable(
  text: string,
  name: string,
  spec: TableSpec,
  file: DashboardFile,
  { folder, words, files, notes, numbered }: Into,
): string {
  const full = file.whole.get(name);
  const table = full ?? packedTable(file, name);
  // What is made by its sheet alone is made again, and drawn from the same seed.
  if (!table || (spec.make && !(spec.steps ?? []).some(({ join, stack }) => join || stack))) return text;
  const path = `${name}.csv`;
  const live = file.plan.tables.find((one) => one.name === name)?.steps?.length ?? 0;
  const finished = full ? 0 : Math.max(0, (spec.steps?.length ?? 0) - live);
  const ties = restoredTies(file, name, spec, finished);
  const shown = { ...table, columns: new Map([...table.columns].filter(([column]) => !ties.hidden.has(column))) };
  files.set(`${folder}${path}`, new TextEncoder().encode(csvOf(shown)));
  let restored = text;
  for (const key of SOURCE_KEYS) if (spec[key] !== undefined) restored = changed(restored, ["tables", name, key]);
  restored = readFromCsv(restored, name, shown, words.after(name, finished), shownWords(file.plan, name));
  for (let step = 0; step < finished; step++) {
    const edits = removeStep(restored, name, 0);
    if (edits) restored = applyEdits(restored, edits);
  }
  restored = ties.write(restored);
  for (const right of ties.numbered) numbered.add(right);
  if (full) notes.push(`${name} is whole, with all its rows and columns`);
  else if (finished)
    notes.push(
      `${name} is as it was packed, after its first ` +
        `${finished === 1 ? "step" : `${finished} steps`}; to change those, the original file is needed`,
    );
  else notes.push(`${name} is as it was packed: the columns that its pages needed`);
  return restored;
}

/** The text with a table that is read from a file of its name, its columns said. */
function readFromCsv(
  text: string,
  name: string,
  table: Table,
  words: ReturnType<ColumnWords["after"]>,
  shown: ReadonlyMap<string, ShownWords>,
): string {
  const read = changed(text, ["tables", name, "read"], `${name}.csv`);
  return changed(read, ["tables", name, "columns"], columnsOf(table, words, shown));
}

/** Kinds of all columns, so that they are read back as they were, and the words that the sheet has for them. */
function columnsOf(
  table: Table,
  words: ReturnType<ColumnWords["after"]>,
  shown: ReadonlyMap<string, ShownWords>,
): SheetValue {
  return Object.fromEntries(
    [...table.columns].map(([name, column]) => {
      const { type: _type, read: _read, missing_as: _missing, ...said } = words.get(name) ?? {};
      // Weekdays and months that a step made stand in an order that their names do not have.
      const order: { [key: string]: SheetValue } =
        column.kind === "text" && column.ordered ? { order: [...column.dictionary] } : {};
      return [name, { type: kindOf(column), ...shown.get(name), ...order, ...(said as { [key: string]: SheetValue }) }];
    }),
  );
}
