import { existsSync, mkdirSync, readdirSync, readFileSync, realpathSync, statSync, writeFileSync } from "node:fs";
import { basename, dirname, join, resolve, sep } from "node:path";
import { fileURLToPath } from "node:url";
import { Command } from "commander";
import { type CompileInput, compile } from "../core/compile/compile";
import { prepareFiles } from "../core/compile/prepare";
import { type Built, buildDashboard } from "../core/dashboard/build";
import { scriptFor, type ViewerKit } from "../core/dashboard/parts";
import type { Finding } from "../core/finding/finding";
import { lineOf, placeOf } from "../core/finding/place";
import { watchMemory } from "../memory/watch";

const WRONG_USE = 2;
const SHEET_ENDING = /\.still\.(yaml|yml|json)$/;

interface Options {
  out?: string;
  json?: boolean;
  strict?: boolean;
}

function fail(message: string): never {
  process.stderr.write(`${message}\n`);
  process.exit(WRONG_USE);
}

function readSheetFile(path: string): { text: string; folder: string } {
  if (!existsSync(path) || !statSync(path).isFile()) fail(`there is no sheet ${path}`);
  if (!SHEET_ENDING.test(path)) fail(`${path} is no sheet: sheets are called NAME.still.yaml or NAME.still.json`);
  return { text: readFileSync(path, "utf8"), folder: realpathSync(dirname(resolve(path))) };
}

/** Folders below the sheet's own are looked through for patterns this deep. */
const DEEPEST = 4;

/** The file behind a path, whatever its names are. */
function fileBehind(path: string): string | undefined {
  const found = statSync(path, { throwIfNoEntry: false });
  return found && `${found.dev} ${found.ino}`;
}

/** Files are read from the sheet's folder and below, also where a link points outside; each once. `taken` learns which. */
function filesOf(folder: string, taken: Set<string | undefined>): Pick<CompileInput, "readFile" | "listFiles"> {
  const known = new Map<string, Uint8Array | undefined>();
  const read = (path: string) => {
    const whole = join(folder, path);
    if (!existsSync(whole)) return undefined;
    const real = realpathSync(whole);
    if (!real.startsWith(folder + sep) || !statSync(real).isFile()) return undefined;
    taken.add(fileBehind(real));
    return readFileSync(real);
  };
  const list = (below: string, depth: number): string[] =>
    readdirSync(join(folder, below), { withFileTypes: true }).flatMap((entry) => {
      const path = below === "" ? entry.name : `${below}/${entry.name}`;
      if (entry.isDirectory())
        return depth < DEEPEST && !entry.name.startsWith(".") && entry.name !== "node_modules"
          ? list(path, depth + 1)
          : [];
      return [path];
    });
  return {
    readFile: (path) => {
      if (!known.has(path)) known.set(path, read(path));
      return known.get(path);
    },
    listFiles: () => list("", 0),
  };
}

/** Says all findings; answers whether they keep the file from being written. */
function report(findings: readonly Finding[], path: string, text: string, options: Options): boolean {
  if (options.json) {
    const said = findings.map((finding) => {
      const { line, column } = placeOf(text, finding.span?.start ?? 0);
      return {
        file: finding.file ?? path,
        line,
        column,
        severity: finding.severity,
        code: finding.code,
        message: finding.message,
        ...(finding.fix ? { fix: finding.fix } : {}),
      };
    });
    process.stdout.write(`${JSON.stringify(said, null, 2)}\n`);
  } else for (const finding of findings) process.stderr.write(`${lineOf(finding, path, text)}\n`);
  return findings.some(({ severity }) => severity === "error" || (options.strict === true && severity === "warning"));
}

function viewerKit(): ViewerKit {
  const file = join(dirname(fileURLToPath(import.meta.url)), "viewer.json");
  return JSON.parse(readFileSync(file, "utf8")) as ViewerKit;
}

/** Nothing is written where a folder, a sheet or a file stands that this report is made of. */
function refuseOut(out: string, taken: ReadonlySet<string | undefined>) {
  if (SHEET_ENDING.test(out)) fail(`-o ${out}: that is the name of a sheet; a dashboard is written as NAME.html`);
  const there = statSync(out, { throwIfNoEntry: false });
  if (there?.isDirectory())
    fail(`-o ${out}: that is a folder; say the file in it, such as ${join(out, "dashboard.html")}`);
  if (there && taken.has(fileBehind(out)))
    fail(`-o ${out}: this report is made of that file, which stays as it is; say another name`);
}

const kilobytes = (bytes: number) =>
  bytes < 1_000_000 ? `${Math.round(bytes / 1000)} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;

async function build(path: string, options: Options) {
  const { text, folder } = readSheetFile(path);
  const out = options.out ?? join(dirname(path), `${basename(path).replace(SHEET_ENDING, "")}.html`);
  const taken = new Set([fileBehind(path)]);
  const input = { text, fileName: path, ...filesOf(folder, taken) };
  refuseOut(out, taken);
  const sheet = await prepareFiles(input);
  const built: Built = buildDashboard({ ...input, sheet }, { viewer: scriptFor(viewerKit()) });
  if (report(built.findings, path, text, options) || built.html === undefined) process.exit(1);
  refuseOut(out, taken);
  mkdirSync(dirname(resolve(out)), { recursive: true });
  writeFileSync(out, built.html);
  const rows = built.packing.length ? `, ${built.packing.length} columns packed` : "";
  process.stderr.write(`${out}: ${kilobytes(Buffer.byteLength(built.html))}${rows}\n`);
  if (built.plan.style.pictures === "outside")
    process.stderr.write("pictures in tables are fetched from their addresses whenever somebody reads the file\n");
}

async function check(path: string, options: Options) {
  const { text, folder } = readSheetFile(path);
  const input = { text, fileName: path, ...filesOf(folder, new Set()) };
  const compiled = compile({ ...input, sheet: await prepareFiles(input) });
  if (report(compiled.findings, path, text, options)) process.exit(1);
}

/** What to say of what was not foreseen: the system's refusals in words, and our own faults as such. */
function faultText(fault: unknown): string {
  const { code, path } = fault as NodeJS.ErrnoException;
  const words: Record<string, string> = {
    EACCES: "it may not be read or written by you",
    EPERM: "it may not be read or written by you",
    ENOSPC: "there is no room left",
    EROFS: "it lies where nothing can be written",
    ENOTDIR: "a part of its path is no folder",
    ENAMETOOLONG: "its name is too long",
    EMFILE: "too many files are open",
  };
  if (code !== undefined && words[code]) return `${path ?? "the file"}: ${words[code]}`;
  return "this sheet meets a fault of ours, and nothing was written; STILL_TRACE=1 shows where it lies";
}

// The process around this one says how much memory may be taken, and ends it in words.
watchMemory(Number(process.env.STILL_MEMORY_BYTES) || Number.POSITIVE_INFINITY);

const program = new Command("still").description("Tables and a sheet in, one self-contained HTML dashboard out.");
program.exitOverride((problem) => process.exit(problem.exitCode === 0 ? 0 : WRONG_USE));
for (const [name, says, act] of [
  ["build", "compiles a sheet into one HTML file", build],
  ["check", "reads a sheet and its tables and says what is wrong", check],
] as const) {
  const command = program
    .command(name)
    .description(says)
    .argument("<sheet>", "NAME.still.yaml")
    .option("--json", "findings as JSON on standard output")
    .option("--strict", "warnings count as errors");
  if (name === "build") command.option("-o, --out <file>", "the file to write");
  command.action(act);
}

try {
  await program.parseAsync();
} catch (problem) {
  process.stderr.write(`still: ${faultText(problem)}\n`);
  if (process.env.STILL_TRACE) console.error(problem);
  process.exit(1);
}
