import type { ColorScale } from "../chart/inputs";
import type { PiecePlan, PieceWords } from "../chart/plan";
import type { LiveWords } from "../chart/words";
import type { ButtonDeed } from "../control/deeds";
import type { PickLookName, SetLookName } from "../control/index";
import type { PickLook } from "../control/look";
import type { NumberMarks } from "../formula/number-format";
import type { Condition, SelectionPlan } from "../link/selection";
import type { PagePlan } from "../page/page";
import type { Channel } from "../query/query";
import type { ColumnWish } from "../read/infer";
import type { ReadOptions } from "../read/texts";
import type { Paint } from "../scene/shapes/shape";
import type { PaletteName } from "../scene/theme";
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
  /** How rows of readers take the place of those that were packed, where the author lets them. */
  opens?: OpensPlan;
  /** States that the author offers by name. */
  views: { name: string; address: string }[];
  style: StylePlan;
}

/** How the whole dashboard looks. */
export interface StylePlan {
  ground: "light" | "dark" | "auto";
  type: "packed" | "system";
  /** The colour of what is picked and highlighted, in place of our own. */
  accent?: string;
  /** The paint of marks without a colour of their own, where the palette is not ours. */
  plain?: Paint;
  /** The one of a layer with a scale of its own. */
  second?: Paint;
  numbers?: NumberMarks;
  /** How faint the rest is where a selection fades. */
  fade?: number;
  /** Pictures in tables are fetched from their addresses. */
  pictures?: "outside";
}

/** A table of the dashboard: packed in the file, or made from another one by live steps. */
export interface PlanTable {
  name: string;
  /** The finished part of another table, packed under a name of its own; no author knows it. */
  part?: true;
  /** What its rows are called. */
  label?: string;
  from?: string;
  steps?: Step[];
  /** The table whose rows it was made of, where all of its steps are finished. */
  root?: string;
  /**
   * Look-up tables whose rows its rows have found, with the packed column that says which; none where its own
   * steps find them.
   */
  ties?: Record<string, string | null>;
  /** Rows when nothing is selected. */
  rowCount: number;
  columns: Record<string, Kind>;
  /** Orders of values that live sorts need. */
  orders: Record<string, string[]>;
}

/** What a dashboard needs to know beside its plan to be made of other rows than it was built from. */
export interface OpensPlan {
  tables: Record<string, OpenTable>;
  /** Colours that the sheet says of the values of a column, by `TABLE.COLUMN`. */
  said: Record<string, Record<string, string>>;
  /** The house's palette for categories. */
  house?: PaletteName | string[];
}

/** A table whose rows came of a file or the sheet: how others are read in their place, and made what it is. */
export interface OpenTable {
  /** The name of the file, without folders; none where its rows stood in the sheet. */
  file?: string;
  /** The columns that are needed, as the file names them, and how their cells are read. */
  columns: Record<string, ColumnWish>;
  reading: Omit<ReadOptions, "columns" | "progress">;
  orders: Record<string, string[]>;
  steps: Step[];
}

export interface SettingPlan {
  kind: "number" | "text" | "boolean";
  start: Scalar;
  /** All that it may be, where the sheet says so. */
  of?: readonly string[];
  /** It is a list of such values, written as a JSON list. */
  list?: true;
  /** Its text is a day. */
  day?: true;
}

/** What all controls have. */
interface ControlBase {
  name: string;
  label: string;
  /** The button that must be pressed before a change counts. */
  waitsFor?: string;
}

export type ControlPlan = PickControlPlan | SearchControlPlan | AnyControlPlan | SetControlPlan | ButtonPlan;

export interface PickControlPlan extends ControlBase {
  type: "pick";
  as: PickLookName;
  holds: PickLook["holds"];
  /** The end that a bound holds. */
  end?: "low" | "high";
  from: string;
  channel: Channel;
  /** What parts several values in one cell. */
  split?: string;
  /** What it means when nothing is ticked. */
  none: "all" | "nothing";
  /** Readers can go back to all values. */
  all: boolean;
  /** Most values that can be ticked at once. */
  most?: number;
  /** Begins with everything ticked, so that a press takes one away. */
  full?: true;
  start?: string[];
  /** Ends of its rail, in place of those of the column. */
  range?: [number, number];
  step?: number;
  log?: true;
  /** Acts when it is let go. */
  onRelease?: true;
}

/** Rows that hold a text in some of these columns. */
export interface SearchControlPlan extends ControlBase {
  type: "search";
  from: string;
  columns: Channel[];
  /** The text that is looked for at first. */
  start?: string;
}

/** Conditions that readers add themselves. */
export interface AnyControlPlan extends ControlBase {
  type: "any";
  from: string;
  columns: Channel[];
  /** The conditions that hold at first. */
  start?: Condition[];
}

export interface SetControlPlan extends ControlBase {
  type: "set";
  as: SetLookName;
  range?: [number, number];
  step?: number;
  log?: true;
  of?: { value: string; label: string }[];
  /** Readers take several of them. */
  several?: true;
  onRelease?: true;
}

export interface ButtonPlan extends ControlBase {
  type: "button";
  does: ButtonDeed;
  to: string[];
}

export interface PlanPiece {
  name: string;
  words: PieceWords;
  /** Texts among its words, titles of axes among them, in which values stand. */
  live?: LiveWords;
  /** The selection or pick without which nothing is drawn. */
  waitsFor?: string;
  /** Of the piece, in pixels, where the page leaves it free. */
  height?: number;
  plan: PiecePlan;
}
