import { existsSync, readdirSync, readFileSync, realpathSync, statSync } from "node:fs";
import { dirname, join, resolve, sep } from "node:path";
import type { CompileInput } from "../core/compile/compile";

export const SHEET_ENDING = /\.still\.(yaml|yml|json)$/;

/** Folders below the sheet's own are looked through for patterns this deep. */
const DEEPEST = 4;

/** Says why a command was used wrongly, for those who call it. */
export class WrongUse extends Error {}

/** A sheet on disk, with all that it may read. */
export interface SheetOnDisk extends Pick<CompileInput, "text" | "fileName" | "readFile" | "listFiles"> {
  /** Real paths of the files that were read, the sheet among them. */
  taken: Set<string>;
}

/** Files are read from a folder and below, also where a link points outside; nothing for others. */
function readWithin(folder: string, path: string): { real: string; bytes: Uint8Array } | undefined {
  const whole = join(folder, path);
  if (!existsSync(whole)) return undefined;
  const real = realpathSync(whole);
  if (!real.startsWith(folder + sep) || !statSync(real).isFile()) return undefined;
  return { real, bytes: readFileSync(real) };
}

function listWithin(folder: string, below = "", depth = 0): string[] {
  return readdirSync(join(folder, below), { withFileTypes: true }).flatMap((entry) => {
    const path = below === "" ? entry.name : `${below}/${entry.name}`;
    if (!entry.isDirectory()) return [path];
    const isOurs = depth < DEEPEST && !entry.name.startsWith(".") && entry.name !== "node_modules";
    return isOurs ? listWithin(folder, path, depth + 1) : [];
  });
}

/**
 * Opens a sheet. Its files are looked for beside it and below, then in the folders of `also`. Throws
 * {@link WrongUse} where there is no such sheet or folder.
 */
export function openSheet(path: string, also: readonly string[] = []): SheetOnDisk {
  if (!existsSync(path) || !statSync(path).isFile()) throw new WrongUse(`there is no sheet ${path}`);
  if (!SHEET_ENDING.test(path))
    throw new WrongUse(`${path} is no sheet: sheets are called NAME.still.yaml or NAME.still.json`);
  const folders = [dirname(resolve(path)), ...also].map((folder) => {
    if (!existsSync(folder) || !statSync(folder).isDirectory())
      throw new WrongUse(`--also ${folder}: there is no such folder`);
    return realpathSync(folder);
  });
  const taken = new Set([realpathSync(path)]);
  const known = new Map<string, Uint8Array | undefined>();
  return {
    text: readFileSync(path, "utf8"),
    fileName: path,
    taken,
    readFile: (wanted) => {
      if (!known.has(wanted)) {
        const found = folders.map((folder) => readWithin(folder, wanted)).find((one) => one !== undefined);
        if (found) taken.add(found.real);
        known.set(wanted, found?.bytes);
      }
      return known.get(wanted);
    },
    listFiles: () => [...new Set(folders.flatMap((folder) => listWithin(folder)))],
  };
}
