import { Command } from "commander";
import { publishedSchema } from "../core/sheet/reference";
import { watchMemory } from "../memory/watch";
import { type BuildOptions, build } from "./build";
import { type CheckOptions, check } from "./check";
import { WrongUse } from "./files";
import { type WatchOptions, watch } from "./watch";

const WRONG_USE = 2;

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
    EADDRINUSE: "that port is taken; say another with --port",
  };
  if (code !== undefined && words[code]) return `${path ?? "the file"}: ${words[code]}`;
  return "this sheet meets a fault of ours, and nothing was written; STILL_TRACE=1 shows where it lies";
}

// The process around this one says how much memory may be taken, and ends it in words.
watchMemory(Number(process.env.STILL_MEMORY_BYTES) || Number.POSITIVE_INFINITY);

// Who reads only the beginning of what is printed, through a pipe, has what they want.
process.stdout.on("error", (fault: NodeJS.ErrnoException) => {
  if (fault.code !== "EPIPE") throw fault;
  process.exit(0);
});

const program = new Command("still").description("Tables and a sheet in, one self-contained HTML dashboard out.");
program.exitOverride((problem) => process.exit(problem.exitCode === 0 ? 0 : WRONG_USE));
const ALSO = "a folder in which files are looked for after the sheet's own; may be said several times";
const gathered = (folder: string, before: string[]) => [...before, folder];
const telling = (command: Command) =>
  command
    .option("--json", "findings as JSON on standard output")
    .option("--strict", "warnings count as errors")
    .option("--also <folder>", ALSO, gathered, []);
telling(program.command("build").description("compiles sheets into one HTML file each").argument("<sheets...>"))
  .option("-o, --out <file>", "the file to write, or the folder of a sheet with editions")
  .action(async (paths: string[], options: BuildOptions) => {
    if (!(await build(paths, options))) process.exit(1);
  });
telling(
  program.command("check").description("reads sheets and their tables and says what is wrong").argument("<sheets...>"),
)
  .option("--against <file>", "says what changed since a dashboard that was written before")
  .action(async (paths: string[], options: CheckOptions) => {
    if (!(await check(paths, options))) process.exit(1);
  });
program
  .command("watch")
  .description("builds at every save and serves the dashboard on this machine")
  .argument("<sheet>")
  .option("-p, --port <number>", "the port, 4100 if unsaid")
  .option("--also <folder>", ALSO, gathered, [])
  .action((path: string, options: WatchOptions) => watch(path, options));
program
  .command("schema")
  .description("prints the JSON Schema of sheets, by which editors complete and check them")
  .action(() => {
    process.stdout.write(`${JSON.stringify(publishedSchema(), null, 2)}\n`);
  });

try {
  await program.parseAsync();
} catch (problem) {
  if (problem instanceof WrongUse) {
    process.stderr.write(`${problem.message}\n`);
    process.exit(WRONG_USE);
  }
  process.stderr.write(`still: ${faultText(problem)}\n`);
  if (process.env.STILL_TRACE) console.error(problem);
  process.exit(1);
}
