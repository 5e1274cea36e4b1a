import Dexie, { type Table } from "dexie";

/** A report as it is kept: its sheet's text, and which bytes stand under which path. */
export interface ProjectRow {
  id: string;
  sheetName: string;
  text: string;
  /** Paths with the hashes of their contents. */
  files: [string, string][];
  /** Milliseconds since 1970; for the list of reports only. */
  changed: number;
  /** Counts up with every save: a save that expects another number does not overwrite. */
  revision: number;
}

/** How a report looked when it was at rest last, for the list of reports. */
export interface LookRow {
  project: string;
  rows: number;
  /** Bytes of its dashboard. */
  bytes: number;
  /** Its first chart as SVG, on both grounds; none where it draws nothing that small. */
  pictures?: { light: string; dark: string };
}

/** Original bytes of a file, kept once however many reports and versions hold them. */
export interface ContentRow {
  hash: string;
  bytes: Uint8Array;
}

/** A state to go back to. */
export interface VersionRow {
  id?: number;
  project: string;
  made: number;
  /** Why it was kept: as opened, before a file was replaced, written. */
  note: string;
  text: string;
  files: [string, string][];
}

export class Database extends Dexie {
  declare projects: Table<ProjectRow, string>;
  declare contents: Table<ContentRow, string>;
  declare versions: Table<VersionRow, number>;
  declare looks: Table<LookRow, string>;

  constructor(name = "still-harbor") {
    super(name);
    this.version(1).stores({ projects: "id, changed", contents: "hash", versions: "++id, project" });
    this.version(2).stores({ looks: "project" });
  }
}
