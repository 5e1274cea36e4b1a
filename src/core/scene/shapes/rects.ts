import type { Ground } from "../theme";
import { colorAttribute, type Outline, type Pen, type Point, px, Shape, type ShapeBase } from "./shape";

/** Upright boxes: bars, cells, bands. All in pixels. */
export class Rects extends Shape {
  override readonly edge = 1;
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly width: Float64Array;
  readonly height: Float64Array;

  constructor(base: ShapeBase, boxes: { x: Float64Array; y: Float64Array; width: Float64Array; height: Float64Array }) {
    super(base);
    this.x = boxes.x;
    this.y = boxes.y;
    this.width = boxes.width;
    this.height = boxes.height;
  }

  svg(ground: Ground): string {
    let out = "";
    for (let mark = 0; mark < this.ids.length; mark++) {
      const [x, y, width, height] = this.box(mark);
      out += `<path d="M${px(x)} ${px(y)}h${px(width)}v${px(height)}h${px(-width)}z" fill="${colorAttribute(this.paintAt(mark), ground)}"${this.faintAttribute(mark)}/>`;
    }
    return out;
  }

  draw(pen: Pen, ground: Ground) {
    this.byLook((marks, color, alpha) => {
      pen.globalAlpha = alpha;
      pen.fillStyle = color;
      pen.beginPath();
      for (const mark of marks) pen.rect(...this.box(mark));
      pen.fill();
    }, ground);
  }

  private box(mark: number): [number, number, number, number] {
    return [this.x[mark] as number, this.y[mark] as number, this.width[mark] as number, this.height[mark] as number];
  }

  middle(mark: number): Point {
    const [x, y, width, height] = this.box(mark);
    return { x: x + width / 2, y: y + height / 2 };
  }

  distance(mark: number, x: number, y: number, along: "x" | "y"): number {
    const [left, top, width, height] = this.box(mark);
    const dx = Math.max(left - x, 0, x - left - width);
    const dy = Math.max(top - y, 0, y - top - height);
    // Beside a bar, but over its place on the axis, is near enough: thin bars need not be hit.
    return along === "x" ? dx * 4 + dy * 0.05 : dy * 4 + dx * 0.05;
  }

  override outline(mark: number): Outline {
    const [x, y, width, height] = this.box(mark);
    return { tag: "rect", attributes: { x, y, width, height } };
  }
}
