import { Optional } from "../../finding/kit";
import { taken } from "../../table/taken";
import type { Ground } from "../theme";
import { colorAttribute, type Outline, type Pen, type Point, px, Shape, type ShapeBase } from "./shape";
import { SYMBOLS } from "./symbols";

/** What all rows of a table look like, drawn or not: kept while picks change which of them are drawn. */
export interface RowPlaces {
  x: Float64Array;
  y: Float64Array;
  color: Uint16Array;
}

interface DiscParts {
  /** Pixels, one a mark; where `rows` are given they are found there once somebody asks. */
  x?: Float64Array;
  y?: Float64Array;
  rows?: RowPlaces;
  radius: number | Float64Array;
  symbol?: Uint8Array;
  /** Drawn as how many of them lie at each pixel. */
  shaded?: boolean;
}

/** How discs are drawn of which it is asked how many lie at each place; a dashboard has it where a chart asks that. */
export const SHADED = new Optional<(discs: Discs, ground: Ground) => string>("shaded discs");

const NO_PLACES = new Float64Array(0);

/** Filled circles, of one radius or each of its own, in pixels. */
export class Discs extends Shape {
  readonly rows?: RowPlaces;
  private xs: Float64Array | undefined;
  private ys: Float64Array | undefined;
  readonly radius: number | Float64Array;
  /** Of each mark, into the list of symbols; absent: discs. */
  readonly symbol?: Uint8Array;
  readonly shaded: boolean;

  constructor(base: ShapeBase, discs: DiscParts) {
    super(base);
    if (discs.symbol) this.symbol = discs.symbol;
    this.shaded = discs.shaded === true;
    if (discs.rows) this.rows = discs.rows;
    this.xs = discs.x;
    this.ys = discs.y;
    this.radius = discs.radius;
  }

  get x(): Float64Array {
    this.xs ??= taken(this.rows?.x ?? NO_PLACES, this.ids);
    return this.xs;
  }

  get y(): Float64Array {
    this.ys ??= taken(this.rows?.y ?? NO_PLACES, this.ids);
    return this.ys;
  }

  radiusAt(mark: number): number {
    return typeof this.radius === "number" ? this.radius : (this.radius[mark] as number);
  }

  private cornersOf(mark: number) {
    return this.symbol ? (SYMBOLS[(this.symbol[mark] as number) % SYMBOLS.length] ?? null) : null;
  }

  svg(ground: Ground): string {
    if (this.shaded) return SHADED.get()(this, ground);
    let out = "";
    for (let mark = 0; mark < this.ids.length; mark++) {
      const corners = this.cornersOf(mark);
      const look = `fill="${colorAttribute(this.paintAt(mark), ground)}"${this.faintAttribute(mark)}/>`;
      const { x, y } = this.middle(mark);
      const radius = this.radiusAt(mark);
      if (corners) {
        const path = corners.map(([right, down]) => `${px(x + right * radius)} ${px(y + down * radius)}`).join("L");
        out += `<path d="M${path}z" ${look}`;
      } else out += `<circle cx="${px(x)}" cy="${px(y)}" r="${px(radius)}" ${look}`;
    }
    return out;
  }

  draw(pen: Pen, ground: Ground) {
    this.byLook((marks, color, alpha) => {
      pen.globalAlpha = alpha;
      pen.fillStyle = color;
      pen.beginPath();
      for (const mark of marks) {
        const [x, y, radius] = [this.x[mark] as number, this.y[mark] as number, this.radiusAt(mark)];
        const corners = this.cornersOf(mark);
        if (corners) {
          corners.forEach(([right, down], at) => {
            if (at) pen.lineTo(x + right * radius, y + down * radius);
            else pen.moveTo(x + right * radius, y + down * radius);
          });
          pen.closePath();
          continue;
        }
        pen.moveTo(x + radius, y);
        pen.arc(x, y, radius, 0, 2 * Math.PI);
      }
      pen.fill();
    }, ground);
  }

  middle(mark: number): Point {
    return { x: this.x[mark] as number, y: this.y[mark] as number };
  }

  distance(mark: number, x: number, y: number): number {
    const away = Math.hypot((this.x[mark] as number) - x, (this.y[mark] as number) - y);
    return typeof this.radius === "number" ? away : Math.max(0, away - this.radiusAt(mark)) + away * 1e-3;
  }

  override outline(mark: number): Outline {
    const { x, y } = this.middle(mark);
    return { tag: "circle", attributes: { cx: x, cy: y, r: Math.max(5, this.radiusAt(mark) + 1) } };
  }
}
