import { decodeFile } from "../read/decode";
import type { Sheet } from "../sheet/read-sheet";
import { readWholeSheet } from "../sheet/used-sheets";
import type { CompileInput } from "./compile";
import { pathsOf } from "./sources";

/**
 * Reads a sheet, and decodes those of its files that can only be read in steps that wait for one
 * another. Compiling itself never waits; it takes the sheet as it was read here.
 */
export async function prepareFiles({
  text,
  readFile,
  listFiles,
  progress,
}: Pick<CompileInput, "text" | "readFile" | "listFiles" | "progress">): Promise<Sheet> {
  const sheet = readWholeSheet(text, readFile);
  const paths = [...sheet.tables.values()].flatMap(({ read }) =>
    read === undefined ? [] : pathsOf(read, listFiles?.() ?? []),
  );
  for (const path of new Set(paths)) {
    const bytes = readFile(path);
    if (!bytes) continue;
    progress?.(`reading ${path}`, 0);
    await decodeFile(path, bytes);
  }
  return sheet;
}
