import { inflateSync, zipSync } from "fflate";
import { type ArchiveEntry, type ArchiveProblem, crc32, readDirectory } from "./directory";

/** A report as it is worked on: its sheet and the files beside it, as they came. */
export interface ProjectFiles {
  /** The sheet's file name, `NAME.still.yaml`. */
  sheetName: string;
  text: string;
  /** Bytes by path beside the sheet. */
  files: ReadonlyMap<string, Uint8Array>;
}

/** The earliest date that a zip can hold: no clock goes into a file. */
export const NO_DATE = new Date(1980, 0, 1);

/** One project as a zip, `NAME.still.zip`. The same project gives the same bytes. */
export function packProject({ sheetName, text, files }: ProjectFiles): Uint8Array {
  const entries: Record<string, Uint8Array> = { [sheetName]: new TextEncoder().encode(text) };
  for (const path of [...files.keys()].sort()) entries[path] = files.get(path) as Uint8Array;
  return zipSync(entries, { level: 6, mtime: NO_DATE });
}

export type Opened = { ok: true; project: ProjectFiles } | { ok: false; problem: string };

/** Opens a project's zip, or says in words why it is not taken. Nothing of a refused zip is used. */
export function openProject(bytes: Uint8Array): Opened {
  const directory = readDirectory(bytes);
  if (!directory.ok) return directory;
  const sheets = directory.entries.filter(({ path }) => /^[^/]+\.still\.(?:yaml|json)$/.test(path));
  if (sheets.length !== 1)
    return {
      ok: false,
      problem:
        sheets.length === 0
          ? "this zip holds no sheet: a file NAME.still.yaml is expected in it"
          : "this zip holds several sheets; one is expected",
    };
  const sheet = sheets[0] as ArchiveEntry;
  const files = new Map<string, Uint8Array>();
  let text = "";
  for (const entry of directory.entries) {
    const content = contentOf(bytes, entry);
    if ("problem" in content) return { ok: false, problem: content.problem };
    if (entry !== sheet) {
      files.set(entry.path, content.bytes);
      continue;
    }
    try {
      text = new TextDecoder("utf-8", { fatal: true }).decode(content.bytes);
    } catch {
      return { ok: false, problem: `${entry.path} is no text in UTF-8` };
    }
  }
  return { ok: true, project: { sheetName: sheet.path, text, files } };
}

function contentOf(bytes: Uint8Array, entry: ArchiveEntry): { bytes: Uint8Array } | ArchiveProblem {
  const damaged = {
    ok: false,
    problem: `${entry.path} is damaged: what is in the zip is not what its directory says`,
  } as const;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (entry.offset + 30 > bytes.length || view.getUint32(entry.offset, true) !== 0x04034b50) return damaged;
  const start = entry.offset + 30 + view.getUint16(entry.offset + 26, true) + view.getUint16(entry.offset + 28, true);
  const packed = bytes.subarray(start, start + entry.packedSize);
  if (packed.length !== entry.packedSize) return damaged;
  let content: Uint8Array;
  try {
    // The room is the size that the directory promised: a lie in it cannot fill the memory.
    content = entry.method === 0 ? packed.slice() : inflateSync(packed, { out: new Uint8Array(entry.size) });
  } catch {
    return damaged;
  }
  return content.length === entry.size && crc32(content) === entry.check ? { bytes: content } : damaged;
}
