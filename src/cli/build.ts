import { existsSync, mkdirSync, readFileSync, realpathSync, statSync, writeFileSync } from "node:fs";
import { basename, dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";
import { compile } from "../core/compile/compile";
import { prepareFiles } from "../core/compile/prepare";
import { buildDashboard } from "../core/dashboard/build";
import { buildEditions } from "../core/dashboard/editions";
import { scriptFor, type ViewerKit } from "../core/dashboard/parts";
import type { Sheet } from "../core/sheet/read-sheet";
import { openSheet, SHEET_ENDING, type SheetOnDisk, WrongUse } from "./files";
import { isRefused, kilobytes, type Telling, type Told, tell } from "./report";

export interface BuildOptions extends Telling {
  out?: string;
  also?: string[];
}

/** The viewer that every dashboard gets its parts of. */
export function viewerKit(): ViewerKit {
  const file = join(dirname(fileURLToPath(import.meta.url)), "viewer.json");
  return JSON.parse(readFileSync(file, "utf8")) as ViewerKit;
}

const nameOf = (path: string) => basename(path).replace(SHEET_ENDING, "");

/** Nothing is written where a folder, a sheet or a file stands that this report is made of. */
function refuseOut(out: string, taken: ReadonlySet<string>) {
  if (SHEET_ENDING.test(out))
    throw new WrongUse(`-o ${out}: that is the name of a sheet; a dashboard is written as NAME.html`);
  const there = statSync(out, { throwIfNoEntry: false });
  if (there?.isDirectory())
    throw new WrongUse(`-o ${out}: that is a folder; say the file in it, such as ${join(out, "dashboard.html")}`);
  const isTaken = [...taken].some((file) => {
    const other = statSync(file, { throwIfNoEntry: false });
    return there && other && there.dev === other.dev && there.ino === other.ino;
  });
  if (isTaken)
    throw new WrongUse(`-o ${out}: this report is made of that file, which stays as it is; say another name`);
}

/** Builds one sheet into its file, or its editions into a folder; answers what was found. */
async function buildOne(
  path: string,
  disk: SheetOnDisk,
  out: string | undefined,
  options: BuildOptions,
): Promise<Told> {
  const sheet = await prepareFiles(disk);
  const script = { viewer: scriptFor(viewerKit()) };
  if (sheet.editions)
    return buildFolder(path, { ...disk, sheet }, out ?? join(dirname(path), nameOf(path)), script, options);
  const file = out ?? join(dirname(path), `${nameOf(path)}.html`);
  refuseOut(file, disk.taken);
  const built = buildDashboard({ ...disk, sheet }, script);
  const told = { path, text: disk.text, findings: built.findings };
  if (isRefused(told, options) || built.html === undefined) return told;
  refuseOut(file, disk.taken);
  mkdirSync(dirname(resolve(file)), { recursive: true });
  writeFileSync(file, built.html);
  const columns = built.packing.filter(({ kind, table }) => kind !== "picture" && table !== "sheet").length;
  process.stderr.write(
    `${file}: ${kilobytes(Buffer.byteLength(built.html))}${columns ? `, ${columns} columns packed` : ""}\n`,
  );
  if (built.plan.style.pictures === "outside")
    process.stderr.write("pictures in tables are fetched from their addresses whenever somebody reads the file\n");
  return told;
}

/** Writes the editions of a sheet into a folder, one after the other. */
function buildFolder(
  path: string,
  { sheet, ...disk }: SheetOnDisk & { sheet: Sheet },
  folder: string,
  script: Parameters<typeof buildEditions>[2],
  options: BuildOptions,
): Told {
  if (existsSync(folder) && !statSync(folder).isDirectory())
    throw new WrongUse(`-o ${folder}: this sheet has editions, which are written into a folder, and that is a file`);
  const compiled = compile({ ...disk, sheet });
  const told = { path, text: disk.text, findings: [...compiled.findings] };
  if (isRefused(told, options)) return told;
  mkdirSync(folder, { recursive: true });
  const inputs = realpathSync(folder);
  for (const { file, html, findings, at, of } of buildEditions(disk, compiled, script)) {
    if (html === undefined) {
      told.findings.push(...findings);
      continue;
    }
    const whole = join(inputs, file);
    refuseOut(whole, disk.taken);
    writeFileSync(whole, html);
    process.stderr.write(`${at} of ${of}: ${join(folder, file)}, ${kilobytes(Buffer.byteLength(html))}\n`);
  }
  return told;
}

/** `still build`: every sheet into its own file beside it, or one into the file that `-o` names. */
export async function build(paths: readonly string[], options: BuildOptions): Promise<boolean> {
  if (options.out !== undefined && paths.length > 1)
    throw new WrongUse("-o names one file, and here are several sheets; each is written beside itself without it");
  const told: Told[] = [];
  for (const path of paths) told.push(await buildOne(path, openSheet(path, options.also), options.out, options));
  tell(told, options);
  return !told.some((one) => isRefused(one, options));
}
