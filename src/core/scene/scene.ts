/**
 * What is to be seen, as plain data in pixels: made by charts, written as SVG at build time,
 * drawn on canvas in the viewer. Colours are tokens or palette places; a ground turns them into paint.
 */

export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** `ink`, `quiet`, `rule`, `brass`, … of the theme, `quay:2` of a palette, or a colour as written by the author. */
export type Paint = string;

export interface SceneText {
  x: number;
  y: number;
  text: string;
  size: number;
  paint: Paint;
  anchor?: "start" | "middle" | "end";
  bold?: boolean;
}

export interface SceneLine {
  x1: number;
  y1: number;
  x2: number;
  y2: number;
  paint: Paint;
}

interface MarksBase {
  /** The layer that the marks belong to. */
  layer: number;
  /** Paints that `color` points into. */
  paints: Paint[];
  color: Uint16Array;
  /** 0 to 1. */
  opacity: number;
  /** What the mark stands for: a group or a row of the layer's data. */
  ids: Int32Array;
  /** 1 where the mark is picked on its own chart; absent: nothing is picked there. */
  picked?: Uint8Array;
}

export interface BarMarks extends MarksBase {
  shape: "bars";
  x: Float64Array;
  y: Float64Array;
  width: Float64Array;
  height: Float64Array;
}

export interface PointMarks extends MarksBase {
  shape: "points";
  x: Float64Array;
  y: Float64Array;
  /** In pixels. */
  radius: number;
}

/** Several lines; line i runs over the vertices from `starts[i]` to `starts[i + 1]`. `NaN` breaks it. */
export interface LineMarks extends MarksBase {
  shape: "lines";
  x: Float64Array;
  y: Float64Array;
  starts: Int32Array;
  /** Of each line, into `paints`. */
  lineColor: Uint16Array;
  width: number;
}

export type Marks = BarMarks | PointMarks | LineMarks;

export interface Scene {
  width: number;
  height: number;
  plot: Box;
  /** Under the marks. */
  grid: SceneLine[];
  /** Faint marks below, then those in full ink. */
  marks: Marks[];
  /** Over the marks. */
  axisLines: SceneLine[];
  texts: SceneText[];
  /** Stands in the plot when nothing can be drawn. */
  message?: string;
}

/** How many marks a scene holds. */
export function markCount(scene: Scene): number {
  return scene.marks.reduce((count, marks) => count + marks.ids.length, 0);
}
