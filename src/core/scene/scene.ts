import type { Paint, Shape } from "./shapes/shape";

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

export interface SceneText {
  x: number;
  y: number;
  text: string;
  size: number;
  paint: Paint;
  anchor?: "start" | "middle" | "end";
  bold?: boolean;
  /** Rises by 45 degrees to its end, about the place it stands at. */
  slanted?: boolean;
}

export interface SceneLine {
  x1: number;
  y1: number;
  x2: number;
  y2: number;
  paint: Paint;
}

/** Outlines under everything else, as on a map: SVG path data. */
export interface SceneUnder {
  path: string;
  fill?: Paint;
  stroke: Paint;
  clip: Box;
}

export interface Scene {
  width: number;
  height: number;
  /** Plots with what is drawn in each: faint marks below, then those in full ink. */
  panels: { plot: Box; shapes: Shape[] }[];
  /** Marks may lie outside of their plots, and are cut off there: the ends of an axis are not those of its values. */
  clipped?: true;
  under: SceneUnder[];
  /** Under the marks. */
  grid: SceneLine[];
  /** Over the marks. */
  axisLines: SceneLine[];
  texts: SceneText[];
  /** Stands in the plot when nothing can be drawn. */
  message?: string;
}

/** How many marks a scene holds. */
export function markCount({ panels }: Scene): number {
  return panels.flatMap(({ shapes }) => shapes).reduce((count, { ids }) => count + ids.length, 0);
}
