import { existsSync, readFileSync } from "node:fs";
import { type Compiled, compile } from "../core/compile/compile";
import { prepareFiles } from "../core/compile/prepare";
import { writeCount } from "../core/formula/format";
import { shownTable } from "../core/plan/shown-table";
import { readDashboardFile } from "../core/project/dashboard-file";
import { intakeChanges } from "../core/read/intake-check";
import type { BuildOptions } from "./build";
import { openSheet, WrongUse } from "./files";
import { isRefused, type Told, tell } from "./report";

export interface CheckOptions extends Omit<BuildOptions, "out"> {
  against?: string;
}

/** `still check`: what is wrong with sheets and their tables, and what changed since a file that was sent. */
export async function check(paths: readonly string[], options: CheckOptions): Promise<boolean> {
  if (options.against !== undefined && paths.length > 1)
    throw new WrongUse("--against compares one sheet with the file that was made of it");
  const told: Told[] = [];
  for (const path of paths) {
    const disk = openSheet(path, options.also);
    const compiled = compile({ ...disk, sheet: await prepareFiles(disk) });
    const findings = [...compiled.findings];
    if (options.against !== undefined) findings.push(...changesSince(options.against, compiled));
    told.push({ path, text: disk.text, findings });
  }
  tell(told, options);
  return !told.some((one) => isRefused(one, options));
}

/** A packed table by the words of the sheet: groups have the name of their piece, a finished part that of its table. */
const nameOf = (packed: string): string => {
  const [name, part] = packed.split("/") as [string, string?];
  return part?.startsWith("groups") ? `${name} (groups)` : name;
};

/** What the tables of a file that was sent had otherwise: as advice, grave ones as warnings. */
function changesSince(path: string, { tables: now, ok }: Pick<Compiled, "tables" | "ok">): Told["findings"] {
  if (!existsSync(path)) throw new WrongUse(`--against ${path}: there is no such file`);
  const before = readDashboardFile(readFileSync(path, "utf8"));
  if (!before) throw new WrongUse(`--against ${path}: that is no dashboard of this program`);
  const changes: Told["findings"][number][] = [];
  const say = (message: string, grave: boolean) =>
    changes.push({ code: "changed", severity: grave ? "warning" : "advice", message });
  // Outlines under maps follow from the rows; they are nobody's data.
  const isOwn = (name: string) => shownTable(name) === name;
  // Where something is wrong, what it would have packed is not there yet.
  for (const name of ok ? before.tables.keys() : [])
    if (!now.has(name) && isOwn(name)) say(`${nameOf(name)} was in ${path} and is not packed any more`, true);
  for (const [name, table] of now) {
    if (!isOwn(name)) continue;
    const old = before.tables.get(name);
    if (!old) say(`${nameOf(name)} was not in ${path}`, false);
    else {
      const changed = intakeChanges(old, table);
      const rows = `${nameOf(name)} has ${writeCount(table.rowCount)} rows, ${writeCount(old.rowCount)} in ${path}`;
      say(changed.length ? rows : `${rows}; its columns and values are alike`, false);
      for (const { says, grave } of changed) say(`${nameOf(name)} since ${path}: ${says}`, grave);
    }
  }
  return changes;
}
