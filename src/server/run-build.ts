import { join } from "node:path";
import type { ThreadAnswer } from "./build-thread";
import type { Limits } from "./limits";
import type { BuildJob } from "./read-request";

export type RunResult = { type: "done"; answer: ThreadAnswer } | { type: "late" } | { type: "failed"; reason: string };

// Asked for while running: the site's bundler would otherwise take the thread's file for one of its own.
const { Worker } = process.getBuiltinModule("node:worker_threads");

/** The bundled thread and viewer, beside the built site. */
const built = () => join(/* turbopackIgnore: true */ process.cwd(), ".build");

/** Builds in a thread that is ended when its time or memory is used up. */
export function runBuild(job: BuildJob, { seconds }: Limits): Promise<RunResult> {
  return new Promise((settle) => {
    const worker = new Worker(join(built(), "build-thread.mjs"), { workerData: { job, viewerFile: join(built(), "viewer.js") }, resourceLimits: { maxOldGenerationSizeMb: 3000 } });
    const end = (result: RunResult) => {
      clearTimeout(clock);
      void worker.terminate();
      settle(result);
    };
    const clock = setTimeout(() => end({ type: "late" }), seconds * 1000);
    worker.once("message", (answer: ThreadAnswer) => end({ type: "done", answer }));
    worker.once("error", (fault: Error & { code?: string }) => end({ type: "failed", reason: fault.code ?? fault.name }));
    worker.once("exit", (code) => end({ type: "failed", reason: `exit ${code}` }));
  });
}
