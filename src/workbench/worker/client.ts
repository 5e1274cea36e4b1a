import { type Remote, wrap } from "comlink";
import type { CompileWorker } from "./compile-worker";

/** Starts the worker in which sheets are compiled. */
export function startWorker(): Remote<CompileWorker> {
  const worker = new Worker(new URL("./compile-worker.ts", import.meta.url), { type: "module" });
  return wrap<CompileWorker>(worker);
}
