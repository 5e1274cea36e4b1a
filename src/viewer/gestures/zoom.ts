import type { Panel } from "../../core/chart/draw";
import type { ZoomWay } from "../../core/chart/plan";
import type { Point } from "../../core/scene/shapes/shape";
import { svgPart } from "../dom";
import { ARROWS, type Hand } from "../plot/hand";
import type { PlotView } from "../plot/plot-view";

type Axis = "x" | "y";

interface Drag {
  way: "box" | "pan";
  start: Point;
  at: Point;
  panel: Panel;
  moved: boolean;
  pointer: number;
}

/** A press that moves less than this is none, in pixels. */
const STILL = 4;
/** One step of the keyboard or of a usual wheel. */
const STEP = 1.4;
/** Pixels by which an arrow pulls the plot along. */
const PULL = 40;
/** How many times closer than its whole a map may be looked at. */
const CLOSEST = 20_000;

/**
 * Looks closer at a plot: a dragged box, the wheel, or pulling the plot along. It takes no rows away.
 * Where a drag also makes a brush, a switch in the plot says which of the two it does.
 */
export class ZoomHand implements Hand {
  private drag: Drag | undefined;
  /** Space is held: a drag pulls the plot along. */
  private pulls = false;

  constructor(private readonly view: PlotView) {}

  get help(): string | undefined {
    return this.ways.length ? "plus and minus look closer and back, 0 shows all" : undefined;
  }

  private get ways(): readonly ZoomWay[] {
    return this.view.plan.zoom;
  }

  /** A drag looks closer at this moment, instead of making a brush. */
  private get drags(): boolean {
    return this.view.isCloser || (this.ways.includes("drag") && !this.view.canBrush);
  }

  private axes(panel: Panel): Axis[] {
    return (["x", "y"] as const).filter((axis) => panel[axis] && panel[axis]?.type !== "category");
  }

  // ---- dragging -------------------------------------------------------------------------

  /** What a drag that begins now would do; nothing where it belongs to somebody else. */
  private wayOf(event: PointerEvent, panel: Panel): Drag["way"] | undefined {
    const isMap = panel.project !== undefined;
    const canPull = this.ways.includes("pan") || this.view.isCloser;
    if (canPull && (event.button === 1 || this.pulls)) return "pan";
    if (event.button !== 0) return undefined;
    if (this.drags && !isMap) return "box";
    const isFree = this.view.isCloser || !this.view.canBrush;
    return canPull && isFree && (isMap || !this.drags) ? "pan" : undefined;
  }

  down(event: PointerEvent, at: Point) {
    const panel = this.view.panelAt(at);
    const way = panel && this.wayOf(event, panel);
    if (!panel || !way) return;
    event.preventDefault();
    this.view.catcher.focus({ preventScroll: true });
    this.view.catcher.setPointerCapture(event.pointerId);
    this.drag = { way, start: at, at, panel, moved: false, pointer: event.pointerId };
  }

  move(_event: PointerEvent, at: Point): boolean {
    const { drag } = this;
    if (!drag) return false;
    if (!drag.moved && Math.hypot(at.x - drag.start.x, at.y - drag.start.y) < STILL) return true;
    drag.moved = true;
    if (drag.way === "pan") {
      this.pull(drag.panel, { x: at.x - drag.at.x, y: at.y - drag.at.y });
      // The plot was drawn anew under the pointer.
      drag.panel = this.view.panelAt(at) ?? drag.panel;
    }
    drag.at = at;
    this.view.drawOverlay();
    return true;
  }

  up(_event: PointerEvent, _at: Point): boolean {
    const { drag } = this;
    this.cancel();
    if (!drag?.moved) return false;
    if (drag.way === "box") this.enter(drag);
    this.view.app.settle();
    return true;
  }

  cancel() {
    if (this.drag) this.view.release(this.drag.pointer);
    this.drag = undefined;
    this.view.drawOverlay();
  }

  /** The box that is being drawn; along one axis alone it is as high or wide as the plot. */
  private box({ start, at, panel }: Drag) {
    const { plot } = panel;
    const axes = this.axes(panel);
    const side = (axis: Axis, low: number, length: number): [number, number] => {
      if (!axes.includes(axis)) return [low, low + length];
      const ends = [start[axis], at[axis]].map((pixel) => Math.max(low, Math.min(low + length, pixel)));
      // A drag straight along one axis means that axis alone.
      const isThin = axes.length === 2 && Math.abs(start[axis] - at[axis]) < 2 * STILL;
      return isThin ? [low, low + length] : [Math.min(...ends), Math.max(...ends)];
    };
    return { x: side("x", plot.x, plot.width), y: side("y", plot.y, plot.height) };
  }

  private enter(drag: Drag) {
    const box = this.box(drag);
    const zoom = { ...this.view.looked.zoom };
    for (const axis of this.axes(drag.panel)) {
      const scale = drag.panel[axis];
      const [from, to] = box[axis];
      if (scale && to - from > STILL) zoom[axis] = rising(scale.invert(from), scale.invert(to));
    }
    this.view.look({ ...this.view.looked, zoom });
  }

  draw(_: unknown, overlay: SVGSVGElement) {
    if (this.drag?.way !== "box" || !this.drag.moved) return;
    const { x, y } = this.box(this.drag);
    const place = { x: x[0], y: y[0], width: x[1] - x[0], height: y[1] - y[0] };
    const look = { fill: this.view.color("sea"), "fill-opacity": 0.1, stroke: this.view.color("sea") };
    overlay.append(svgPart("rect", { ...place, ...look, "stroke-dasharray": "4 3" }));
  }

  // ---- closer and farther -----------------------------------------------------------------

  /** The wheel belongs to the page unless the chart has the focus, or a modifier is held. */
  wheel(event: WheelEvent) {
    if (!this.ways.includes("wheel") && !this.view.isCloser) return;
    const isMeant = document.activeElement === this.view.catcher || event.ctrlKey || event.metaKey;
    const at = this.view.place(event);
    const panel = this.view.panelAt(at);
    if (!isMeant || !panel) return;
    event.preventDefault();
    this.by(panel, Math.exp(-event.deltaY / 400), at);
    this.view.app.settleSoon();
  }

  /** Looks `factor` times closer, the place under `at` staying where it is. */
  private by(panel: Panel, factor: number, at: Point) {
    if (panel.project) return this.byOnMap(panel, factor, at);
    const zoom = { ...this.view.looked.zoom };
    for (const axis of this.axes(panel)) {
      const scale = panel[axis];
      if (!scale) continue;
      const ends = scale.range.map((pixel) => scale.invert(at[axis] + (pixel - at[axis]) / factor));
      zoom[axis] = rising(ends[0] as number, ends[1] as number);
    }
    this.view.look({ ...this.view.looked, zoom: this.kept(zoom) });
  }

  /** Ranges that are narrower than the whole; the others need no saying. */
  private kept(zoom: Partial<Record<Axis, [number, number]>>) {
    const whole = this.view.wholeRanges();
    const kept: typeof zoom = {};
    for (const axis of ["x", "y"] as const) {
      const [own, all] = [zoom[axis], whole[axis]];
      if (!own || !all) continue;
      if (own[1] - own[0] < all[1] - all[0] && own[1] > own[0]) kept[axis] = own;
    }
    return kept;
  }

  private byOnMap(panel: Panel, factor: number, at: Point) {
    const { project, plot } = panel;
    if (!project) return;
    const now = this.view.looked.view?.scale ?? 1;
    const scale = Math.max(1, Math.min(CLOSEST, now * factor));
    if (scale === 1) return this.view.look({ ...this.view.looked, view: undefined });
    const turn = scale / now;
    const middle = { x: plot.x + plot.width / 2, y: plot.y + plot.height / 2 };
    this.centre(panel, { x: at.x + (middle.x - at.x) / turn, y: at.y + (middle.y - at.y) / turn }, scale);
  }

  private centre({ project }: Panel, pixel: Point, scale: number) {
    const [lon, lat] = project?.invert(pixel.x, pixel.y) ?? [Number.NaN, Number.NaN];
    if (Number.isFinite(lon) && Number.isFinite(lat))
      this.view.look({ ...this.view.looked, view: { lon, lat, scale } });
  }

  /** Pulls what is seen along by some pixels. */
  private pull(panel: Panel, by: Point) {
    if (panel.project) {
      const { plot } = panel;
      const middle = { x: plot.x + plot.width / 2 - by.x, y: plot.y + plot.height / 2 - by.y };
      this.centre(panel, middle, this.view.looked.view?.scale ?? 1);
      return;
    }
    const zoom = { ...this.view.looked.zoom };
    for (const axis of this.axes(panel)) {
      const scale = panel[axis];
      if (!scale) continue;
      const ends = scale.range.map((pixel) => scale.invert(pixel - by[axis]));
      zoom[axis] = rising(ends[0] as number, ends[1] as number);
    }
    this.view.look({ ...this.view.looked, zoom });
  }

  double() {
    if (this.view.isLooked) this.view.showAll();
  }

  keyUp(event: KeyboardEvent) {
    if (event.key === " ") this.pulls = false;
  }

  key(event: KeyboardEvent): boolean {
    if (event.key === " " && (this.ways.includes("pan") || this.view.isCloser)) this.pulls = true;
    if (this.ways.length === 0 && !this.view.isCloser && !this.view.isLooked) return false;
    const panel = this.view.current()?.panels[0];
    if (!panel || event.ctrlKey || event.metaKey) return false;
    const middle = { x: panel.plot.x + panel.plot.width / 2, y: panel.plot.y + panel.plot.height / 2 };
    const arrow = ARROWS[event.key];
    if (event.altKey && arrow) this.pull(panel, { x: -arrow.x * PULL, y: -arrow.y * PULL });
    else if (event.key === "+" || event.key === "=") this.by(panel, STEP, middle);
    else if (event.key === "-") this.by(panel, 1 / STEP, middle);
    else if (event.key === "0") this.double();
    else return false;
    this.view.app.settle();
    return true;
  }
}

const rising = (a: number, b: number): [number, number] => (a < b ? [a, b] : [b, a]);
