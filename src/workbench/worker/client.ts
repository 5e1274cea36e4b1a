import { type Remote, wrap } from "comlink";
import type { CompileWorker } from "./compile-worker";

export interface Progress {
  what: string;
  part: number;
  /** Rows read so far, while a file is read. */
  rows?: number;
}

/** A running compiler: the far side of the worker, and what becomes of it. */
export interface Compiler {
  call: Remote<CompileWorker>;
  /** Ends it at once, in the middle of whatever it does. */
  stop: () => void;
}

/**
 * Starts the worker in which sheets are compiled. `onDeath` is told once when it ends without having
 * been stopped: by an error, for want of memory, or because the browser took it away.
 */
export function startCompiler(onProgress: (progress: Progress) => void, onDeath: () => void): Compiler {
  const worker = new Worker(new URL("./compile-worker.ts", import.meta.url), { type: "module" });
  let over = false;
  const died = () => {
    if (over) return;
    over = true;
    worker.terminate();
    onDeath();
  };
  worker.addEventListener("error", died);
  worker.addEventListener("message", (event: MessageEvent<({ stillHarbor?: string } & Progress) | null>) => {
    if (event.data?.stillHarbor === "progress")
      onProgress({
        what: event.data.what,
        part: event.data.part,
        ...(event.data.rows === undefined ? {} : { rows: event.data.rows }),
      });
    // The worker holds the lock first; it comes free only when the worker is gone.
    if (event.data?.stillHarbor === "living") void navigator.locks.request(lock, died);
  });
  const lock = `still-harbor compiler ${Math.random().toString(36).slice(2)}`;
  // On plain http there are no locks; a worker that dies there without an error is found by its silence alone.
  if (navigator.locks) worker.postMessage({ stillHarbor: "live", lock });
  return {
    call: wrap<CompileWorker>(worker),
    stop() {
      over = true;
      worker.terminate();
    },
  };
}
