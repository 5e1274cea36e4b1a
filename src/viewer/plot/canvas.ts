import type { Box, Scene } from "../../core/scene/scene";
import { Discs } from "../../core/scene/shapes/discs";
import { darkness } from "../../core/scene/shapes/shaded";
import { FAINT } from "../../core/scene/shapes/shape";
import { channelsOf, type Ground, paintOf } from "../../core/scene/theme";

/** Above this many points, drawing goes to the pixels themselves. */
const MANY_POINTS = 20_000;

/** Lets every cell reach over a square of cells to its right and below. */
function spreadSquares(plane: Float32Array, width: number, height: number, side: number) {
  // A cell at the left edge takes over the right edge of the row above; both lie in the empty border.
  for (const step of [1, width]) {
    for (let cell = width * height - 1; cell >= step * (side - 1); cell--) {
      let sum = plane[cell] as number;
      for (let reach = 1; reach < side; reach++) sum += plane[cell - reach * step] as number;
      plane[cell] = sum;
    }
  }
}

/** Most counts that are told apart. */
const MOST_COUNTS = 4096;

/** How dark so many quarters of a point are, looked up instead of worked out for each pixel. */
function darknessOf({ shaded, opacity }: Discs, counts: Float32Array): Uint8Array {
  if (!shaded) {
    const each = Math.min(0.85, 0.6 * opacity);
    return Uint8Array.from({ length: 64 }, (_, count) => 255 * (1 - (1 - each) ** (count / 4)));
  }
  let most = 0;
  for (let cell = 0; cell < counts.length; cell++) if ((counts[cell] as number) > most) most = counts[cell] as number;
  const length = Math.min(MOST_COUNTS, Math.ceil(most * 4) + 1);
  return Uint8Array.from({ length }, (_, count) => 255 * opacity * darkness(count / 4, most));
}

/**
 * Many points: each pixel counts what falls on it, by colour, and is painted as dark as that many
 * points of the given opacity would make it.
 */
function drawCounts(context: CanvasRenderingContext2D, discs: Discs, plot: Box, ratio: number, ground: Ground) {
  // Points at the very edge are drawn whole, as paths would draw them.
  const border = 6;
  const [left, top] = [Math.floor((plot.x - border) * ratio), Math.floor((plot.y - border) * ratio)];
  const [width, height] = [Math.ceil((plot.width + 2 * border) * ratio), Math.ceil((plot.height + 2 * border) * ratio)];
  const paints = discs.paints.map((paint) => channelsOf(paintOf(paint, ground)));
  const size = width * height;
  const counts = new Float32Array(size);
  const red = new Float32Array(size);
  const green = new Float32Array(size);
  const blue = new Float32Array(size);
  const { x, y, color, picked } = discs;
  for (let i = 0; i < x.length; i++) {
    const weight = picked && picked[i] === 0 ? FAINT : 1;
    const paint = paints[color[i] as number] as [number, number, number];
    const px = ((x[i] as number) * ratio - left) | 0;
    const py = ((y[i] as number) * ratio - top) | 0;
    if (px < 0 || py < 0 || px >= width || py >= height) continue;
    const cell = py * width + px;
    counts[cell] = (counts[cell] as number) + weight;
    red[cell] = (red[cell] as number) + paint[0] * weight;
    green[cell] = (green[cell] as number) + paint[1] * weight;
    blue[cell] = (blue[cell] as number) + paint[2] * weight;
  }
  // Each point is a small square: sums are spread over the pixels, not over the points.
  const side = Math.max(2, Math.round(discs.radiusAt(0) * ratio));
  for (const plane of [counts, red, green, blue]) spreadSquares(plane, width, height, side);
  const image = new ImageData(width, height);
  const { data } = image;
  const dark = darknessOf(discs, counts);
  for (let cell = 0; cell < size; cell++) {
    const count = counts[cell] as number;
    if (count === 0) continue;
    const at = cell * 4;
    data[at] = (red[cell] as number) / count;
    data[at + 1] = (green[cell] as number) / count;
    data[at + 2] = (blue[cell] as number) / count;
    data[at + 3] = dark[Math.min(dark.length - 1, Math.round(count * 4))] as number;
  }
  const layer = new OffscreenCanvas(width, height);
  layer.getContext("2d")?.putImageData(image, 0, 0);
  context.save();
  context.globalAlpha = 1;
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.drawImage(layer, left, top);
  context.restore();
}

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
  for (const { plot, shapes } of scene.panels) {
    context.save();
    context.beginPath();
    context.rect(plot.x - 6, plot.y - 6, plot.width + 12, plot.height + 12);
    context.clip();
    for (const shape of shapes) {
      if (shape instanceof Discs && (shape.shaded || shape.ids.length > MANY_POINTS))
        drawCounts(context, shape, plot, ratio, ground);
      else shape.draw(context, ground);
    }
    context.restore();
  }
}
