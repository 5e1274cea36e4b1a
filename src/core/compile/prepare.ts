import { decodeFile } from "../read/decode";
import { readSheet } from "../sheet/read-sheet";
import type { CompileInput } from "./compile";
import { pathsOf } from "./sources";

/** Decodes the files of a sheet that can only be read in steps that wait for one another. Compiling itself never waits. */
export async function prepareFiles({
  text,
  readFile,
  listFiles,
  progress,
}: Pick<CompileInput, "text" | "readFile" | "listFiles" | "progress">): Promise<void> {
  const paths = [...readSheet(text).tables.values()].flatMap(({ read }) =>
    read === undefined ? [] : pathsOf(read, listFiles?.() ?? []),
  );
  for (const path of new Set(paths)) {
    const bytes = readFile(path);
    if (!bytes) continue;
    progress?.(`reading ${path}`, 0);
    await decodeFile(path, bytes);
  }
}
