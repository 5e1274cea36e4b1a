import { spawn } from "node:child_process";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { endedByMemory, engineLimit, MEMORY, memoryLimit, overMemoryMessage } from "../memory/limit";

/**
 * The terminal's own process. All work is done in another, which is ended by its watch, or by the
 * system, when it takes too much memory; that is said here, as a finding like any other.
 */
const limit = memoryLimit(MEMORY.terminal);
const work = join(dirname(fileURLToPath(import.meta.url)), "work.mjs");
const asked = process.argv.slice(2);
const child = spawn(process.execPath, [engineLimit(limit), work, ...asked], {
  stdio: "inherit",
  env: { ...process.env, STILL_MEMORY_BYTES: String(limit) },
});
for (const signal of ["SIGINT", "SIGTERM"] as const) process.on(signal, () => child.kill(signal));
child.on("exit", (code, signal) => {
  if (!endedByMemory(signal)) process.exit(code ?? 1);
  const file = asked.find((word) => word.includes(".still.")) ?? "";
  const finding = {
    file,
    line: 1,
    column: 1,
    severity: "error",
    code: "too-much-memory",
    message: overMemoryMessage(limit),
  };
  if (asked.includes("--json")) process.stdout.write(`${JSON.stringify([finding], null, 2)}\n`);
  else process.stderr.write(`${file}:1:1 error ${finding.code}: ${finding.message}\n`);
  process.exit(1);
});
