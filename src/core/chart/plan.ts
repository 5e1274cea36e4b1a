import type { Channel, Query } from "../query/query";
import type { Kind } from "../table/column";

/**
 * Charts as plain data: checked, with every default decided that does not depend on rows.
 * This is what stands in a dashboard's plan.
 */

export type LayerMark = "points" | "bars" | "line";

export interface LayerPlan {
  draw: LayerMark;
  /** Its name, else its place from 0. */
  name: string | number;
  query: Query;
  /** Constant looks. */
  paint?: string;
  opacity?: number;
  size?: number;
  /** Channels of the tooltip in order; `null`: no tooltip; absent: the channels in use. */
  tooltip?: string[] | null;
}

export type ScaleName = "linear" | "log" | "time" | "category";

export interface AxisPlan {
  scale: ScaleName;
  kind: Kind;
  fromZero: boolean;
  /** `left` closes on the rows left, `all` stays, default is by what did the filtering. */
  range: "default" | "all" | "left" | [number, number];
  reverse: boolean;
  title: string;
  unit?: string;
  format?: string;
  /** The format of the column: ticks follow it with no more decimals than their step needs. */
  columnFormat?: string;
  ticks?: number;
  grid: boolean;
  hidden: boolean;
  /** Holds a measure: its range follows the answers. */
  measure: boolean;
  /** Counts things, of which there are no halves. */
  whole: boolean;
}

/** How categories of a channel are sorted: by a list or by formulas over their rows. */
export type CategorySort = { list: string[] } | { by: Channel; descending: boolean };

export interface LegendPlan {
  at: "top" | "bottom" | "none";
  press: "remove" | "fade" | "nothing";
  refit: boolean;
}

export interface ChartPlan {
  type: "chart";
  from: string;
  layers: LayerPlan[];
  /** Written with `layers:`, so that rows name theirs. */
  layered: boolean;
  axes: { x?: AxisPlan; y?: AxisPlan };
  /** The place channel along which bars stand and lines run; the other is measured. */
  along: "x" | "y";
  sort: Partial<Record<"x" | "y" | "color", CategorySort>>;
  colors?: string[] | Record<string, string> | "quay" | "wharf";
  stacking: "off" | "sum" | "percent" | "beside";
  legend: LegendPlan;
}

export interface FigurePlan {
  type: "figure";
  from: string;
  query: Query;
  /** How `against` compares: percent for sums and counts, a difference otherwise. */
  compare: "percent" | "difference";
}

export interface DataTablePlan {
  type: "table";
  from: string;
  query: Query;
  /** Names of the columns in order, as keys of the query's channels; `keys` are what rows() calls them. */
  columns: { channel: string; key: string }[];
  pages: (number | "all")[];
  take: "csv"[];
}

export type PiecePlan = ChartPlan | FigurePlan | DataTablePlan;

/** Words around a piece. */
export interface PieceWords {
  title: string;
  subtitle?: string;
  credit?: string;
  hint?: string;
  empty?: string;
}
