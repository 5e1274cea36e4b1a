import type { Formula } from "../formula/tree";
import type { ChannelName } from "../mark/channels";
import type { AxisName } from "../mark/mark";
import type { MarkName } from "../mark/specs";
import type { Choices } from "../query/choices";
import type { Finished } from "../query/finished";
import type { Channel, Query } from "../query/query";
import type { ScaleName } from "../scale/scale-kinds";
import type { PaletteName, RampName } from "../scene/theme";
import type { Kind } from "../table/column";
import type { WordPart } from "./words";

/**
 * Charts as plain data: checked, with every default decided that does not depend on rows.
 * This is what stands in a dashboard's plan.
 */

export const STACKINGS = ["off", "sum", "percent", "stream", "beside"] as const;
export type StackingName = (typeof STACKINGS)[number];

export interface LayerPlan {
  draw: MarkName;
  /** Its name, else its place from 0. */
  name: string | number;
  query: Query;
  /** Channels whose formula holds no column: looks that are the same for every mark. */
  looks: Partial<Record<ChannelName, Formula>>;
  /** What only its mark takes, each as a formula without columns. */
  options: Record<string, Formula>;
  /** Drawn only while this is true. */
  show?: Formula;
  /** A second scale at the right, for this layer's measure. */
  side?: "right";
  /** Channels of the tooltip in order; `null`: no tooltip; absent: the channels in use. */
  tooltip?: string[] | null;
  /** The tooltip as a line of the author's own words, in which values stand. */
  says?: WordPart[];
}

export interface AxisPlan {
  /** What it is under each value of the settings by which a reader chooses its channel. */
  choices?: Choices<AxisPlan>;
  scale: ScaleName;
  kind: Kind;
  fromZero: boolean;
  /** `left` closes on the rows left, `all` stays, default is by what did the filtering. */
  range: "default" | "all" | "left" | [number, number];
  /** Settings that say its ends, or about how many ticks it has; what stands in `range` and `ticks` is their start. */
  bySettings?: { ticks?: string; ends?: [string | null, string | null] };
  reverse: boolean;
  title: string;
  unit?: string;
  format?: string;
  /** The format of the column: ticks follow it with no more decimals than their step needs. */
  columnFormat?: string;
  ticks?: number;
  grid: boolean;
  hidden: boolean;
  /** Ends where the values end: lines and areas run from edge to edge. */
  bound?: true;
  /** Stands at the right of the plot, not at its left. */
  side?: "right";
  /** Holds a measure: its range follows the answers. */
  measure: boolean;
  /** Holds whole numbers alone: of counts and the like there are no halves. */
  whole: boolean;
}

/** How categories of a channel are sorted: by a list or by formulas over their rows. */
export type CategorySort =
  | { list: string[] }
  | {
      by: Channel;
      descending: boolean;
      /** Nothing reaches it: its answer is packed, and not the rows. */
      finished?: Finished;
    };

export const LEGEND_PLACES = [
  "top",
  "right",
  "bottom",
  "left",
  "in_top_left",
  "in_top_right",
  "in_bottom_left",
  "in_bottom_right",
  "none",
] as const;
export type LegendPlace = (typeof LEGEND_PLACES)[number];

export interface LegendPlan {
  at: LegendPlace;
  press: "remove" | "fade" | "nothing";
  refit: boolean;
}

/** The first categories of an axis; the others are not drawn, or are one last place. */
export interface TopPlan {
  axis: AxisName;
  count: Formula;
  rest?: string;
}

/** How small charts stand: so many side by side, and which axes they share. */
export interface PanelsPlan {
  across?: number;
  share: AxisName[];
}

export const PROJECTIONS = ["mercator", "equal_earth", "albers", "orthographic"] as const;

/** How a map looks. */
export interface MapPlan {
  projection: (typeof PROJECTIONS)[number];
  scaleBar: boolean;
  /** Tables with places that lie under the marks. */
  under: { from: string; query: Query }[];
}

/** What zooms a chart. */
export const ZOOM_WAYS = ["drag", "wheel", "pan"] as const;
export type ZoomWay = (typeof ZOOM_WAYS)[number];

export interface ChartPlan {
  type: "chart";
  /** The whole of it under each value of the settings that say how it looks. */
  variants?: Choices<ChartPlan>;
  /** A plane with axes, a map, or a place that its mark lays out by itself. */
  stage: "plane" | "map" | "own";
  map?: MapPlan;
  from: string;
  layers: LayerPlan[];
  /** The place of the layer that the chart is about, where it is not the first. */
  leading?: number;
  /** Written with `layers:`, so that rows name theirs. */
  layered: boolean;
  /** `y2` stands at the right, for layers with a scale of their own. */
  axes: { x?: AxisPlan; y?: AxisPlan; y2?: AxisPlan };
  /** The place channel along which bars stand and lines run; the other is measured. */
  along: "x" | "y";
  /** A layer fills the stretches along it, so that others stand over their middles. */
  overBars?: true;
  sort: Partial<Record<"x" | "y" | "color", CategorySort>>;
  colors?: string[] | Record<string, string> | PaletteName | RampName;
  /** The value from which both sides of a ramp go away. */
  middle?: number;
  stacking: StackingName;
  panels?: PanelsPlan;
  top?: TopPlan;
  /** The least room between plot and edge, in pixels. */
  margin?: Partial<Record<"top" | "right" | "bottom" | "left", number>>;
  legend: LegendPlan;
  /**
   * What looks closer by itself; readers can turn looking closer on in the chart's menu, where there is an axis
   * for it.
   */
  zoom: ZoomWay[];
  /** Rows behind its marks with the columns that come along, for those who look at them or take them. */
  behind?: Query;
}

export interface FigurePlan {
  type: "figure";
  from: string;
  query: Query;
  /** A small line: the same value along a channel. */
  spark?: Query;
  /** How `against` compares: percent for sums and counts, a difference otherwise. */
  compare: "percent" | "difference";
}

/** How rows can be taken away. */
export const TAKES = ["csv", "xlsx", "copy", "print"] as const;
export type TakeName = (typeof TAKES)[number];

/** How the cells of a column are drawn by their values. */
export interface CellPlan {
  bar?: true;
  shade?: RampName;
  /** The value from which both sides of a ramp go away. */
  middle?: number;
}

export interface TableColumn {
  channel: string;
  key: string;
  cell?: CellPlan;
  /** It is there while this setting, a list, holds this value. */
  list?: { setting: string; value: string };
  /** Its sum stands under the rows. */
  adds?: true;
}

export interface DataTablePlan {
  type: "table";
  from: string;
  query: Query;
  /** Names of the columns in order, as keys of the query's channels; `keys` are what rows() calls them. */
  columns: TableColumn[];
  pages: (number | "all")[];
  take: TakeName[];
  /** Sums stand under the rows. */
  totals: boolean;
}

/** Every column summed up. */
export interface SummaryPlan {
  type: "summary";
  from: string;
  query: Query;
  columns: { channel: string; key: string }[];
}

/** A text beside the charts, in which values stand. */
export interface NotePlan {
  type: "note";
  /** The table of its values; empty where it has none. */
  from: string;
  query: Query;
  /** Markdown, in parts where `{name}` stands for a channel of the query. */
  text: string;
}

export type PiecePlan = ChartPlan | FigurePlan | DataTablePlan | SummaryPlan | NotePlan;

/** Words around a piece. */
export interface PieceWords {
  title: string;
  /** No title is drawn; it is the accessible name alone. */
  untitled?: true;
  subtitle?: string;
  credit?: string;
  hint?: string;
  empty?: string;
}
