import type { ChartInput, LayerInput } from "../chart/inputs";
import type { PlainRow } from "../chart/plain-row";
import type { AxisPlan, LayerPlan, StackingName } from "../chart/plan";
import type { TooltipLine } from "../chart/tooltip";
import type { Answer } from "../query/answer";
import type { Category } from "../query/categories";
import type { Channel } from "../query/query";
import type { LayerValues } from "../query/values";
import type { Scale } from "../scale/scales";
import type { Box } from "../scene/scene";
import type { Ring } from "../scene/shapes/outlines";
import type { Shape, ShapeBase } from "../scene/shapes/shape";
import type { ChannelName } from "./channels";

/**
 * A mark is one file with two halves. The planning half says what the mark is called, which channels
 * it takes and what axes it asks for; schema, docs, completion and compiling are made from it, and it
 * never reaches a dashboard. The drawing half turns answers into shapes, at build time and in the
 * viewer alike.
 */

export type AxisName = "x" | "y";

/** A number, switch or word that only some marks take, as a key of the chart. */
export interface OptionSpec {
  takes: "switch" | "number" | readonly string[];
  says: string;
}

/** What a mark is told about a place channel before its axis is planned. */
export interface AxisDraft {
  /** The mark runs along this axis; the other one is measured. */
  along: boolean;
  channel: Channel;
  /** The mark goes from one value to another on this axis. */
  ranged: boolean;
}

export interface MarkSpec {
  name: string;
  says: string;
  /** What an account counts: "bars", "places on lines". */
  many: string;
  /** Channels that it needs: any one of these sets. */
  needs: readonly (readonly ChannelName[])[];
  /** Said where none of the sets is there. */
  needed: string;
  takes: readonly ChannelName[];
  /** Looks that may follow values; others are the same for all marks. */
  varies?: readonly ChannelName[];
  options?: Record<string, OptionSpec>;
  /** Where its axes differ from those of points. */
  axis?(draft: AxisDraft): Partial<AxisPlan>;
  /** How its marks of several colours share a place, unless the chart says so. */
  stacking?(layer: LayerPlan, along: AxisName): StackingName;
  /**
   * One of its marks stands for all rows that share these channels, which it sums up by itself: its question
   * is asked row by row, and a press picks by these channels.
   */
  merges?: readonly ChannelName[];
  /** It measures something that no channel says, on the axis across. */
  measures?: { label: string; fromZero: boolean };
  /** The plane with axes, a map, or a place that it lays out by itself. */
  stage?: "map" | "own";
  /** It takes no places over from the chart that it is a layer of. */
  inheritsPlaces?: false;
  /** Several raw rows on one of its marks would be drawn over one another. */
  oneRowEach?: boolean;
  /** Dragging a box over it is the gesture that comes to mind first. */
  brushedInBoxes?: boolean;
  /** It runs along an axis from edge to edge. */
  runs?: boolean;
  /** It fills the stretches along its axis. */
  fills?: boolean;
}

/** Both pixels of what lies behind a globe: no plot reaches there, so that its marks are there and not seen. */
export const BEHIND = -1e5;

/** How places on the earth become pixels. */
export interface MapProjector {
  /** Pixels of a place; {@link BEHIND} where it lies behind a globe. */
  point(lon: number, lat: number): [number, number];
  invert(x: number, y: number): [number, number];
  /** The closed and the open lines of a place, given as the text of its geometry. */
  rings(place: string): readonly Ring[];
  lines(place: string): readonly Ring[];
  /** The outline of a globe; other maps have none. */
  edge: readonly Ring[];
}

/** The plot of one panel with its axes in use, or with its map. */
export interface Stage {
  plot: Box;
  x?: Scale;
  y?: Scale;
  categories: { x?: Category[]; y?: Category[] };
  /** The axis along which bars stand over stretches: other marks stand over their middles. */
  bars?: "x" | "y";
  project?: MapProjector;
}

/** What a mark is drawn from: which groups or rows, where, and in which paints. */
export interface Drawing {
  input: ChartInput;
  layer: LayerInput;
  values: LayerValues;
  /** Groups or rows in drawn order, each with a place on the axes. */
  ids: Int32Array;
  stage: Stage;
  /**
   * All marks of the layer in this panel, in drawn order: those that lie faintly below too, where what is drawn is a
   * part of them. By these a mark is laid out that keeps the layout of all rows.
   */
  readonly whole: { values: LayerValues; ids: Int32Array };
  /** Groups or rows without a place, whether they pass or not: lines break off at those that measure nothing. */
  gaps: () => Int32Array;
  base: ShapeBase;
  /** 1 for groups or rows that the chart's own selection holds; nothing where that is not marked here. */
  picked: (ids: Int32Array) => Uint8Array | undefined;
  /** Labels are written: always, or of what is highlighted alone. */
  isLabelled: boolean;
  /** They are drawn over all others in the accent colour. */
  isLit: boolean;
}

/** The marks of a layer in one panel. */
export interface Marks {
  /** What can be pointed at and is counted, in the order in which the keyboard walks. */
  shapes: Shape[];
  /** What is drawn under them and cannot be pointed at. */
  beside?: Shape[];
  /** What is drawn over them and cannot be pointed at. */
  over?: Shape[];
  /** What rows() says of each mark of a shape, where that is not its channels. */
  plain?: (shape: number, mark: number) => PlainRow;
  /** What the tooltip says of a mark, where that is not its channels. */
  lines?: (shape: number, mark: number) => TooltipLine[];
}

/** Above this many points, drawing goes to the pixels themselves. */
export const MANY_POINTS = 20_000;

export interface MarkDraw {
  /**
   * How far its marks reach over their places, in pixels, where each is a disc by itself: a legend explains their
   * sizes and symbols, and a small picture can leave some out.
   */
  discs?: { reach: number };
  /** Each of its marks is a stroke by itself, whose width can follow values: a legend explains them. */
  strokes?: true;
  /** Its marks reach from zero to their value. */
  lengths?: true;
  /** Draws a disc for single rows, of which there can be very many. */
  crowds?: true;
  /** Values that an axis must hold for these groups; absent: those of its channels. */
  ends?(input: ChartInput, layer: LayerInput, answer: Answer, ids: Int32Array, axis: AxisName): Iterable<number>;
  shapes(drawing: Drawing): Marks;
}
