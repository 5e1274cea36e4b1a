import { type Ground, paintOf } from "../theme";
import { colorAttribute, FAINT, LEAST_DOT, type Pen, type Point, px, Shape, type ShapeBase } from "./shape";

export interface AreaEdges {
  /** Where each vertex stands along the axis, and the two edges there, in pixels; `NaN` breaks an area. */
  along: Float64Array;
  from: Float64Array;
  to: Float64Array;
  /** Area i runs over the vertices from `starts[i]` to `starts[i + 1]`. */
  starts: Int32Array;
}

export interface AreaParts extends AreaEdges {
  /** The axis along which areas run. */
  axis: "x" | "y";
  /** The same areas as they are drawn, where they bend at places that are no marks of theirs. */
  bends?: AreaEdges | undefined;
  areaColor: Uint16Array;
  /** The colour stands at the edge `to` and becomes the ground at the edge `from`. */
  gradient?: boolean;
  /** Edges go on level from one vertex to the next. */
  steps?: boolean;
}

type Vertex = readonly [x: number, y: number];

/** Filled stretches between two edges; a mark is a vertex. */
export class Areas extends Shape {
  override readonly edge = 1;
  constructor(
    base: ShapeBase,
    private readonly parts: AreaParts,
  ) {
    super(base);
  }

  private at(along: number, across: number): Vertex {
    return this.parts.axis === "x" ? [along, across] : [across, along];
  }

  /** From where to where along the axis the stretches of an area go that are picked. */
  private stretches(area: number, picked: Uint8Array): [number, number][] {
    const { along, starts } = this.parts;
    const found: [number, number][] = [];
    let open = false;
    for (let i = starts[area] as number; i < (starts[area + 1] as number); i++) {
      const place = along[i] as number;
      if (open && picked[i]) (found.at(-1) as [number, number])[1] = place;
      else if (picked[i]) found.push([place, place]);
      open = picked[i] === 1;
    }
    return found;
  }

  /**
   * The outlines of an area: one for each stretch without a break.
   * @param within from where to where it is wanted; everywhere if unsaid
   */
  private outlines(area: number, within?: readonly [number, number][]): Vertex[][] {
    const { along, from, to, starts } = this.parts.bends ?? this.parts;
    const isWanted = (place: number) =>
      !within || within.some(([a, b]) => place >= Math.min(a, b) && place <= Math.max(a, b));
    const found: Vertex[][] = [];
    let there: Vertex[] = [];
    let back: Vertex[] = [];
    const close = () => {
      if (there.length) found.push([...there, ...back.reverse()]);
      there = [];
      back = [];
    };
    for (let i = starts[area] as number; i < (starts[area + 1] as number); i++) {
      const [place, low, high] = [along[i] as number, from[i] as number, to[i] as number];
      if (place !== place || low !== low || high !== high || !isWanted(place)) close();
      else {
        if (this.parts.steps && there.length) {
          there.push(this.at(place, to[i - 1] as number));
          back.push(this.at(place, from[i - 1] as number));
        }
        there.push(this.at(place, high));
        back.push(this.at(place, low));
      }
    }
    close();
    return found;
  }

  private paintOfArea(area: number): string {
    return this.paints[this.parts.areaColor[area] as number] as string;
  }

  /** From where to where a gradient runs, in pixels across: the outermost edges of an area. */
  private reach(area: number): [number, number] {
    const { from, to, starts } = this.parts;
    let [base, peak] = [Number.NaN, Number.NaN];
    for (let i = starts[area] as number; i < (starts[area + 1] as number); i++) {
      if (from[i] !== from[i]) continue;
      if (!(Math.abs((to[i] as number) - (from[i] as number)) <= Math.abs(peak - base)))
        [base, peak] = [from[i] as number, to[i] as number];
    }
    return [base, peak];
  }

  svg(ground: Ground): string {
    let out = "";
    for (let area = 0; area + 1 < this.parts.starts.length; area++) {
      const path = this.outlines(area)
        .map((outline) => `M${outline.map(([x, y]) => `${px(x)} ${px(y)}`).join("L")}z`)
        .join("");
      if (!path) continue;
      const fill = colorAttribute(this.paintOfArea(area), ground);
      if (!this.parts.gradient) {
        out += `<path d="${path}" fill="${fill}"/>`;
        continue;
      }
      const [base, peak] = this.reach(area);
      const [[x1, y1], [x2, y2]] = [this.at(0, base), this.at(0, peak)];
      // Definitions that are the same have the same name, so that names are the same in every build.
      const id = `shade-${[fill.slice(1), ...[x1, y1, x2, y2].map((end) => Math.round(end * 100))].join("-")}`;
      out += `<linearGradient id="${id}" gradientUnits="userSpaceOnUse" x1="${px(x1)}" y1="${px(y1)}" x2="${px(x2)}" y2="${px(y2)}"><stop offset="0" stop-color="${fill}" stop-opacity="0"/><stop offset="1" stop-color="${fill}"/></linearGradient><path d="${path}" fill="url(#${id})"/>`;
    }
    return out;
  }

  draw(pen: Pen, ground: Ground) {
    for (let area = 0; area + 1 < this.parts.starts.length; area++) {
      const fill = paintOf(this.paintOfArea(area), ground);
      pen.fillStyle = fill;
      if (this.parts.gradient) {
        const [base, peak] = this.reach(area);
        if (base !== base) continue;
        const shade = pen.createLinearGradient(...this.at(0, base), ...this.at(0, peak));
        shade.addColorStop(0, `${fill}00`);
        shade.addColorStop(1, fill);
        pen.fillStyle = shade;
      }
      pen.globalAlpha = this.opacity * (this.picked ? FAINT : 1);
      fillAll(pen, this.outlines(area));
      if (!this.picked) continue;
      pen.globalAlpha = this.opacity;
      fillAll(pen, this.outlines(area, this.stretches(area, this.picked)));
    }
  }

  middle(mark: number): Point {
    const [x, y] = this.at(this.parts.along[mark] as number, this.parts.to[mark] as number);
    return { x, y };
  }

  distance(mark: number, x: number, y: number): number {
    const { axis, along, from, to } = this.parts;
    const [place, across] = axis === "x" ? [x, y] : [y, x];
    const low = Math.min(from[mark] as number, to[mark] as number);
    const high = Math.max(from[mark] as number, to[mark] as number);
    // Anywhere between the edges is on the mark; the vertex nearest along the axis is meant.
    return Math.abs((along[mark] as number) - place) + Math.max(low - across, 0, across - high);
  }
}

/** Fills outlines in the pen's colour; one of a single place is a dot there. */
function fillAll(pen: Pen, outlines: readonly Vertex[][]) {
  pen.beginPath();
  for (const outline of outlines) {
    const [x, y] = outline[0] as Vertex;
    pen.moveTo(x, y);
    if (outline.length === 2) pen.arc(x, y, LEAST_DOT, 0, 2 * Math.PI);
    for (const vertex of outline.slice(1)) pen.lineTo(...vertex);
    pen.closePath();
  }
  pen.fill();
}
