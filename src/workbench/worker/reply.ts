import type { PackingLine } from "../../core/dashboard/build";
import type { Finding } from "../../core/finding/finding";
import type { LinkMatrix } from "../../core/plan/matrix";
import type { PagePlan } from "../../core/page/page";
import type { IntakeReport } from "../../core/read/report";
import type { Knowledge } from "../../core/sheet/knowledge";
import type { LedgerLine } from "../../core/steps/step";

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
  kind: "chart" | "table" | "figure" | "broken";
  from?: string;
  problem?: string;
}

/** What a compile gave, as far as the workbench shows it. */
export interface BuildReply {
  html: string | undefined;
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
  /** The sheet's own text goes along in the file. */
  sheetLeaves: boolean;
  /** Bytes of the file. */
  size: number;
  knowledge: Knowledge;
  milliseconds: number;
}

/** Rows of a table at a stage, written out. */
export interface RowsReply {
  rowCount: number;
  rows: string[][];
}
