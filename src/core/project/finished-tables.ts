import { compile } from "../compile/compile";
import type { Sheet } from "../sheet/read-sheet";
import { readSheet } from "../sheet/read-sheet";
import type { DashboardFile } from "./dashboard-file";
import { packedTable } from "./restored-ties";

/** Tables with which a sheet cannot be compiled over some files. */
function brokenTables(text: string, files: ReadonlyMap<string, Uint8Array>): Set<string> {
  const { findings } = compile({
    text,
    fileName: "reopened",
    readFile: (path) => files.get(path),
    listFiles: () => [...files.keys()],
  });
  return new Set(
    findings.flatMap(({ piece, severity }) =>
      severity === "error" && piece?.startsWith("tables.") ? [piece.slice("tables.".length)] : [],
    ),
  );
}

/** A table that is made of another one, all of whose steps were done before it was packed. */
const isFinished = (file: DashboardFile, name: string, sheet: Sheet): boolean =>
  sheet.tables.get(name)?.from !== undefined &&
  packedTable(file, name) !== undefined &&
  file.plan.tables.find((table) => table.name === name)?.steps === undefined;

/**
 * Tables that cannot be made again of what was packed of those that they were made of, and that were packed
 * themselves: columns that only their steps needed are not in the file.
 */
export function onlyReadAgain(text: string, files: ReadonlyMap<string, Uint8Array>, file: DashboardFile): string[] {
  const sheet = readSheet(text);
  const candidates = [...sheet.tables.keys()].filter((name) => isFinished(file, name, sheet));
  if (candidates.length === 0) return [];
  const broken = brokenTables(text, files);
  // One that is made of a table that cannot be read is as broken as that.
  const isBroken = (name: string, above: readonly string[] = []): boolean => {
    const from = sheet.tables.get(name)?.from;
    return broken.has(name) || (typeof from === "string" && !above.includes(from) && isBroken(from, [...above, name]));
  };
  return candidates.filter((name) => isBroken(name));
}
