import { MEMORY } from "../memory/limit";

/** What one request may cost. Beyond it the answer says so; nothing is built by half. */
export interface Limits {
  /** Bytes of a whole request. */
  bytes: number;
  files: number;
  sheetBytes: number;
  seconds: number;
  /** Bytes of memory that a build may take, where the machine has them. */
  memory: number;
  /** Builds at one time; as many again times {@link waiting} may wait. */
  atOnce: number;
  waiting: number;
}

export const LIMITS: Limits = {
  bytes: 200_000_000,
  files: 100,
  sheetBytes: 4_000_000,
  seconds: 60,
  memory: MEMORY.server.most,
  atOnce: 2,
  waiting: 4,
};
