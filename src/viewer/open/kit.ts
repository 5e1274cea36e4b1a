import { Kit } from "../../core/finding/kit";
import type { Plan } from "../../core/plan/plan";
import type { Reader } from "../../core/read/texts";
import type { Dashboard, Loaded } from "../dashboard";
import { isProof } from "../proof/kit";

/** Puts rows of readers in the place of a dashboard's own, and these back. */
export interface FreshRows {
  /** Is told which dashboard runs, and tells which ones take its place. */
  begin: (first: Dashboard, exchanged: (next: Dashboard) => void) => void;
  /** Takes rows of a script for a table; throws `RangeError` where they cannot take the place of its own. */
  put: (table: string, rows: readonly object[]) => void;
  /** Lets the reader choose a file. */
  choose: () => void;
}

/** Takes a dashboard before it begins. */
type Opening = (loaded: Loaded) => FreshRows;

/** What takes other rows; only dashboards have it whose authors let them. */
export const OPENS = new Kit<Opening>("part that takes");

/** Files that are decoded before they are read. */
export interface DecodedKind {
  /** What cannot be decoded is known as such afterwards. */
  decode: (bytes: Uint8Array) => Promise<void>;
  read: Reader;
}

/** Kinds of such files, by their endings: only dashboards have them some table of which was read from one. */
export const DECODED = new Kit<DecodedKind>("reader of files");

/** True where readers may put in rows of their own. A proof is exchanged whole, and is asked in the written file. */
export const canOpen = (plan: Plan): boolean => plan.opens !== undefined && !isProof();
