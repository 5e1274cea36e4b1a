import { differences } from "../../core/link/index/changes";
import { channelsOf } from "../../core/scene/hexadecimal";
import type { Box } from "../../core/scene/scene";
import type { Discs } from "../../core/scene/shapes/discs";
import { darkness } from "../../core/scene/shapes/shaded";
import { FAINT } from "../../core/scene/shapes/shape";
import { type Ground, paintOf } from "../../core/scene/theme";

/** Points at the very edge are drawn whole, as paths would draw them. */
const BORDER = 6;
/** Where more of the rows than this have come or gone, all are counted anew. */
const FOLLOWED_PART = 1 / 6;

interface Frame {
  left: number;
  top: number;
  width: number;
  height: number;
  ratio: number;
  /** Each point is a square of so many pixels. */
  side: number;
}

/**
 * Many points on a canvas: each pixel counts what falls on it, by colour, and is painted as dark as that many
 * points of the given opacity would make it. It stays with its canvas: while a brush moves only the pixels
 * of points that come or go are counted again.
 */
export class Crowd {
  private readonly frame: Frame;
  private readonly key: string;
  /** Of each pixel, side by side: how many points reach it, and the sums of their reds, greens and blues. */
  private sums: Float32Array;
  private readonly paints: [number, number, number][];
  private readonly image: ImageData;
  private readonly layer: OffscreenCanvas;
  /** The rows that are counted in it; nothing where points are marked one by one. */
  private counted: Uint8Array | undefined;
  private rows: Discs["rows"];

  constructor(discs: Discs, plot: Box, ratio: number, ground: Ground) {
    this.key = keyOf(discs, plot, ratio, ground);
    this.frame = {
      left: Math.floor((plot.x - BORDER) * ratio),
      top: Math.floor((plot.y - BORDER) * ratio),
      width: Math.ceil((plot.width + 2 * BORDER) * ratio),
      height: Math.ceil((plot.height + 2 * BORDER) * ratio),
      ratio,
      side: Math.max(2, Math.round(discs.radiusAt(0) * ratio)),
    };
    const { width, height } = this.frame;
    this.paints = discs.paints.map((paint) => channelsOf(paintOf(paint, ground)));
    this.sums = new Float32Array(width * height * 4);
    this.image = new ImageData(width, height);
    this.layer = new OffscreenCanvas(width, height);
  }

  /** True if it can go on from what it has drawn. */
  goesOn(discs: Discs, plot: Box, ratio: number, ground: Ground): boolean {
    return this.key === keyOf(discs, plot, ratio, ground);
  }

  draw(context: CanvasRenderingContext2D, discs: Discs) {
    if (!this.follow(discs)) this.recount(discs);
    this.layer.getContext("2d")?.putImageData(this.image, 0, 0);
    context.save();
    context.globalAlpha = 1;
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.drawImage(this.layer, this.frame.left, this.frame.top);
    context.restore();
  }

  /** The pixel of a place; -1 outside. */
  private cellOf(x: number, y: number): number {
    const { left, top, width, height, ratio } = this.frame;
    const [px, py] = [(x * ratio - left) | 0, (y * ratio - top) | 0];
    return px < 0 || py < 0 || px >= width || py >= height ? -1 : py * width + px;
  }

  private recount(discs: Discs) {
    const { sums, paints } = this;
    sums.fill(0);
    const { x, y, color, picked } = discs;
    for (let mark = 0; mark < x.length; mark++) {
      const cell = this.cellOf(x[mark] as number, y[mark] as number);
      if (cell < 0) continue;
      add(sums, cell * 4, paints[color[mark] as number] as [number, number, number], picked?.[mark] === 0 ? FAINT : 1);
    }
    spreadSquares(sums, this.frame);
    this.rows = discs.rows;
    this.counted = discs.rows && !picked ? rowsIn(discs) : undefined;
    const dark = darknessOf(discs, sums);
    for (let at = 0; at < sums.length; at += 4) this.paint(at, dark);
  }

  /** Brings the pixels of rows that came or went up to date. False where that is no shorter way. */
  private follow(discs: Discs): boolean {
    const { counted } = this;
    const { rows } = discs;
    const isSame =
      counted && rows && rows.x === this.rows?.x && rows.y === this.rows.y && rows.color === this.rows.color;
    // How dark a shade is goes by the darkest pixel of all.
    if (!isSame || discs.picked || discs.shaded) return false;
    const now = rowsIn(discs);
    const changed = differences(counted, now, Math.floor(now.length * FOLLOWED_PART));
    if (!changed) return false;
    const { sums, paints } = this;
    const dark = darknessOf(discs, sums);
    for (const change of changed) {
      const row = change < 0 ? ~change : change;
      const paint = paints[rows.color[row] as number] as [number, number, number];
      this.eachPixel(rows, row, (at) => {
        add(sums, at, paint, change < 0 ? -1 : 1);
        this.paint(at, dark);
      });
    }
    this.counted = now;
    return true;
  }

  /** The places among the sums of the pixels that the square of a row's point covers. */
  private eachPixel({ x, y }: NonNullable<Discs["rows"]>, row: number, visit: (at: number) => void) {
    const { width, side } = this.frame;
    const cell = this.cellOf(x[row] as number, y[row] as number);
    if (cell < 0) return;
    for (let down = 0; down < side; down++)
      for (let right = 0; right < side; right++) {
        const at = (cell + down * width + right) * 4;
        if (at < this.sums.length) visit(at);
      }
  }

  private paint(at: number, dark: Uint8Array) {
    const { sums } = this;
    const { data } = this.image;
    const count = sums[at] as number;
    if (count === 0) {
      data[at + 3] = 0;
      return;
    }
    data[at] = (sums[at + 1] as number) / count;
    data[at + 1] = (sums[at + 2] as number) / count;
    data[at + 2] = (sums[at + 3] as number) / count;
    data[at + 3] = dark[Math.min(dark.length - 1, Math.round(count * 4))] as number;
  }
}

const keyOf = (discs: Discs, plot: Box, ratio: number, ground: Ground): string => {
  const { paints, opacity, shaded, layer } = discs;
  return JSON.stringify([paints, opacity, shaded, layer, discs.radiusAt(0), plot, ratio, ground]);
};

/** 1 for the rows that points stand for. */
function rowsIn({ ids, rows }: Discs): Uint8Array {
  const there = new Uint8Array(rows?.x.length ?? 0);
  for (let mark = 0; mark < ids.length; mark++) there[ids[mark] as number] = 1;
  return there;
}

function add(sums: Float32Array, at: number, paint: readonly [number, number, number], weight: number) {
  sums[at] = (sums[at] as number) + weight;
  sums[at + 1] = (sums[at + 1] as number) + paint[0] * weight;
  sums[at + 2] = (sums[at + 2] as number) + paint[1] * weight;
  sums[at + 3] = (sums[at + 3] as number) + paint[2] * weight;
}

/** Lets every pixel reach over a square of pixels to its right and below: sums are spread, not points. */
function spreadSquares(sums: Float32Array, { width, side }: Frame) {
  // A pixel at the left edge takes over the right edge of the row above; both lie in the empty border.
  for (const step of [4, width * 4]) {
    for (let at = sums.length - 1; at >= step * (side - 1); at--) {
      let sum = sums[at] as number;
      for (let reach = 1; reach < side; reach++) sum += sums[at - reach * step] as number;
      sums[at] = sum;
    }
  }
}

/** Most counts that are told apart. */
const MOST_COUNTS = 4096;

/** How dark so many quarters of a point are, looked up instead of worked out for each pixel. */
function darknessOf({ shaded, opacity }: Discs, sums: Float32Array): Uint8Array {
  if (!shaded) {
    const each = Math.min(0.85, 0.6 * opacity);
    return Uint8Array.from({ length: 64 }, (_, count) => 255 * (1 - (1 - each) ** (count / 4)));
  }
  let most = 0;
  for (let at = 0; at < sums.length; at += 4) if ((sums[at] as number) > most) most = sums[at] as number;
  const length = Math.min(MOST_COUNTS, Math.ceil(most * 4) + 1);
  return Uint8Array.from({ length }, (_, count) => 255 * opacity * darkness(count / 4, most));
}
