import type { Kind } from "../../table/column";

/** A column as an author knows it: its kind and a few values. */
export interface KnownColumn {
  name: string;
  kind: Kind;
  unit?: string;
  /** Its texts are addresses of pictures. */
  image?: boolean;
  /** The first few different values, written out. */
  samples: string[];
}

/** What is known of a sheet's tables and pieces while it is written; gathered by the last compile. */
export interface Knowledge {
  /** Columns of every table: as read, then after each of its steps. */
  tables: ReadonlyMap<string, readonly (readonly KnownColumn[])[]>;
  /** Names of files beside the sheet. */
  files: readonly string[];
  charts: readonly string[];
  controls: readonly string[];
  settings: readonly string[];
}

export const NOTHING_KNOWN: Knowledge = { tables: new Map(), files: [], charts: [], controls: [], settings: [] };
