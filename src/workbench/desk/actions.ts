import type { Suggestion } from "../../core/advice/rules";
import { writeSuggestions } from "../../core/advice/write-suggestions";
import { faultWords } from "../../core/finding/fault-words";
import { boundMessage, LIMITS } from "../../core/finding/limits";
import { openProject, packProject } from "../../core/project/archive";
import { pathProblem } from "../../core/project/directory";
import { writeValue } from "../../core/sheet/edit/edit";
import { shortestEdit } from "../../core/sheet/edit/shortest-edit";
import { addTable } from "../../core/sheet/edit/step-edit";
import type { ProjectRow, VersionRow } from "../store/database";
import type { Desk } from "./desk";
import { checkIntake } from "./intake";

/** What an author can do beyond writing: take tables in, hand files out, go from report to report. */

function say(desk: Desk, notice: string) {
  desk.state.set({ notice });
}

function download(bytes: BlobPart, type: string, name: string) {
  const url = URL.createObjectURL(new Blob([bytes], { type }));
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

const baseName = (sheetName: string) => sheetName.replace(/\.still\.(?:yaml|json)$/, "");

/** Writes the dashboard file, if the sheet as it stands is sound. */
export async function writeDashboard(desk: Desk): Promise<void> {
  const { reply, replyText, text, sheetName } = desk.state.get();
  if (!reply || replyText !== text) return say(desk, "still compiling; write the file when it is done");
  if (!reply.ok || reply.update === undefined) return say(desk, "nothing is written while there is something to mend");
  const written = await desk.file();
  if (!written)
    return say(
      desk,
      desk.builder.call
        ? "nothing is written while there is something to mend"
        : "the compiler is starting again; write the file in a moment",
    );
  download(written.file, "text/html", `${baseName(sheetName)}.html`);
  await desk.addVersion("written as a file");
}

/** Writes the files of a sheet with editions, one a value, as one zip. */
export async function writeEditions(desk: Desk): Promise<void> {
  const { reply, replyText, text, sheetName } = desk.state.get();
  if (!reply?.ok || replyText !== text) return say(desk, "nothing is written while there is something to mend");
  const answer = await desk.builder.call?.editions();
  if (!answer) return say(desk, "the compiler is starting again; write the files in a moment");
  if ("problem" in answer) return say(desk, `the editions were not written: ${answer.problem}`);
  download(answer.zip as BlobPart, "application/zip", `${baseName(sheetName)}-editions.zip`);
  say(desk, `${answer.count} files are in the zip`);
  await desk.addVersion("written as editions");
}

/** Saves the report with its original files as one zip. */
export async function saveZip(desk: Desk): Promise<void> {
  const project = await desk.projects.whole(desk.row(), desk.memory);
  download(packProject(project) as BlobPart, "application/zip", `${baseName(project.sheetName)}.still.zip`);
}

/** Saves one file of the report as it came in. */
export async function saveFile(desk: Desk, path: string, hash: string): Promise<void> {
  const bytes = await desk.bytes(hash);
  if (bytes) download(bytes as BlobPart, "application/octet-stream", path.split("/").at(-1) ?? path);
  else say(desk, `the browser has lost the bytes of ${path}; add the file again`);
}

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

const isTable = (name: string) => TABLE_ENDINGS.some((ending) => name.toLowerCase().endsWith(ending));
const isArchive = (name: string) => /\.(?:zip|html?)$/i.test(name);

/** Files that stand beside a sheet without being tables: pictures, house styles and sheets that it uses. */
const isBeside = (name: string) =>
  /\.(?:png|jpe?g|gif|webp|avif|svg)$/i.test(name) || /\.(?:style|still)\.ya?ml$/i.test(name);

/** A file name that stays beside the sheet. */
function safeName(name: string): string {
  const plain = (name.split(/[\\/]/).at(-1) ?? "").trim();
  return pathProblem(plain) === undefined ? plain : "table.csv";
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
 * Takes files in: tables go into the open report (or a new one), a zip is opened as a report.
 * Whatever cannot be taken is said, file by file.
 */
export async function takeFiles(desk: Desk, files: readonly File[], asNew = false): Promise<void> {
  const reasons: [string, string][] = [];
  const archive = files.find(({ name }) => isArchive(name));
  const contents: { name: string; bytes: Uint8Array }[] = [];
  const names = new Map<string, string>();
  for (const file of files) {
    if (file === archive) continue;
    if (archive) reasons.push([file.name, `${archive.name} is opened as a report of its own, alone`]);
    else if (!isTable(file.name) && !isBeside(file.name))
      reasons.push([
        file.name,
        `tables are ${TABLE_ENDINGS.join(" ")} files, reports .still.zip or a dashboard's .html; pictures, .style.yaml and .still.yaml stand beside the sheet`,
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
  else if (tables.length && asNew) await beginReport(desk, tables);
  else if (tables.length) await addTables(desk, tables);
  if (beside.length) await addBeside(desk, beside);
  else if (reasons.length === 0 && !archive && tables.length === 0) say(desk, "no file came in");
  if (reasons.length) say(desk, leftOut(reasons));
}

async function beginReport(desk: Desk, contents: readonly { name: string; bytes: Uint8Array }[]) {
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

async function addTables(desk: Desk, contents: readonly { name: string; bytes: Uint8Array }[]) {
  const taken = new Set(desk.state.get().reply?.tables.map((one) => one.name));
  for (const { name: given, bytes } of contents) {
    const hash = await desk.keepBytes(bytes);
    const choice = desk.state.get().files.has(given) ? await checkIntake(desk, given, hash, bytes) : "replace";
    if (choice === "keep") {
      say(desk, `${given} stayed as it was`);
      continue;
    }
    const { text, files, reply } = desk.state.get();
    const name = choice === "beside" ? freePath(given, files) : given;
    const replaces = files.has(name);
    if (replaces && files.get(name) === hash) {
      say(desk, `${name} is the same as before`);
      continue;
    }
    if (replaces) await desk.addVersion(`before ${name} was replaced`);
    const table = tableNameFor(name, taken);
    const isRead = reply?.tables.some(({ source }) => source === name);
    const edits = isRead ? [] : addTable(text, table, { read: name });
    desk.edit(edits ?? [], [{ path: name, hash }]);
    if (!edits) {
      say(
        desk,
        `${name} is beside the sheet, but the sheet cannot be read at the moment; write read: ${name} under a table when it can`,
      );
      continue;
    }
    taken.add(table);
    const shown = isRead ? reply?.tables.find(({ source }) => source === name)?.name : table;
    desk.state.set({ station: "tables", table: shown, stage: 0 });
    if (replaces) say(desk, `${name} was replaced; undo brings the old one back`);
  }
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
async function addBeside(desk: Desk, contents: readonly { name: string; bytes: Uint8Array }[]) {
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

/** A copy of the report under its own name, for trying something or when another tab has the first. */
export async function copyReport(desk: Desk): Promise<void> {
  const row = desk.row();
  const sheetName = `${baseName(row.sheetName)}-copy.still.yaml`;
  const copy: ProjectRow = {
    ...row,
    id: crypto.randomUUID?.() ?? Math.random().toString(36).slice(2),
    sheetName,
    revision: 0,
  };
  await desk.projects.save(copy);
  await desk.open({ ...copy, revision: 1 });
  say(desk, "this is a copy; the first report stays as it was");
}

/** Goes back to a version; the state until now is kept, and one undo away. */
export async function goBack(desk: Desk, version: VersionRow): Promise<void> {
  await desk.addVersion("before going back");
  desk.replaceAll(version.text, new Map(version.files));
  desk.state.set({ dialog: undefined });
  say(desk, "an earlier state is back; undo returns to the one before");
}

/** Turns to the next finding behind the cursor, round and round. */
export function nextFinding(desk: Desk): void {
  const { reply } = desk.state.get();
  const placed = (reply?.findings ?? [])
    .filter(({ span, file }) => span && !file)
    .sort((a, b) => (a.span?.start ?? 0) - (b.span?.start ?? 0));
  const at = desk.editor?.state.selection.main.from ?? -1;
  const next = placed.find(({ span }) => (span?.start ?? 0) > at) ?? placed[0];
  if (next?.span) desk.show(next.span.start, next.span.end, true);
  else say(desk, "no findings");
}

/** Writes suggested charts into the sheet, as one step; answers the name of the first. */
export function takeSuggestions(desk: Desk, suggestions: readonly Suggestion[], table: string): string | undefined {
  const before = desk.state.get().text;
  const { text, names } = writeSuggestions(before, suggestions, table);
  desk.edit([shortestEdit(before, text)]);
  desk.state.set({ begun: undefined });
  return names[0];
}
