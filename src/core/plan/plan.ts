import type { ColorScale } from "../chart/inputs";
import type { PiecePlan, PieceWords } from "../chart/plan";
import type { SelectionPlan } from "../link/selection";
import type { PagePlan } from "../page/page";
import type { Channel } from "../query/query";
import type { Step } from "../steps/step";
import type { Kind, Scalar } from "../table/column";

/**
 * The plan of a dashboard: everything that the viewer needs to know beside the columns,
 * as plain data. What could be finished at build time is finished.
 */
export interface Plan {
  version: 1;
  report: string;
  tables: PlanTable[];
  settings: Record<string, SettingPlan>;
  controls: ControlPlan[];
  pieces: PlanPiece[];
  selections: SelectionPlan[];
  pages: PagePlan[];
  /** Colours by the text of a colour channel's formula. */
  colors: Record<string, ColorScale>;
  /** Pieces that could not be planned, and why in words. */
  broken: Record<string, string>;
  style: { ground: "light" | "dark" | "auto"; type: "packed" | "system" };
}

/** A table of the dashboard: packed in the file, or made from another one by live steps. */
export interface PlanTable {
  name: string;
  from?: string;
  steps?: Step[];
  /** Look-up tables whose rows its rows have found, with the packed column that says which; none where its own steps find them. */
  ties?: Record<string, string | null>;
  /** Rows when nothing is selected. */
  rowCount: number;
  columns: Record<string, Kind>;
  /** Orders of values that live sorts need. */
  orders: Record<string, string[]>;
}

export interface SettingPlan {
  kind: "number" | "text" | "boolean";
  start: Scalar;
  /** All that it may be, where the sheet says so. */
  of?: readonly string[];
}

export type ControlPlan = PickControlPlan | SetControlPlan;

export interface PickControlPlan {
  type: "pick";
  name: string;
  label: string;
  as: "checkboxes" | "menu" | "range";
  from: string;
  channel: Channel;
  /** What parts several values in one cell. */
  split?: string;
  none: "all" | "nothing";
  start?: string[];
}

export interface SetControlPlan {
  type: "set";
  name: string;
  label: string;
  as: "slider" | "menu";
  range?: [number, number];
  step?: number;
  of?: string[];
}

export interface PlanPiece {
  name: string;
  words: PieceWords;
  plan: PiecePlan;
}
