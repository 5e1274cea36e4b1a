import { faultWords } from "../../core/finding/fault-words";
import { boundMessage, LIMITS } from "../../core/finding/limits";
import { openProject } from "../../core/project/archive";
import { pathProblem } from "../../core/project/directory";
import { isSheetName, laidOut, missingPlace, reportsAmong } from "../../core/project/loose-files";
import { writeValue } from "../../core/sheet/edit/edit";
import { addTable } from "../../core/sheet/edit/step-edit";
import type { Desk } from "./desk";
import { checkIntake } from "./intake";
import { say } from "./notice";

/** How files come in: tables, what stands beside a sheet, and whole reports. */

/** A name for a table, made of a file's name. */
export function tableNameFor(path: string, taken: Iterable<string>): string {
  const plain =
    (path.split("/").at(-1) ?? path)
      .replace(/\.[^.]+$/, "")
      .toLowerCase()
      .replace(/[^a-z0-9_]+/g, "_")
      .replace(/^[^a-z]+/, "")
      .replace(/_+$/, "") || "table";
  const names = new Set(taken);
  let name = plain;
  for (let n = 2; names.has(name); n++) name = `${plain}_${n}`;
  return name;
}

/** Endings of the files that are taken as tables. */
export const TABLE_ENDINGS = [
  ".csv",
  ".tsv",
  ".txt",
  ".json",
  ".ndjson",
  ".jsonl",
  ".xlsx",
  ".parquet",
  ".gpx",
  ".geojson",
];

/** Endings of all that can stand beside one another in the folder of a sheet, and of sheets themselves. */
export const FOLDER_ENDINGS = [...TABLE_ENDINGS, ".png", ".svg", ".jpg", ".jpeg", ".webp", ".yaml", ".yml"];

const isTable = (name: string) =>
  !isSheetName(name) && TABLE_ENDINGS.some((ending) => name.toLowerCase().endsWith(ending));
const isArchive = (name: string) => /\.(?:zip|html?)$/i.test(name);

/** Files that stand beside a sheet without being tables: pictures, house styles and sheets that it uses. */
const isBeside = (name: string) =>
  /\.(?:png|jpe?g|gif|webp|avif|svg)$/i.test(name) || /\.style\.ya?ml$/i.test(name) || isSheetName(name);

/** A file name that stays beside the sheet. */
function safeName(name: string): string {
  const plain = (name.split(/[\\/]/).at(-1) ?? "").trim();
  return pathProblem(plain) === undefined ? plain : "table.csv";
}

/** A file that came in by itself. */
interface Loose {
  name: string;
  bytes: Uint8Array;
}

/** Of many files that are left out so many are named. */
const MOST_NAMED = 5;

/** Files that are left out, each by its name and why. */
function leftOut(reasons: readonly (readonly [string, string])[]): string {
  const named = reasons.slice(0, MOST_NAMED).map(([name, why]) => `"${name}" was left out: ${why}`);
  const more = reasons.slice(MOST_NAMED).map(([name]) => name);
  return [...named, ...(more.length ? [`left out too: ${more.join(", ")}`] : [])].join("; ");
}

/**
 * Takes files in: tables go into the open report (or a new one); a zip is opened as a report, and so is a sheet, with
 * all that came along.
 * Whatever cannot be taken is said, file by file.
 */
export async function takeFiles(desk: Desk, files: readonly File[], asNew = false): Promise<void> {
  const reasons: [string, string][] = [];
  const archive = files.find(({ name }) => isArchive(name));
  const contents: Loose[] = [];
  const names = new Map<string, string>();
  for (const file of files) {
    if (file === archive) continue;
    if (archive) reasons.push([file.name, `${archive.name} is opened as a report of its own, alone`]);
    else if (!isTable(file.name) && !isBeside(file.name))
      reasons.push([
        file.name,
        `tables are ${TABLE_ENDINGS.join(" ")} files, reports .still.zip or a dashboard's .html; sheets .still.yaml, which are opened with the tables that come along; pictures and .style.yaml stand beside the sheet`,
      ]);
    else if (file.size > LIMITS.fileBytes) reasons.push([file.name, boundMessage("fileBytes", file.size, "it")]);
    else {
      const bytes = await file.arrayBuffer().then(
        (buffer) => new Uint8Array(buffer),
        () => undefined,
      );
      if (!bytes) {
        reasons.push([file.name, "it cannot be read; folders are not taken, only the files in them"]);
        continue;
      }
      // Two files of one name come from two folders: both are taken.
      const name = freePath(safeName(file.name), names);
      names.set(name, "");
      contents.push({ name, bytes });
    }
  }
  const tables = contents.filter(({ name }) => isTable(name));
  const beside = contents.filter(({ name }) => !isTable(name));
  if (archive) await openArchive(desk, archive);
  else if (await openSheet(desk, contents)) return;
  else if (tables.length && asNew) await beginReport(desk, tables);
  else if (tables.length) await addTables(desk, tables);
  if (beside.length) await addBeside(desk, beside);
  else if (reasons.length === 0 && !archive && tables.length === 0) say(desk, "no file came in");
  if (reasons.length) say(desk, leftOut(reasons));
}

/** A sheet among files that came in is opened as a report with all of them; false where there is none. */
async function openSheet(desk: Desk, contents: readonly Loose[]): Promise<boolean> {
  const { sheetName, text } = desk.state.get();
  const came = new Map(contents.map(({ name, bytes }) => [name, bytes]));
  // A sheet whose tables the open one uses stands beside it.
  const known = new Map([[sheetName, new TextEncoder().encode(text)], ...came]);
  const [name, ...more] = reportsAmong(known).filter((one) => came.has(one));
  if (name === undefined) return false;
  if (more.length) {
    say(desk, `${[name, ...more].join(", ")} are reports of their own: open them one by one, each with its tables`);
    return true;
  }
  const sheet = plainText(came.get(name) as Uint8Array);
  if (sheet === undefined) {
    say(desk, `${name} was not opened: it is no text in UTF-8`);
    return true;
  }
  came.delete(name);
  await desk.openFiles({ sheetName: name, text: sheet, files: laidOut(sheet, came) });
  desk.state.set({ station: "pages", dialog: undefined });
  say(desk, `${name} was opened as a report of its own`);
  return true;
}

/** A text in UTF-8; nothing for bytes that are none, of which signs would be lost. */
function plainText(bytes: Uint8Array): string | undefined {
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return undefined;
  }
}

async function beginReport(desk: Desk, contents: readonly Loose[]) {
  const names: string[] = [];
  const lines: string[] = [];
  for (const { name } of contents) {
    const table = tableNameFor(name, names);
    names.push(table);
    lines.push(`  ${table}:\n    read: ${writeValue(name)}\n`);
  }
  const first = names[0] ?? "table";
  const title = first.slice(0, 1).toUpperCase() + first.slice(1).replaceAll("_", " ");
  await desk.openFiles({
    sheetName: `${first.replaceAll("_", "-")}.still.yaml`,
    text: `still: 1\nreport: ${title}\n\ntables:\n${lines.join("")}`,
    files: new Map(contents.map(({ name, bytes }) => [name, bytes])),
  });
  desk.state.set({ station: "tables", table: first, stage: 0, begun: first, dialog: undefined });
}

async function addTables(desk: Desk, contents: readonly Loose[]) {
  const taken = new Set(desk.state.get().reply?.tables.map((one) => one.name));
  for (const { name, bytes } of contents) {
    const hash = await desk.keepBytes(bytes);
    const waiting = await placeOf(desk, name);
    const given = waiting ?? name;
    const choice = desk.state.get().files.has(given) ? await checkIntake(desk, given, hash, bytes) : "replace";
    if (choice === "keep") {
      say(desk, `${given} stayed as it was`);
      continue;
    }
    const { text, files, reply } = desk.state.get();
    const path = choice === "beside" ? freePath(given, files) : given;
    const replaces = files.has(path);
    if (replaces && files.get(path) === hash) {
      say(desk, `${path} is the same as before`);
      continue;
    }
    if (replaces) await desk.addVersion(`before ${path} was replaced`);
    const table = tableNameFor(path, taken);
    const isRead = waiting !== undefined || reply?.tables.some(({ source }) => source === path);
    const edits = isRead ? [] : addTable(text, table, { read: path });
    desk.edit(edits ?? [], [{ path, hash }]);
    if (!edits) {
      say(
        desk,
        `${path} is beside the sheet, but the sheet cannot be read at the moment; write read: ${path} under a table when it can`,
      );
      continue;
    }
    if (waiting !== undefined) {
      say(desk, `${path} is there now, and the sheet reads it`);
      continue;
    }
    taken.add(table);
    const shown = isRead ? reply?.tables.find(({ source }) => source === path)?.name : table;
    desk.state.set({ station: "tables", table: shown, stage: 0 });
    if (replaces) say(desk, `${path} was replaced; undo brings the old one back`);
  }
}

/** Where the open sheet names a file of this name that it does not have. */
async function placeOf(desk: Desk, name: string): Promise<string | undefined> {
  const { text, files } = desk.state.get();
  const texts = new Map<string, Uint8Array>();
  for (const [path, hash] of files) {
    const bytes = /\.ya?ml$|\.still\.json$/i.test(path) ? await desk.bytes(hash) : undefined;
    if (bytes) texts.set(path, bytes);
  }
  return missingPlace(text, files.keys(), (path) => texts.get(path), name);
}

/** A path beside one that is taken: `calls-2.csv`. */
function freePath(path: string, files: ReadonlyMap<string, unknown>): string {
  const dot = path.lastIndexOf(".");
  let free = path;
  for (let n = 2; files.has(free); n++) free = `${path.slice(0, dot)}-${n}${path.slice(dot)}`;
  return free;
}

/** Rows pasted as text become a file of the report. */
export async function pasteTable(desk: Desk, pasted: string): Promise<boolean> {
  if (!/[,;\t]/.test(pasted.split("\n")[0] ?? "") || !pasted.includes("\n")) return false;
  const { files } = desk.state.get();
  const name = freePath("pasted.csv", files);
  await addTables(desk, [{ name, bytes: new TextEncoder().encode(pasted) }]);
  return true;
}

/** Files that the sheet can speak of: a logo, pictures of rows, a house style, a sheet whose tables it uses. */
async function addBeside(desk: Desk, contents: readonly Loose[]) {
  const files = await Promise.all(
    contents.map(async ({ name, bytes }) => ({ path: name, hash: await desk.keepBytes(bytes) })),
  );
  desk.edit([], files);
  say(desk, `${contents.map(({ name }) => name).join(", ")}: beside the sheet, which can name it now`);
}

/** Opens what holds a whole report; one that cannot be opened is said, and the report in hand stays. */
async function openArchive(desk: Desk, archive: File) {
  try {
    await (/\.zip$/i.test(archive.name) ? openZip : openDashboard)(desk, archive);
  } catch (fault) {
    say(desk, `${archive.name} was not opened: ${faultWords(fault)}`);
  }
}

/** A dashboard that was written: its sheet and its tables as packed make a report again. */
async function openDashboard(desk: Desk, file: File) {
  const compiler = await desk.builder.ready();
  const again = await compiler.reopened(await file.text(), file.name.replace(/\.html?$/i, ""));
  if (again === "no dashboard")
    return say(desk, `${file.name} was not opened: it is no dashboard of this workbench, or not a whole one`);
  if (again === "no sheet")
    return say(
      desk,
      `${file.name} was not opened: it was written without its sheet; style: {sheet: keep} lets it go along`,
    );
  await desk.openFiles(again.project);
  desk.state.set({ station: "pages", dialog: undefined });
  say(desk, `${file.name} was opened as a report again: ${again.notes.join("; ")}`);
}

async function openZip(desk: Desk, file: File) {
  const opened = openProject(new Uint8Array(await file.arrayBuffer()));
  if (!opened.ok) return say(desk, `${file.name} was not opened: ${opened.problem}`);
  await desk.openFiles(opened.project);
  desk.state.set({ station: "pages", dialog: undefined });
  say(desk, `${file.name} was opened as a report of its own`);
}
