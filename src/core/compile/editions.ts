import { listed, nearest } from "../finding/nearest";
import { nameAt } from "../query/categories";
import { nameBefore } from "../steps/name-before";
import type { Column } from "../table/column";
import { makeTable, type Table, takeRows } from "../table/table";
import { addFinding, type Compiling } from "./compiling";

/** Which rows a file is of. */
export interface Edition {
  table: string;
  column: string;
  /** The value by its name. */
  value: string;
}

/** One file of several. */
export interface EditionFile extends Edition {
  /** Its name, which every file system takes, and no other edition has. */
  file: string;
  rows: number;
}

export interface EditionsPlan {
  files: EditionFile[];
  /** A page with links to all of them. */
  index: boolean;
}

/** Names that some systems keep for themselves, and the index's own. */
const TAKEN = /^(?:index|con|prn|aux|nul|com\d|lpt\d)$/i;
const LONGEST = 80;

/** A name of letters, digits and `-`, whatever was asked for. */
function safeName(wanted: string): string {
  const name = wanted
    .normalize("NFC")
    .replace(/[^\p{L}\p{N}]+/gu, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, LONGEST);
  if (name === "") return "edition";
  return TAKEN.test(name) ? `${name}-edition` : name;
}

/** File names of texts; equal ones, for systems that do not tell capitals apart, get `-2`. */
export function fileNames(wanted: readonly string[]): string[] {
  const taken = new Set<string>();
  return wanted.map((text) => {
    const base = safeName(text);
    let name = base;
    for (let number = 2; taken.has(name.toLowerCase()); number++) name = `${base}-${number}`;
    taken.add(name.toLowerCase());
    return `${name}.html`;
  });
}

/** Plans the files of a sheet with editions; nothing where it has none, or asks for what cannot be. */
export function planEditions(compiling: Compiling): EditionsPlan | undefined {
  const { editions } = compiling.sheet;
  if (!editions) return undefined;
  const found = sourceOf(compiling, editions.by);
  if (!found) return undefined;
  const { table, column, named, values } = found;
  const pattern = editions.file ?? `{${named}}`;
  const names = [...pattern.matchAll(/\{([^{}]*)\}/g)].map(([, name]) => name?.trim());
  if (names.length === 0 || names.some((name) => name !== named && name !== column)) {
    addFinding(compiling, ["editions", "file"], "wrong-value", `file: names each edition by its value: "{${named}}"`);
    return undefined;
  }
  const counts = new Map<string, number>();
  let missing = 0;
  for (let row = 0; row < (values.kind === "text" ? values.codes : values.values).length; row++) {
    const name = nameAt(values, row);
    if (name === null) missing += 1;
    else counts.set(name, (counts.get(name) ?? 0) + 1);
  }
  if (missing)
    addFinding(
      compiling,
      ["editions", "by"],
      "rows-without-edition",
      `${missing === 1 ? `1 row of ${table} has` : `${missing} rows of ${table} have`} no ${named} before the steps of the table, and ${missing === 1 ? "is" : "are"} in no edition`,
      { severity: "warning" },
    );
  const sorted = [...counts].sort(([a], [b]) => (a < b ? -1 : 1));
  const files = fileNames(sorted.map(([value]) => pattern.replace(/\{[^{}]*\}/g, value)));
  return {
    files: sorted.map(([value, rows], at) => ({ table, column, value, rows, file: files[at] as string })),
    index: editions.index ?? true,
  };
}

/** Where editions are told apart: by a column as it was read, which may be named otherwise by a step. */
interface EditionsSource {
  table: string;
  column: string;
  /** The name that the sheet gives. */
  named: string;
  values: Column;
}

/** The table and column by which editions are told apart. */
function sourceOf(compiling: Compiling, by: string): EditionsSource | undefined {
  const [first = "", second] = by.split(".");
  const sources = [...compiling.stages.values()].filter(
    ({ name }) => compiling.sheet.tables.get(name)?.from === undefined,
  );
  const named = second ?? first;
  const asked = sources.filter(({ name }) => second === undefined || name === first);
  const having = asked.flatMap(({ name, tables }): EditionsSource[] => {
    for (const column of [named, nameBefore(named, compiling.tables.get(name)?.steps ?? [])]) {
      const values = tables[0]?.columns.get(column);
      if (values) return [{ table: name, column, named, values }];
    }
    return [];
  });
  if (having.length === 1) return having[0];
  const columns = sources.flatMap(({ tables }) => [...(tables[0]?.columns.keys() ?? [])]);
  const near = nearest(named, columns);
  const maker = asked.find(({ tables }) => tables.at(-1)?.columns.has(named));
  const message =
    having.length > 1
      ? `${listed(having.map(({ table }) => table))} have a column "${named}"; write TABLE.${named}`
      : maker
        ? `"${named}" is made by a step of ${maker.name}; editions are told apart by a column as it is read`
        : `no table is read with a column "${by}"${near ? `; did you mean ${near}?` : ""}`;
  addFinding(compiling, ["editions", "by"], "unknown-column", message);
  return undefined;
}

/** The rows of an edition, as read, with nothing left of the others. */
export function onlyEdition(table: Table, { column: name, value }: Edition): Table {
  const column = table.columns.get(name);
  if (!column) return table;
  const rows: number[] = [];
  for (let row = 0; row < table.rowCount; row++) if (nameAt(column, row) === value) rows.push(row);
  const own = takeRows(table, Int32Array.from(rows));
  return makeTable(
    own.rowCount,
    [...own.columns].map(([key, values]) => [key, withOwnDictionary(values)] as const),
    table.info,
  );
}

/** A column of texts that knows those that it holds, and no others. */
function withOwnDictionary(column: Column): Column {
  if (column.kind !== "text") return column;
  const places = new Map<number, number>();
  for (const code of column.codes) if (code >= 0 && !places.has(code)) places.set(code, places.size);
  // Their order stays, which may be the author's.
  const kept = [...places.keys()].sort((a, b) => a - b);
  const recode = new Map(kept.map((code, place) => [code, place]));
  return {
    ...column,
    codes: column.codes.map((code) => recode.get(code) ?? -1),
    dictionary: kept.map((code) => column.dictionary[code] as string),
  };
}
