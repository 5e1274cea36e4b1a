import type { ChannelName } from "../mark/channels";
import type { AxisName } from "../mark/mark";
import type { Answer } from "../query/answer";
import type { Paint } from "../scene/shapes/shape";
import type { Scalar } from "../table/column";
import type { ColorRamp } from "./color-ramp";
import type { ChartPlan, LayerPlan } from "./plan";

/** Colours of categories or of a ramp, one for every colour channel with the same formula. */
export type ColorScale =
  /** `literal`: the values are colours themselves, which say nothing that a legend could. */
  { type: "categories"; names: (string | null)[]; paints: Paint[]; literal?: true } | ColorRamp;

/** A layer with its answers for several choices of rows. */
export interface LayerInput {
  plan: LayerPlan;
  /** Looks that are the same for every mark, under the settings as they are. */
  looks: Partial<Record<ChannelName, Scalar>>;
  /** What only its mark takes, under the settings as they are. */
  options: Record<string, Scalar>;
  /** The layer is switched off. */
  isOff?: true;
  /** No selection on: categories, bins and `of all` come from here. */
  all: Answer;
  /** Only controls on: the default for the ends of axes. */
  controls: Answer;
  /** All that was on when the last gesture ended: for axes whose range is `left`. */
  left: Answer;
  /** What is drawn in full ink. */
  current: Answer;
  /** The same as it was when the last gesture ended. */
  rest: Answer;
  /** What is drawn faintly under it, where a selection fades instead of filtering. */
  base?: { answer: Answer; opacity: number };
  /** What is drawn over it is in the accent colour. */
  accent?: true;
  /** 1 for groups or rows that the chart's own selection holds. */
  picked?: (answer: Answer, ids: Int32Array) => Uint8Array;
}

export interface SortInput {
  all: Answer;
  controls: Answer;
  left: Answer;
}

export interface ChartInput {
  plan: ChartPlan;
  layers: LayerInput[];
  sorts: Partial<Record<"x" | "y" | "color", SortInput>>;
  color?: ColorScale;
  /** Colours of the house style, in place of ours. */
  house?: { accent?: string; plain?: Paint; second?: Paint };
  /** Some link can highlight its marks: labels are those of what is highlighted. */
  canLight?: true;
  /** A stretch of an axis can be brushed on it; over its plots there is room for the words of it. */
  saysRange?: true;
  /** The table is cut below a selection: its categories are those of what is drawn. */
  cut?: boolean;
  /** Ranges that axes show in place of their own. */
  zoom?: Partial<Record<AxisName, [number, number]>>;
  /** Where a map is looked at, and how many times closer than it fits. */
  view?: { lon: number; lat: number; scale: number };
  /** Answers of the tables that lie under a map. */
  under?: Answer[];
  /** Legend entries that the reader has pressed, and what that did. */
  off: ReadonlySet<string | null>;
  /** Room at the left that charts over and under it need, in pixels: their plots share an edge. */
  left?: number;
  width: number;
  height: number;
  empty?: string;
}
