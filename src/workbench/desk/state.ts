import type { PartName } from "../../core/chart/part-names";
import type { Ground } from "../../core/scene/theme";
import type { Path } from "../../core/sheet/tree";
import type { ProofUpdate } from "../../viewer/proof/exchange";
import type { RowsLeft } from "../../viewer/proof/rows-left";
import type { Progress } from "../worker/client";
import type { BuildReply, Sought } from "../worker/reply";
import type { Files } from "./document";
import type { IntakeQuestion } from "./intake";
import type { Keeping } from "./keeper";
import type { TrayName } from "./trays";

export const STATIONS = ["tables", "charts", "links", "pages", "publish"] as const;
export type Station = (typeof STATIONS)[number];

/** Widths at which the proof can be looked at, in CSS pixels. */
export const WIDTHS = { fit: 0, desk: 1280, tablet: 820, phone: 390, paper: 794 } as const;
export type WidthName = keyof typeof WIDTHS;

export type DialogName = "palette" | "keys" | "guide" | "reports" | "versions" | "intake";

/** Everything that the workbench shows. */
export interface DeskState {
  id: string;
  sheetName: string;
  text: string;
  files: Files;
  reply: BuildReply | undefined;
  /** The text that the reply speaks of. */
  replyText: string;
  /** The dashboard of the proof: the last that could be drawn. */
  update: ProofUpdate | undefined;
  /** Bytes of the file as it was opened last. */
  weight: number | undefined;
  work: Progress | undefined;
  problem: string | undefined;
  keeping: Keeping;
  /** The report is not compiled until the author says so: the last time, that brought the page down. */
  held: boolean;
  canUndo: boolean;
  canRedo: boolean;
  station: Station;
  /** At which stations the sheet is narrowed to its spine. */
  folds: Record<Station, boolean>;
  ground: Ground;
  dialog: DialogName | undefined;
  /** What the stations have in hand. */
  table: string | undefined;
  stage: number | undefined;
  /** The tray that is open at Tables. */
  tray: TrayName | undefined;
  /** Rows at Tables that a chart has to do with: of the table as it stands behind its last step. */
  way: (NonNullable<Sought["way"]> & { table: string }) | undefined;
  piece: string | undefined;
  /** Charts shows what could be drawn, not what is. */
  isAdding: boolean;
  /** The part of the large chart whose choices stand beside it. */
  part: PartName | undefined;
  /** What the station has in hand, as a path in the sheet. */
  hand: Path | undefined;
  /** The piece at which the author's cursor is. */
  marked: string | undefined;
  width: WidthName;
  /** State of the dashboard in the proof, as its address has it. */
  proofState: string;
  /** How many rows each piece of it shows, of how many. */
  proofLeft: RowsLeft;
  /** A file that came in place of another and waits for the author's word. */
  intake: IntakeQuestion | undefined;
  /** Something to be said once: a file that could not be taken, a version gone back to. */
  notice: string | undefined;
  /** A first visit that began with a file of its own: which table waits for its first charts. */
  begun: string | undefined;
}

/** Pixels of width up to which a screen shows the sheet or the station. */
export const NARROW = 768;

export const isFolded = ({ folds, station }: DeskState): boolean => folds[station];

export const AT_FIRST: DeskState = {
  id: "",
  sheetName: "report.still.yaml",
  text: "",
  files: new Map(),
  reply: undefined,
  replyText: "",
  update: undefined,
  weight: undefined,
  work: { what: "opening", part: 0 },
  problem: undefined,
  keeping: { type: "saved" },
  held: false,
  canUndo: false,
  canRedo: false,
  station: "pages",
  folds: { tables: false, charts: false, links: true, pages: false, publish: false },
  ground: "light",
  dialog: undefined,
  table: undefined,
  stage: undefined,
  tray: undefined,
  way: undefined,
  piece: undefined,
  isAdding: false,
  part: undefined,
  hand: undefined,
  marked: undefined,
  width: "fit",
  proofState: "",
  proofLeft: {},
  intake: undefined,
  notice: undefined,
  begun: undefined,
};
