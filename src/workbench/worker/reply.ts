import type { PackingLine } from "../../core/dashboard/contents";
import type { Finding } from "../../core/finding/finding";
import type { RowsOnTheWay } from "../../core/look/accounting";
import type { Lighter } from "../../core/look/lighter";
import type { LinkMatrix } from "../../core/look/matrix";
import type { PagePlan } from "../../core/page/page";
import type { IntakeChange } from "../../core/read/intake-check";
import type { IntakeReport } from "../../core/read/report";
import type { Knowledge, KnownColumn } from "../../core/sheet/assist/knowledge";
import type { LedgerLine } from "../../core/steps/step";
import type { ProofUpdate } from "../../viewer/proof/exchange";

/** A finding with its place, ready to be shown. */
export interface PlacedFinding extends Finding {
  line: number;
  column: number;
}

/** A table as the stream shows it. */
export interface TableView {
  name: string;
  /** Where its rows come from, in words. */
  source: string;
  rowsIn: number;
  ledger: LedgerLine[];
  /** A number for each stage that stays while its rows stay the same. */
  stamps: number[];
  report?: IntakeReport;
  brokenStep?: number;
}

export interface PieceView {
  name: string;
  title: string;
  kind: "chart" | "table" | "figure" | "summary" | "note" | "broken";
  from?: string;
  problem?: string;
}

/** What a compile gave, as far as the workbench shows it. */
export interface BuildReply {
  /** What a proof takes over; nothing while the text is no sheet, or nothing of it can be drawn. */
  update: ProofUpdate | undefined;
  findings: PlacedFinding[];
  /** False while errors stand: the proof shows what is sound, nothing is written. */
  ok: boolean;
  report: string;
  tables: TableView[];
  pieces: PieceView[];
  controls: string[];
  matrix: LinkMatrix;
  links: number;
  pages: PagePlan[];
  packing: PackingLine[];
  /** What would make the file lighter. */
  lighter: Lighter[];
  /** How many files are written, where there is one for each value of a column. */
  editions: number;
  /** Pictures are fetched by readers from their addresses. */
  picturesOutside: boolean;
  /** The sheet's own text goes along in the file. */
  sheetLeaves: boolean;
  knowledge: Knowledge;
  milliseconds: number;
}

/** The file as it would be written, and the same with a script that also listens to the workbench. */
export interface FileReply {
  file: string;
  proof: string;
}

/** Why a report cannot be drawn, which is found only where its charts are worked out. */
export interface Undrawable {
  finding: PlacedFinding;
}

/** Rows that are looked for: those that hold a text, where a formula is true, or that a chart has to do with. */
export interface Sought {
  text?: string;
  where?: string;
  /** Rows on the way to a chart, or those that left it there. */
  way?: { piece: string; which: RowsOnTheWay };
}

/** A table as it would be after a change of the sheet that has not been made. */
export interface Tried {
  rowCount: number;
  columns: KnownColumn[];
  /** The first rows, written out. */
  rows: string[][];
  /** The ledger line of the step that was tried, if it could be run. */
  line?: LedgerLine;
  /** What reading made of the columns, where the change is about reading. */
  report?: IntakeReport;
  /** What is wrong with it. */
  problems: string[];
}

/** What would change for one table if a file came in place of another. */
export interface IntakeReply {
  table: string;
  before: number;
  after: number;
  changes: IntakeChange[];
  /** Findings that the sheet would have then and has not now. */
  findings: string[];
}

/** Rows of a table at a stage, written out. */
export interface RowsReply {
  rowCount: number;
  rows: string[][];
}
