import type { Kind } from "../table/column";
import type { FormulaProblem } from "./tokens";

/** What a formula may refer to where it stands. */
export interface Scope {
  /** Columns of the table by name. */
  columns: ReadonlyMap<string, Kind>;
  /** Settings by name, without `$`. */
  settings: ReadonlyMap<string, Kind>;
  /** Settings that are lists, with the kind of what is in them. */
  lists?: ReadonlyMap<string, Kind>;
  /** How the table is called in messages. */
  tableName: string;
  aggregates: "allowed" | "none";
  /** Whether functions that look at other rows may stand here. */
  rowFunctions?: "allowed" | "none";
  /**
   * Selections that the formula may speak of, with the columns of their tables; absent where there are none, as
   * in steps.
   */
  selections?: ReadonlyMap<string, ReadonlyMap<string, Kind>>;
  /** Names of selections that stand under links, if these are sound or not: what is wrong is said there. */
  promised?: ReadonlySet<string>;
  /** What `chosen` may choose can be of different kinds: each is checked by itself elsewhere. */
  mixed?: boolean;
  /** What settings with a closed list may be, for `chosen` and `agg`. */
  options?: ReadonlyMap<string, readonly string[]>;
}

export type CheckedKind = Kind | "list" | "missing";

export interface Checked {
  kind: CheckedKind;
  /** Holds an aggregate. */
  aggregate: boolean;
  /** The same for every row: built from literals and settings alone. */
  constant: boolean;
  problems: FormulaProblem[];
}
