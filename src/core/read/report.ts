import type { Kind } from "../table/column";

/** A cell that could not be read as its column's kind. Rows count from 1, heads not counted. */
export interface UnreadCell {
  row: number;
  text: string;
}

/** What became of one column of a file. */
export interface ColumnReport {
  name: string;
  kind: Kind;
  /** Cells that were empty or spelt as missing. */
  missing: number;
  /** Cells that held something that could not be read; they became missing. */
  unread: number;
  /** The first few of them. */
  examples: UnreadCell[];
  /**
   * Spellings that keep a column from being what most of its cells are, or that were lost in it, where they are
   * few.
   */
  odd?: string[];
  /**
   * Where decimals look like thousands: a cell as it stands, and an example with marks by which it would be read as
   * that.
   */
  thousands?: { cell: string; read: string };
  /** How dates were read, where there was a choice to make. */
  note?: string;
}

/** What became of a file: said to the author before anything is drawn. */
export interface IntakeReport {
  file: string;
  rows: number;
  columns: ColumnReport[];
  /** Things about the file as a whole: ragged rows, doubled heads. */
  notes: string[];
}

export const MOST_EXAMPLES = 5;
