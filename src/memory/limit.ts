import { totalmem } from "node:os";

/** How a process ends that has taken more memory than it may. */
export const OVER_MEMORY = "SIGUSR2";

/** What builds may take of a machine's memory: at most so many bytes, and such a share of what there is. */
export const MEMORY = {
  terminal: { most: 16_000_000_000, share: 0.7 },
  // Two builds at once, and the server beside them.
  server: { most: 4_000_000_000, share: 0.4 },
} as const;

/** Bytes that a build may take: so many megabytes if the machine's owner says so, else what {@link MEMORY} allows. */
export function memoryLimit({ most, share }: { most: number; share: number }): number {
  const said = Number(process.env.STILL_MEMORY);
  return said > 0 ? said * 1e6 : Math.min(most, totalmem() * share);
}

/**
 * The engine's own limit lies above ours, or it would end the process in words of its own. In megabytes, for its
 * flag.
 */
export const engineLimit = (limit: number): string => `--max-old-space-size=${Math.round(limit / 5e5)}`;

/** True if a process was ended for want of memory: by our watch, by the engine, or by the system. */
export const endedByMemory = (signal: NodeJS.Signals | null): boolean =>
  signal !== null && [OVER_MEMORY, "SIGKILL", "SIGABRT", "SIGTRAP"].includes(signal);

/** What is said of a build that was ended. */
export const overMemoryMessage = (limit: number): string =>
  `the build needed more than ${(limit / 1e9).toFixed(1)} GB of memory and ` +
  "was ended; keep or group rows earlier, or take fewer columns";
