import { join } from "node:path";
import { endedByMemory, engineLimit, MEMORY, memoryLimit } from "../memory/limit";
import type { BuildAnswer, BuildOrder } from "./build-process";
import type { Limits } from "./limits";
import type { BuildJob } from "./read-request";

export type RunResult =
  | { type: "done"; answer: BuildAnswer }
  | { type: "late" }
  | { type: "memory"; limit: number }
  | { type: "failed"; reason: string }
  | { type: "gone" };

// Asked for while running: the site's bundler would otherwise take the process's file for one of its own.
const { fork } = process.getBuiltinModule("node:child_process");

/** The bundled build and viewer, beside the built site. */
const built = () => join(/* turbopackIgnore: true */ process.cwd(), ".build");

/**
 * Builds in a process of its own, which is ended when its time or memory is used up, or nobody waits for it any
 * more.
 */
export function runBuild(job: BuildJob, { seconds, memory }: Limits, signal?: AbortSignal): Promise<RunResult> {
  return new Promise((settle) => {
    const limit = memoryLimit({ most: memory, share: MEMORY.server.share });
    const child = fork(join(built(), "build-process.mjs"), [], {
      serialization: "advanced",
      execArgv: [engineLimit(limit)],
      stdio: ["ignore", "ignore", "ignore", "ipc"],
    });
    const end = (result: RunResult) => {
      clearTimeout(clock);
      signal?.removeEventListener("abort", gone);
      child.kill("SIGKILL");
      settle(result);
    };
    const gone = () => end({ type: "gone" });
    const clock = setTimeout(() => end({ type: "late" }), seconds * 1000);
    signal?.addEventListener("abort", gone);
    if (signal?.aborted) return gone();
    child.once("message", (answer) => end({ type: "done", answer: answer as BuildAnswer }));
    child.once("error", (fault: Error & { code?: string }) =>
      end({ type: "failed", reason: fault.code ?? fault.name }),
    );
    child.once("exit", (code, killed) =>
      end(endedByMemory(killed) ? { type: "memory", limit } : { type: "failed", reason: `exit ${killed ?? code}` }),
    );
    child.send({ job, viewerFile: join(built(), "viewer.json"), memory: limit } satisfies BuildOrder);
  });
}
