import type { Drawn, Panel } from "../../core/chart/draw";
import { keysBehind } from "../../core/link/behind";
import { lassoIndexer } from "../../core/link/index/lasso-index";
import { isInside } from "../../core/link/outline";
import type { Key, SelectionPlan, SelectionState } from "../../core/link/selection";
import type { Point } from "../../core/scene/shapes/shape";
import { svgPart } from "../dom";
import { ARROWS, type Hand } from "../plot/hand";
import type { PlotView } from "../plot/plot-view";

/** Corners of an outline are kept this far apart, in pixels. */
const APART = 6;
/** Pixels of one step of the keyboard. */
const STEP = 12;
/** An outline that covers less than this is none, in pixels. */
const LEAST = 8;

/** An outline drawn by hand: of rows it is kept as values on both axes, of groups as the keys of the marks in it. */
export class LassoHand implements Hand {
  readonly help = "b begins an outline, arrows move it, Shift and arrows widen it";
  private drag: { corners: Point[]; panel: Panel; pointer: number } | undefined;
  /** The keyboard has the outline in hand. */
  private inHand = false;
  /** The outline by which keys of groups were found, in pixels. */
  private outlined: { keys: string; corners: Point[] } | undefined;

  constructor(
    private readonly view: PlotView,
    private readonly selections: readonly SelectionPlan[],
  ) {}

  private get first(): SelectionPlan {
    return this.selections[0] as SelectionPlan;
  }

  private state(): SelectionState | undefined {
    return this.view.app.model.engine.state(this.first.name);
  }

  /** Makes the index ready before an outline is drawn. */
  warm() {
    if (!this.first.byMarks) this.view.app.warming.take(this.selections.map(({ name }) => [name, lassoIndexer]));
  }

  down(event: PointerEvent, at: Point) {
    const panel = this.view.panelAt(at);
    if (event.button !== 0 || this.view.isCloser || !panel) return;
    this.view.catcher.setPointerCapture(event.pointerId);
    this.drag = { corners: [at], panel, pointer: event.pointerId };
  }

  move(_event: PointerEvent, at: Point): boolean {
    const { drag } = this;
    if (!drag) return false;
    const last = drag.corners.at(-1) as Point;
    const { plot } = drag.panel;
    const inside = {
      x: Math.max(plot.x, Math.min(plot.x + plot.width, at.x)),
      y: Math.max(plot.y, Math.min(plot.y + plot.height, at.y)),
    };
    if (Math.hypot(inside.x - last.x, inside.y - last.y) >= APART) drag.corners.push(inside);
    this.view.drawOverlay();
    return true;
  }

  up(_event: PointerEvent, _at: Point): boolean {
    const { drag } = this;
    this.cancel();
    if (!drag) return false;
    const width = (axis: "x" | "y") =>
      Math.max(...drag.corners.map((corner) => corner[axis])) - Math.min(...drag.corners.map((corner) => corner[axis]));
    if (drag.corners.length < 3 || width("x") < LEAST || width("y") < LEAST) {
      // A press beside everything lets go.
      if (this.state()) this.set(undefined);
      return false;
    }
    this.hold(drag.panel, drag.corners);
    return true;
  }

  cancel() {
    if (this.drag) this.view.release(this.drag.pointer);
    this.drag = undefined;
  }

  double() {
    this.set(undefined);
  }

  private set(state: SelectionState | undefined) {
    for (const selection of this.selections) this.view.app.select(selection.name, state);
    this.view.app.settle();
  }

  /** Holds what lies inside an outline of pixels. */
  private hold(panel: Panel, corners: readonly Point[]) {
    if (this.first.byMarks) {
      const keys = this.keysInside(panel, corners);
      this.outlined = { keys: JSON.stringify(keys), corners: [...corners] };
      this.set(keys.length ? { keys } : undefined);
      return;
    }
    const outline = corners.map(({ x, y }): [number, number] => {
      const [a, b] = panel.project ? panel.project.invert(x, y) : [panel.x?.invert(x), panel.y?.invert(y)];
      // Eight digits are finer than any pixel, and keep the address short.
      return [Number((a ?? Number.NaN).toPrecision(8)), Number((b ?? Number.NaN).toPrecision(8))];
    });
    this.set({ outline });
  }

  private keysInside({ layers }: Panel, corners: readonly Point[]): Key[] {
    const outline = corners.map(({ x, y }) => [x, y] as const);
    const layer = layers[this.view.plan.leading ?? 0];
    if (!layer) return [];
    const ids = layer.shapes.flatMap((shape) =>
      Array.from(shape.ids).filter((_, mark) => {
        const { x, y } = shape.middle(mark);
        return isInside(outline, x, y);
      }),
    );
    return keysBehind(this.view.app.model.engine, this.first, layer.values, ids);
  }

  /** The corners of what is held, in pixels; nothing where they are not known any more. */
  private corners(panel: Panel): Point[] | undefined {
    const state = this.state();
    if (state?.keys) return this.outlined?.keys === JSON.stringify(state.keys) ? this.outlined.corners : undefined;
    return state?.outline?.map(([x, y]) => {
      const [a, b] = panel.project ? panel.project.point(x, y) : [panel.x?.place(x), panel.y?.place(y)];
      return { x: a ?? Number.NaN, y: b ?? Number.NaN };
    });
  }

  draw(drawn: Drawn, overlay: SVGSVGElement) {
    const panel = this.drag?.panel ?? drawn.panels[0];
    const corners = this.drag?.corners ?? (panel && this.corners(panel));
    if (!corners || corners.length < 2) return;
    const { accent } = this.view.app;
    const path = corners.map(({ x, y }, at) => `${at ? "L" : "M"}${x} ${y}`).join("");
    const width = this.inHand ? 2.5 : 1.5;
    overlay.append(
      svgPart("path", { d: `${path}Z`, fill: accent, "fill-opacity": 0.08, stroke: accent, "stroke-width": width }),
    );
  }

  /** Keys: b takes an outline in hand, arrows move it, Shift and arrows widen and narrow it, Enter lets go. */
  key(event: KeyboardEvent): boolean {
    const panel = this.view.current()?.panels[0];
    if (!panel || event.ctrlKey || event.metaKey || event.altKey) return false;
    if (event.key === "b") {
      this.inHand = !this.inHand;
      if (this.inHand && !this.corners(panel)) this.hold(panel, middleOf(panel));
      this.view.drawOverlay();
      return true;
    }
    if (!this.inHand) return false;
    if (event.key === "Enter") {
      this.inHand = false;
      this.view.drawOverlay();
      return true;
    }
    const step = ARROWS[event.key];
    const corners = this.corners(panel);
    if (!step || !corners) return false;
    this.hold(panel, event.shiftKey ? widened(corners, step) : corners.map(moved(step)));
    this.view.app.say(`${this.view.app.model.rows.held(this.first.name)} rows in the outline`);
    return true;
  }
}

/** A box in the middle of a plot. */
function middleOf({ plot: { x, y, width, height } }: Panel): Point[] {
  const [left, right, top, bottom] = [x + width * 0.35, x + width * 0.65, y + height * 0.35, y + height * 0.65];
  return [
    { x: left, y: top },
    { x: right, y: top },
    { x: right, y: bottom },
    { x: left, y: bottom },
  ];
}

const moved =
  (step: Point) =>
  ({ x, y }: Point): Point => ({ x: x + step.x * STEP, y: y + step.y * STEP });

/** An outline made larger or smaller about its middle, along one axis. */
function widened(corners: readonly Point[], step: Point): Point[] {
  const middle = (axis: "x" | "y") => corners.reduce((sum, corner) => sum + corner[axis], 0) / corners.length;
  const [x, y] = [middle("x"), middle("y")];
  const [byX, byY] = [1 + step.x * 0.1, 1 - step.y * 0.1];
  return corners.map((corner) => ({ x: x + (corner.x - x) * byX, y: y + (corner.y - y) * byY }));
}
