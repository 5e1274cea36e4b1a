import type { Ground } from "../theme";
import { paintOf } from "../theme";

/** `ink`, `quiet`, `rule`, `brass`, … of the theme, `quay:2` of a palette, or a colour as written by the author. */
export type Paint = string;

export interface Point {
  x: number;
  y: number;
}

/** What shapes are drawn on: the part of a canvas context that they need. */
export interface Pen {
  globalAlpha: number;
  fillStyle: unknown;
  strokeStyle: unknown;
  lineWidth: number;
  lineJoin: string;
  lineCap: string;
  font: string;
  textAlign: string;
  textBaseline: string;
  beginPath(): void;
  moveTo(x: number, y: number): void;
  lineTo(x: number, y: number): void;
  rect(x: number, y: number, width: number, height: number): void;
  arc(x: number, y: number, radius: number, from: number, to: number): void;
  closePath(): void;
  fill(rule?: "evenodd"): void;
  stroke(): void;
  fillText(text: string, x: number, y: number): void;
  strokeText(text: string, x: number, y: number): void;
  createLinearGradient(
    x0: number,
    y0: number,
    x1: number,
    y1: number,
  ): { addColorStop(at: number, color: string): void };
}

/** How faint marks are that the chart's own selection leaves out, or that its legend fades. */
export const FAINT = 0.28;

/** The least radius of the dot that stands for a stretch of one vertex, in pixels. */
export const LEAST_DOT = 2.2;

/** What all shapes have: whose marks they are, in which colours, how much of the ink is seen. */
export interface ShapeBase {
  /** The layer that the marks belong to. */
  layer: number;
  /** Paints that `color` points into. */
  paints: Paint[];
  color: Uint16Array;
  /** 0 to 1. */
  opacity: number;
  /** What each mark stands for: a group or a row of the layer's data. */
  ids: Int32Array;
  /** Of each mark, 0 to 1, beside that of all of them. */
  alpha?: Float64Array;
  /** 1 where the mark is picked on its own chart; absent: nothing is picked there. */
  picked?: Uint8Array;
}

/** Opacities of single marks are told apart in so many steps. */
const ALPHA_STEPS = 20;

/** The outline of one mark, as an SVG part without a look. */
export interface Outline {
  tag: "rect" | "circle" | "path";
  attributes: Record<string, number | string>;
}

/** How far marks at the very edge of a plot may reach over it, in pixels. */
export const EDGE = 6;

/**
 * Marks of one layer in pixels, all of one sort. A shape knows how it is written as SVG and drawn on
 * a canvas, how far a place is from each of its marks, and where the middle of each is.
 */
export abstract class Shape implements ShapeBase {
  readonly layer: number;
  readonly paints: Paint[];
  readonly color: Uint16Array;
  readonly opacity: number;
  readonly ids: Int32Array;
  readonly alpha?: Float64Array;
  picked?: Uint8Array;
  /** How far its marks may reach over the edge of a plot beyond which there are more, in pixels. */
  readonly edge: number = EDGE;

  constructor(base: ShapeBase) {
    this.layer = base.layer;
    this.paints = base.paints;
    this.color = base.color;
    this.opacity = base.opacity;
    this.ids = base.ids;
    if (base.alpha) this.alpha = base.alpha;
    if (base.picked) this.picked = base.picked;
  }

  /** True for words, which are text wherever they are drawn. */
  get isText(): boolean {
    return false;
  }

  /** The marks as SVG elements; only presentation attributes, which a hash-only policy lets through. */
  abstract svg(ground: Ground): string;
  abstract draw(pen: Pen, ground: Ground): void;
  /** Where the tooltip of a mark points. */
  abstract middle(mark: number): Point;
  /** How far a place is from a mark, in pixels; beside a mark along the chart's axis may count for less. */
  abstract distance(mark: number, x: number, y: number, along: "x" | "y"): number;
  /** What is drawn round a mark under the pointer. */
  outline(mark: number): Outline {
    const { x, y } = this.middle(mark);
    return { tag: "circle", attributes: { cx: x, cy: y, r: 5 } };
  }

  paintAt(mark: number): Paint {
    return this.paints[this.color[mark] as number] as Paint;
  }

  isFaint(mark: number): boolean {
    return this.picked !== undefined && this.picked[mark] === 0;
  }

  /** The opacity of a mark beside that of all, in steps. */
  private alphaStep(mark: number): number {
    const alpha = this.alpha?.[mark];
    return alpha === undefined || alpha !== alpha
      ? ALPHA_STEPS
      : Math.round(Math.max(0, Math.min(1, alpha)) * ALPHA_STEPS);
  }

  /** Marks of one look together: colour by colour, full ink and faint apart. */
  protected byLook(draw: (marks: number[], color: string, alpha: number) => void, ground: Ground) {
    const buckets = new Map<number, number[]>();
    for (let mark = 0; mark < this.ids.length; mark++) {
      const look = (this.color[mark] as number) * 2 + (this.isFaint(mark) ? 1 : 0);
      const key = look * (ALPHA_STEPS + 1) + this.alphaStep(mark);
      const bucket = buckets.get(key);
      if (bucket) bucket.push(mark);
      else buckets.set(key, [mark]);
    }
    for (const [key, marks] of buckets) {
      const look = Math.floor(key / (ALPHA_STEPS + 1));
      const alpha = (key % (ALPHA_STEPS + 1)) / ALPHA_STEPS;
      draw(marks, paintOf(this.paints[look >> 1] as string, ground), (look & 1 ? FAINT : 1) * alpha * this.opacity);
    }
  }

  protected faintAttribute(mark: number): string {
    const opacity = (this.isFaint(mark) ? FAINT : 1) * (this.alphaStep(mark) / ALPHA_STEPS);
    return opacity < 1 ? ` opacity="${Math.round(opacity * 1000) / 1000}"` : "";
  }
}

/** A length with at most two decimals. */
export const px = (value: number) => String(Math.round(value * 100) / 100);

/** Only what can be a colour reaches an attribute. */
export function colorAttribute(paint: Paint, ground: Ground): string {
  const found = paintOf(paint, ground);
  return /^#[0-9a-fA-F]{3,8}$/.test(found) ? found : paintOf("ink", ground);
}
