import { type Ground, paintOf } from "../theme";
import { colorAttribute, type Outline, type Pen, type Point, px, Shape, type ShapeBase } from "./shape";

/** A closed line as x, y, x, y, … in pixels. */
export type Ring = Float64Array;

/** Filled shapes of one or several closed lines each, of which those within others are holes. */
export class Outlines extends Shape {
  override readonly edge = 1;
  private readonly boxes: Float64Array;

  constructor(
    base: ShapeBase,
    readonly rings: readonly (readonly Ring[])[],
    /** The hairline between neighbours, in pixels; 0 for none. */
    private readonly hairline = 0.7,
  ) {
    super(base);
    this.boxes = new Float64Array(rings.length * 4);
    rings.forEach((own, mark) => {
      let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
      for (const ring of own) {
        for (let at = 0; at < ring.length; at += 2) {
          left = Math.min(left, ring[at] as number);
          right = Math.max(right, ring[at] as number);
          top = Math.min(top, ring[at + 1] as number);
          bottom = Math.max(bottom, ring[at + 1] as number);
        }
      }
      this.boxes.set([left, top, right, bottom], mark * 4);
    });
  }

  private path(mark: number): string {
    let out = "";
    for (const ring of this.rings[mark] ?? []) {
      for (let at = 0; at < ring.length; at += 2)
        out += `${at ? "L" : "M"}${px(ring[at] as number)} ${px(ring[at + 1] as number)}`;
      out += "z";
    }
    return out;
  }

  svg(ground: Ground): string {
    const line = this.hairline
      ? ` stroke="${colorAttribute("sheet", ground)}" stroke-width="${px(this.hairline)}" stroke-linejoin="round"`
      : "";
    let out = "";
    for (let mark = 0; mark < this.ids.length; mark++) {
      const path = this.path(mark);
      if (path)
        out += `<path d="${path}" fill-rule="evenodd" fill="${colorAttribute(this.paintAt(mark), ground)}"${line}${this.faintAttribute(mark)}/>`;
    }
    return out;
  }

  draw(pen: Pen, ground: Ground) {
    pen.lineJoin = "round";
    pen.lineWidth = this.hairline;
    this.byLook((marks, color, alpha) => {
      pen.globalAlpha = alpha;
      pen.fillStyle = color;
      pen.strokeStyle = paintOf("sheet", ground);
      for (const mark of marks) {
        pen.beginPath();
        for (const ring of this.rings[mark] ?? []) {
          for (let at = 0; at < ring.length; at += 2) {
            if (at) pen.lineTo(ring[at] as number, ring[at + 1] as number);
            else pen.moveTo(ring[at] as number, ring[at + 1] as number);
          }
          pen.closePath();
        }
        pen.fill("evenodd");
        if (this.hairline) pen.stroke();
      }
    }, ground);
  }

  /** The middle of the largest closed line. */
  middle(mark: number): Point {
    let best: Point = { x: Number.NaN, y: Number.NaN };
    let most = -1;
    for (const ring of this.rings[mark] ?? []) {
      const { area, x, y } = centroid(ring);
      if (area > most) [most, best] = [area, { x, y }];
    }
    return best;
  }

  /** How wide a mark is at the height of its middle, in pixels: as far as words there may reach. */
  roomAt(mark: number): number {
    const { x, y } = this.middle(mark);
    let [left, right] = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
    for (const ring of this.rings[mark] ?? [])
      for (let at = 0, before = ring.length - 2; at < ring.length; before = at, at += 2) {
        const [y1, y2] = [ring[before + 1] as number, ring[at + 1] as number];
        if (y1 > y === y2 > y) continue;
        const [x1, x2] = [ring[before] as number, ring[at] as number];
        const edge = x1 + ((y - y1) / (y2 - y1)) * (x2 - x1);
        if (edge <= x) left = Math.max(left, edge);
        else right = Math.min(right, edge);
      }
    return Number.isFinite(right - left) ? 2 * Math.min(x - left, right - x) : 0;
  }

  distance(mark: number, x: number, y: number): number {
    const [left, top, right, bottom] = this.boxes.subarray(mark * 4, mark * 4 + 4) as unknown as [
      number,
      number,
      number,
      number,
    ];
    const outside = Math.hypot(Math.max(left - x, 0, x - right), Math.max(top - y, 0, y - bottom));
    if (outside > 40) return outside;
    let inside = false;
    let nearest = Number.POSITIVE_INFINITY;
    for (const ring of this.rings[mark] ?? []) {
      for (let at = 0, before = ring.length - 2; at < ring.length; before = at, at += 2) {
        const [x1, y1] = [ring[before] as number, ring[before + 1] as number];
        const [x2, y2] = [ring[at] as number, ring[at + 1] as number];
        if (y1 > y !== y2 > y && x < ((x2 - x1) * (y - y1)) / (y2 - y1) + x1) inside = !inside;
        nearest = Math.min(nearest, Math.hypot(x2 - x, y2 - y));
      }
    }
    return inside ? 0 : nearest;
  }

  override outline(mark: number): Outline {
    return { tag: "path", attributes: { d: this.path(mark) } };
  }
}

/** The area of a closed line and the middle of it. */
function centroid(ring: Ring): { area: number; x: number; y: number } {
  let [twice, x, y] = [0, 0, 0];
  for (let at = 0, before = ring.length - 2; at < ring.length; before = at, at += 2) {
    const [x1, y1] = [ring[before] as number, ring[before + 1] as number];
    const [x2, y2] = [ring[at] as number, ring[at + 1] as number];
    const cross = x1 * y2 - x2 * y1;
    twice += cross;
    x += (x1 + x2) * cross;
    y += (y1 + y2) * cross;
  }
  if (twice === 0) return { area: 0, x: ring[0] as number, y: ring[1] as number };
  return { area: Math.abs(twice / 2), x: x / (3 * twice), y: y / (3 * twice) };
}
