import { Worker } from "node:worker_threads";
import { OVER_MEMORY } from "./limit";

/** How often the watch looks, in milliseconds. */
const EVERY = 40;

/**
 * Ends this process as soon as it takes more memory than it may. A thread of its own looks: the
 * first one is busy computing. What the engine's own limits hold is only the lesser part of it.
 */
export function watchMemory(limit: number) {
  if (limit === Number.POSITIVE_INFINITY) return;
  const code =
    "setInterval(() => { if (process.memoryUsage.rss() > " +
    `${Math.round(limit)}) process.kill(process.pid, "${OVER_MEMORY}"); }, ${EVERY});`;
  new Worker(code, { eval: true }).unref();
}
