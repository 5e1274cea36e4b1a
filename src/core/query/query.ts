import type { Formula } from "../formula/tree";
import type { Grain } from "../table/calendar";
import type { Kind } from "../table/column";
import type { Choices } from "./choices";
import type { Finished } from "./finished";

/** Questions to tables as plain data: what stands in a dashboard's plan of every chart, figure and data table. */

/** Channels that part a chart into small ones, each a whole of its own: one list of them, or rows and columns of two. */
export const PANEL_CHANNELS = ["panel", "across", "down"] as const;
export type PanelChannel = (typeof PANEL_CHANNELS)[number];

/** A formula in use: for a place, a look, a column of a data table. */
export interface Channel {
  formula: Formula;
  /** Its canonical text, by which equal formulas are found. */
  text: string;
  kind: Kind;
  /** Holds an aggregate. */
  aggregate: boolean;
  /** Words for axis, legend and tooltip: the label without unit. */
  label: string;
  unit?: string;
  format?: string;
  /** Values in the order in which they stand. */
  order?: string[];
  /** Its texts are addresses of pictures. */
  image?: boolean;
  /** The column whose order, colours and words it takes, when it is just a column. */
  column?: string;
  interval?: Interval;
  /** It is the same for every row: a limit, a day on which something changed. */
  constant?: true;
  /** What it is under each value of the settings by which a reader chooses it. */
  choices?: Choices<Channel>;
  /** Its last value, which stands for all that are not among the first ones. */
  rest?: string;
  /** Shown is its one value; where a group has several, the channel of this name says how many. */
  several?: string;
}

/** What a key of a selection calls a channel: a column by its name, whatever signs are in it, a formula by its text. */
export const keyName = ({ formula, text }: Pick<Channel, "formula" | "text">): string =>
  formula.type === "column" ? formula.name : text;

/** Keys that stand for a stretch of values. */
export type Interval =
  | { type: "bin"; of: Formula; count: Formula }
  | { type: "width"; of: Formula; width: Formula }
  | { type: "period"; of: Formula; grain: Grain | Formula };

/** What is asked of a table: channels, grouped by those that hold no aggregate. */
export interface Query {
  from: string;
  keep?: Formula;
  channels: Record<string, Channel>;
  /** Channels by which rows are grouped; empty with `grouped` means one group of all rows. */
  groupBy: string[];
  /** False: each row is a mark. */
  grouped: boolean;
  /** Channels that rows share which one mark sums up by itself; absent: no mark does. */
  merged?: string[];
  /** Nothing reaches it: its answer is packed, and not the rows. */
  finished?: Finished;
}

/** Every formula that a question asks by. */
export function formulasOf({ channels, keep }: Query): Formula[] {
  const asked = Object.values(channels).flatMap(({ formula, interval }) => [
    formula,
    ...(interval ? [interval.of] : []),
  ]);
  return keep ? [keep, ...asked] : asked;
}
