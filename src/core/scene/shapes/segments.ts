import type { Ground } from "../theme";
import { colorAttribute, type Outline, type Pen, type Point, px, Shape, type ShapeBase } from "./shape";

interface SegmentParts {
  x1: Float64Array;
  y1: Float64Array;
  x2: Float64Array;
  y2: Float64Array;
  /** Of the stroke, in pixels; of each by itself, or of all. */
  width: number | Float64Array;
}

/** Straight strokes between two places each. */
export class Segments extends Shape {
  override readonly edge = 1;
  constructor(
    base: ShapeBase,
    readonly parts: SegmentParts,
  ) {
    super(base);
  }

  private ends(mark: number): [number, number, number, number] {
    const { x1, y1, x2, y2 } = this.parts;
    return [x1[mark] as number, y1[mark] as number, x2[mark] as number, y2[mark] as number];
  }

  private widthAt(mark: number): number {
    const { width } = this.parts;
    return typeof width === "number" ? width : (width[mark] as number);
  }

  svg(ground: Ground): string {
    let out = "";
    for (let mark = 0; mark < this.ids.length; mark++) {
      const [x1, y1, x2, y2] = this.ends(mark);
      const stroke = colorAttribute(this.paintAt(mark), ground);
      out += `<path d="M${px(x1)} ${px(y1)}L${px(x2)} ${px(y2)}" stroke="${stroke}" stroke-width="${px(this.widthAt(mark))}" fill="none"${this.faintAttribute(mark)}/>`;
    }
    return out;
  }

  draw(pen: Pen, ground: Ground) {
    pen.lineCap = "butt";
    const { width } = this.parts;
    const trace = (marks: readonly number[]) => {
      pen.beginPath();
      for (const mark of marks) {
        const [x1, y1, x2, y2] = this.ends(mark);
        pen.moveTo(x1, y1);
        pen.lineTo(x2, y2);
      }
      pen.stroke();
    };
    this.byLook((marks, color, alpha) => {
      pen.globalAlpha = alpha;
      pen.strokeStyle = color;
      if (typeof width === "number") {
        pen.lineWidth = width;
        trace(marks);
        return;
      }
      for (const mark of marks) {
        // A pen takes no width of 0, and would keep the last.
        if (!(this.widthAt(mark) > 0)) continue;
        pen.lineWidth = this.widthAt(mark);
        trace([mark]);
      }
    }, ground);
  }

  middle(mark: number): Point {
    const [x1, y1, x2, y2] = this.ends(mark);
    return { x: (x1 + x2) / 2, y: (y1 + y2) / 2 };
  }

  distance(mark: number, x: number, y: number): number {
    const [x1, y1, x2, y2] = this.ends(mark);
    const length = (x2 - x1) ** 2 + (y2 - y1) ** 2;
    const part = length ? Math.max(0, Math.min(1, ((x - x1) * (x2 - x1) + (y - y1) * (y2 - y1)) / length)) : 0;
    return Math.hypot(x - x1 - part * (x2 - x1), y - y1 - part * (y2 - y1));
  }

  override outline(mark: number): Outline {
    const [x1, y1, x2, y2] = this.ends(mark);
    return { tag: "path", attributes: { d: `M${px(x1)} ${px(y1)}L${px(x2)} ${px(y2)}` } };
  }
}
