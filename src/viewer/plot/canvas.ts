import { Optional } from "../../core/finding/kit";
import { MANY_POINTS } from "../../core/mark/mark";
import type { Box, Scene } from "../../core/scene/scene";
import { Discs } from "../../core/scene/shapes/discs";
import { EDGE, type Shape } from "../../core/scene/shapes/shape";
import type { Ground } from "../../core/scene/theme";
import type { Crowd } from "./crowd";

/** Drawing of crowds; a dashboard has it where a chart may well have to draw one. */
export const CROWDS = new Optional<typeof Crowd>("crowds");

/** True for points that are so many, or of which it is asked how many, that their pixels are counted. */
const isCrowd = (discs: Discs): boolean => discs.shaded || (discs.ids.length > MANY_POINTS && CROWDS.isThere);

/** So far over the edge of a plot the largest disc reaches whose middle lies on it, in pixels. */
const WHOLE_DISC = 16;

/** The crowds of a canvas in the order in which they are drawn. */
const crowdsOf = new WeakMap<HTMLCanvasElement, Crowd[]>();

/** Draws all marks of a scene. The canvas already has the size of the scene times the pixel ratio. */
export function drawMarks(canvas: HTMLCanvasElement, scene: Scene, ground: Ground) {
  const ratio = window.devicePixelRatio || 1;
  const [width, height] = [Math.round(scene.width * ratio), Math.round(scene.height * ratio)];
  if (canvas.width !== width) canvas.width = width;
  if (canvas.height !== height) canvas.height = height;
  const context = canvas.getContext("2d");
  if (!context) return;
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.clearRect(0, 0, width, height);
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  const before = crowdsOf.get(canvas) ?? [];
  const crowds: Crowd[] = [];
  const draw = (shape: Shape, plot: Box) => {
    if (!(shape instanceof Discs && isCrowd(shape))) return shape.draw(context, ground);
    const kept = before[crowds.length];
    const crowd = kept?.goesOn(shape, plot, ratio, ground) ? kept : new (CROWDS.get())(shape, plot, ratio, ground);
    crowds.push(crowd);
    crowd.draw(context, shape);
  };
  for (const { plot, shapes } of scene.panels)
    for (const shape of shapes) {
      context.save();
      const edge = scene.clipped ? shape.edge : shape instanceof Discs ? WHOLE_DISC : EDGE;
      context.beginPath();
      context.rect(plot.x - edge, plot.y - edge, plot.width + 2 * edge, plot.height + 2 * edge);
      context.clip();
      draw(shape, plot);
      context.restore();
    }
  crowdsOf.set(canvas, crowds);
}
