import type { Suggestion } from "../../core/advice/rules";
import { writeSuggestions } from "../../core/advice/write-suggestions";
import { packProject } from "../../core/project/archive";
import { shortestEdit } from "../../core/sheet/edit/shortest-edit";
import type { ProjectRow, VersionRow } from "../store/database";
import type { Desk } from "./desk";
import { say } from "./notice";

/** What an author can do beyond writing: hand files out, go from version to version. */

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
