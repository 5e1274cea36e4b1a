import { type Ground, paintOf } from "../theme";
import { colorAttribute, FAINT, LEAST_DOT, type Pen, type Point, px, Shape, type ShapeBase } from "./shape";

export interface LineParts {
  /** Vertices in pixels; `NaN` breaks a line. */
  x: Float64Array;
  y: Float64Array;
  /** Line i runs over the vertices from `starts[i]` to `starts[i + 1]`. */
  starts: Int32Array;
  /** Of each line, into `paints`. */
  lineColor: Uint16Array;
  /** Of the stroke, for all lines or each, in pixels. */
  width: number | Float64Array;
  /** Each piece of a line has the colour of the vertex that it leads to, and not the line's. */
  byVertex?: boolean;
  /** Lines go on level from one vertex to the next along this axis. */
  steps?: "x" | "y";
}

/** Several lines, each over its own vertices; a mark is a vertex. */
export class Lines extends Shape {
  override readonly edge = 1;
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly starts: Int32Array;
  readonly lineColor: Uint16Array;
  readonly width: number | Float64Array;
  private readonly steps: LineParts["steps"];
  private readonly byVertex: boolean;

  constructor(base: ShapeBase, parts: LineParts) {
    super(base);
    this.x = parts.x;
    this.y = parts.y;
    this.starts = parts.starts;
    this.lineColor = parts.lineColor;
    this.width = parts.width;
    this.steps = parts.steps;
    this.byVertex = parts.byVertex === true;
  }

  private widthOf(line: number): number {
    return typeof this.width === "number" ? this.width : (this.width[line] as number);
  }

  svg(ground: Ground): string {
    let out = "";
    for (let line = 0; line + 1 < this.starts.length; line++)
      for (const [color, pieces] of this.byColor(
        line,
        this.stretches(line, () => true),
      ))
        out += this.piecesSvg(line, pieces, colorAttribute(this.paints[color] as string, ground));
    return out;
  }

  private piecesSvg(line: number, pieces: readonly [number, number][], stroke: string): string {
    let path = "";
    let dots = "";
    const at = (i: number) => `${px(this.x[i] as number)} ${px(this.y[i] as number)}`;
    for (const [from, to] of pieces) {
      if (to - from === 1) {
        const [cx, cy] = at(from).split(" ");
        dots += `<circle cx="${cx}" cy="${cy}" r="${px(this.dotOf(line))}" fill="${stroke}"/>`;
        continue;
      }
      path += `M${at(from)}`;
      for (let i = from + 1; i < to; i++)
        path += `${this.steps ? `L${this.corner(i).map(px).join(" ")}` : ""}L${at(i)}`;
    }
    const drawn = path
      ? `<path d="${path}" fill="none" stroke="${stroke}" stroke-width="${px(this.widthOf(line))}" stroke-linejoin="round" stroke-linecap="round"/>`
      : "";
    return drawn + dots;
  }

  /** Stretches of a line by their colours; by vertex, a stretch is parted where its colour changes. */
  private byColor(line: number, stretches: [number, number][]): Map<number, [number, number][]> {
    if (!this.byVertex) return new Map([[this.lineColor[line] as number, stretches]]);
    const found = new Map<number, [number, number][]>();
    const add = (color: number, piece: [number, number]) => {
      const own = found.get(color);
      if (own) own.push(piece);
      else found.set(color, [piece]);
    };
    for (const [from, to] of stretches) {
      if (to - from === 1) add(this.color[from] as number, [from, to]);
      for (let start = from, i = from + 1; i < to; i++) {
        const color = this.color[i] as number;
        if (i + 1 < to && this.color[i + 1] === color) continue;
        add(color, [start, i + 1]);
        start = i;
      }
    }
    return found;
  }

  /** How large the dot of a stretch of one vertex is, in pixels. */
  private dotOf(line: number): number {
    return Math.max(LEAST_DOT, this.widthOf(line));
  }

  /** Stretches of vertices of a line that are held and have a place, each from one to before another. */
  private stretches(line: number, holds: (vertex: number) => boolean): [number, number][] {
    const found: [number, number][] = [];
    const [from, to] = this.spanOf(line);
    let start = -1;
    for (let i = from; i <= to; i++) {
      const isThere = i < to && this.x[i] === this.x[i] && this.y[i] === this.y[i] && holds(i);
      if (isThere && start < 0) start = i;
      if (!isThere && start >= 0) {
        found.push([start, i]);
        start = -1;
      }
    }
    return found;
  }

  /** Where a line that goes in steps turns before a vertex. */
  private corner(vertex: number): [number, number] {
    const [here, before] = [vertex, vertex - 1];
    return this.steps === "x"
      ? [this.x[here] as number, this.y[before] as number]
      : [this.x[before] as number, this.y[here] as number];
  }

  private spanOf(line: number): [number, number] {
    return [this.starts[line] as number, this.starts[line + 1] as number];
  }

  draw(pen: Pen, ground: Ground) {
    pen.lineJoin = "round";
    pen.lineCap = "round";
    const { picked } = this;
    for (let line = 0; line + 1 < this.starts.length; line++) {
      pen.lineWidth = this.widthOf(line);
      const stroke = (alpha: number, holds: (vertex: number) => boolean) => {
        pen.globalAlpha = alpha;
        for (const [color, pieces] of this.byColor(line, this.stretches(line, holds))) {
          pen.strokeStyle = paintOf(this.paints[color] as string, ground);
          this.stroke(pen, line, pieces);
        }
      };
      if (picked) stroke(FAINT * this.opacity, () => true);
      stroke(this.opacity, picked ? (i) => picked[i] === 1 : () => true);
    }
  }

  /** Pieces of one line, in the pen's colour. */
  private stroke(pen: Pen, line: number, all: readonly [number, number][]) {
    pen.beginPath();
    for (const [from, to] of all) {
      pen.moveTo(this.x[from] as number, this.y[from] as number);
      for (let i = from + 1; i < to; i++) {
        if (this.steps) pen.lineTo(...this.corner(i));
        pen.lineTo(this.x[i] as number, this.y[i] as number);
      }
    }
    pen.stroke();
    pen.fillStyle = pen.strokeStyle;
    for (const [from, to] of all) {
      if (to - from > 1) continue;
      pen.beginPath();
      pen.arc(this.x[from] as number, this.y[from] as number, this.dotOf(line), 0, 2 * Math.PI);
      pen.fill();
    }
  }

  middle(mark: number): Point {
    return { x: this.x[mark] as number, y: this.y[mark] as number };
  }

  distance(mark: number, x: number, y: number): number {
    return Math.hypot((this.x[mark] as number) - x, (this.y[mark] as number) - y);
  }
}
