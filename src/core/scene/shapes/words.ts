import { escapeText } from "../escape";
import { textWidth } from "../text-width";
import type { Ground } from "../theme";
import { colorAttribute, type Outline, type Point, px, Shape, type ShapeBase } from "./shape";

interface WordParts {
  x: Float64Array;
  /** Of the baseline's middle line: words stand about it. */
  y: Float64Array;
  texts: readonly string[];
  /** In pixels, for all or each. */
  size: number | Float64Array;
  anchor?: "start" | "middle" | "end";
  /** A rim of the ground, so that words over marks can be read. */
  rim?: boolean;
  bold?: boolean;
}

/** The part of a line's height by which capitals stand over its middle. */
const MIDDLE = 0.35;

/** Words at places. They are real text: the viewer writes them as SVG over its canvas. */
export class Words extends Shape {
  constructor(
    base: ShapeBase,
    readonly parts: WordParts,
  ) {
    super(base);
  }

  override get isText(): boolean {
    return true;
  }

  sizeOf(mark: number): number {
    return typeof this.parts.size === "number" ? this.parts.size : (this.parts.size[mark] as number);
  }

  svg(ground: Ground): string {
    const { x, y, texts, anchor = "middle", rim, bold } = this.parts;
    const around = rim
      ? ` stroke="${colorAttribute("sheet", ground)}" stroke-width="3" stroke-linejoin="round" paint-order="stroke"`
      : "";
    let out = "";
    for (let mark = 0; mark < this.ids.length; mark++) {
      const size = this.sizeOf(mark);
      out += `<text x="${px(x[mark] as number)}" y="${px((y[mark] as number) + size * MIDDLE)}" font-size="${px(size)}" fill="${colorAttribute(this.paintAt(mark), ground)}"${anchor === "start" ? "" : ` text-anchor="${anchor}"`}${bold ? ' font-weight="600"' : ""}${around}${this.faintAttribute(mark)}>${escapeText(texts[mark] as string)}</text>`;
    }
    return out;
  }

  draw() {
    // Words are written as text over the canvas.
  }

  private box(mark: number): { left: number; top: number; width: number; height: number } {
    const { x, y, texts, anchor = "middle" } = this.parts;
    const size = this.sizeOf(mark);
    const width = textWidth(texts[mark] as string, size);
    const part = anchor === "middle" ? width / 2 : anchor === "end" ? width : 0;
    return { left: (x[mark] as number) - part, top: (y[mark] as number) - size / 2, width, height: size };
  }

  middle(mark: number): Point {
    const { left, top, width, height } = this.box(mark);
    return { x: left + width / 2, y: top + height / 2 };
  }

  distance(mark: number, x: number, y: number): number {
    const { left, top, width, height } = this.box(mark);
    return Math.hypot(Math.max(left - x, 0, x - left - width), Math.max(top - y, 0, y - top - height));
  }

  override outline(mark: number): Outline {
    const { left, top, width, height } = this.box(mark);
    return { tag: "rect", attributes: { x: left - 2, y: top - 1, width: width + 4, height: height + 2 } };
  }
}
