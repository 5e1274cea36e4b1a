import type { Drawn, Panel } from "../../core/chart/draw";
import { leadingLayer } from "../../core/chart/leading";
import type { Indexer } from "../../core/link/index/in-hand";
import type { Key, SelectionPlan, SelectionState } from "../../core/link/selection";
import { writeNumber } from "../../core/query/write";
import { brushEdges, nearestEdge } from "../../core/scale/edges";
import type { Point } from "../../core/scene/shapes/shape";
import { svgPart } from "../dom";
import type { Hand } from "../plot/hand";
import type { PlotView } from "../plot/plot-view";
import { fromTo } from "../selection-text";

type Axis = "x" | "y";
/** Numbers of edges at both ends, an axis each. */
type Span = Partial<Record<Axis, [number, number]>>;
type Drag = {
  mode: "draw" | "move" | "resize";
  axes: Axis[];
  ends: Partial<Record<Axis, 0 | 1>>;
  start: { x: number; y: number };
  span: Span;
  panel: Panel;
  moved: boolean;
  before: SelectionState | undefined;
  pointer: number;
};

const GRIP = 6;

/**
 * The brush of a chart: drawn by dragging, dragged along, resized at its edges, moved by keys.
 * Its ends always stand on edges, so that the index can answer every move.
 */
export class BrushHand implements Hand {
  readonly help = "b begins a brush, arrows move it, Shift and arrows widen it";
  private drag: Drag | undefined;
  private readonly axes: Axis[];
  /** The keyboard has the brush in hand. */
  private inHand = false;
  /** The box by which keys of groups were found, where it is they that are held. */
  private box: { keys: string; ranges: Pick<SelectionState, "x" | "y"> } | undefined;
  private edgesNow: Partial<Record<Axis, Float64Array>> = {};

  constructor(
    private readonly view: PlotView,
    private readonly selections: readonly SelectionPlan[],
    private readonly indexer: (edges: Partial<Record<Axis, Float64Array>>) => Indexer,
  ) {
    const gesture = selections[0]?.gesture ?? "brush x";
    this.axes = gesture === "brush xy" ? ["x", "y"] : gesture === "brush y" ? ["y"] : ["x"];
  }

  private state(): SelectionState | undefined {
    const first = this.selections[0];
    const held = first && this.view.app.model.engine.state(first.name);
    // Over measures of groups keys are held; the box that found them stays as long as they do.
    const { box } = this;
    return held && box && JSON.stringify(held.keys) === box.keys ? { ...held, ...box.ranges } : held;
  }

  /** The text of the channel on an axis, where a reader chooses among several. */
  private channelOn(axis: Axis): string | undefined {
    return this.selections[0]?.ons ? leadingLayer(this.view.plan).query.channels[axis]?.text : undefined;
  }

  /** False while the axis shows another column than the one that was brushed. */
  private isShown(axis: Axis): boolean {
    const on = this.state()?.on?.[axis];
    return on === undefined || on === this.channelOn(axis);
  }

  /** The panel in which the brush stands, or is about to be drawn. */
  private panel(at?: Point): Panel | undefined {
    const drawn = this.view.current();
    if (at) return this.view.panelAt(at);
    const key = this.state()?.keys?.[0];
    return drawn?.panels.find((panel) => key === undefined || sameKey(this.panelKey(panel), key));
  }

  /** The values by which a panel is told from the others, as a key of the selection; none in a chart without panels. */
  private panelKey({ names }: Panel): Key | undefined {
    const channels = leadingLayer(this.view.plan).query.channels;
    const entries = Object.entries(names).map(
      ([name, value]) => [channels[name]?.text ?? name, value ?? null] as const,
    );
    return entries.length ? Object.fromEntries(entries) : undefined;
  }

  /** Where ends of the brush may stand along an axis. */
  private edges(axis: Axis, panel: Panel | undefined): Float64Array | undefined {
    const scale = panel?.[axis];
    const channel = leadingLayer(this.view.plan).query.channels[axis];
    if (!scale || !channel || scale.type === "category") return undefined;
    return brushEdges(scale, channel.kind, panel.layers[this.view.plan.leading ?? 0]?.values.prepared.edges.get(axis));
  }

  private refreshEdges(panel = this.panel()): boolean {
    this.edgesNow = {};
    for (const axis of this.axes) {
      const edges = this.edges(axis, panel);
      if (!edges) return false;
      this.edgesNow[axis] = edges;
    }
    return true;
  }

  /** Makes the index ready before the first move. */
  warm(panel = this.panel()) {
    if (this.selections[0]?.byMarks || !this.refreshEdges(panel)) return;
    const indexer = this.indexer(this.edgesNow);
    this.view.app.warming.take(this.selections.map(({ name }) => [name, indexer]));
  }

  private pixelSpan(panel: Panel): Partial<Record<Axis, [number, number]>> {
    const state = this.state();
    const spans: Partial<Record<Axis, [number, number]>> = {};
    for (const axis of this.axes) {
      const range = state?.[axis];
      const scale = panel[axis];
      if (!range || !scale || !this.isShown(axis)) continue;
      const ends = [scale.place(range[0]), scale.place(range[1])] as [number, number];
      spans[axis] = [Math.min(...ends), Math.max(...ends)];
    }
    return spans;
  }

  down(event: PointerEvent, at: Point) {
    const panel = this.panel(at);
    if (event.button !== 0 || this.view.isCloser || !panel || !this.refreshEdges(panel)) return;
    this.warm(panel);
    this.view.catcher.setPointerCapture(event.pointerId);
    const own = this.panel();
    const spans = own === panel ? this.pixelSpan(panel) : {};
    const full = this.axes.every((axis) => spans[axis]);
    const near: Partial<Record<Axis, 0 | 1>> = {};
    let inside = full;
    for (const axis of this.axes) {
      const span = spans[axis];
      if (!span) continue;
      const place = at[axis];
      if (place < span[0] - GRIP || place > span[1] + GRIP) inside = false;
      else if (Math.abs(place - span[0]) <= GRIP) near[axis] = 0;
      else if (Math.abs(place - span[1]) <= GRIP) near[axis] = 1;
    }
    const mode = !inside ? "draw" : Object.keys(near).length ? "resize" : "move";
    this.drag = {
      mode,
      axes: this.axes,
      ends: near,
      start: at,
      span: this.edgeSpan(spans),
      panel,
      moved: false,
      before: this.state(),
      pointer: event.pointerId,
    };
    document.addEventListener("keydown", this.escape, true);
  }

  /** Escape in the middle of a drag ends it: the brush is again what it was before. */
  private readonly escape = (event: KeyboardEvent) => {
    if (event.key !== "Escape" || !this.drag) return;
    event.preventDefault();
    event.stopPropagation();
    const { before, pointer } = this.drag;
    this.cancel();
    if (this.view.catcher.hasPointerCapture(pointer)) this.view.catcher.releasePointerCapture(pointer);
    for (const selection of this.selections) this.view.app.select(selection.name, before);
    this.view.app.settle();
  };

  /** Numbers of the edges nearest to the brush's ends. */
  private edgeSpan(spans: Partial<Record<Axis, [number, number]>>): Span {
    const result: Span = {};
    const state = this.state();
    for (const axis of this.axes) {
      const edges = this.edgesNow[axis];
      const range = state?.[axis];
      if (spans[axis] && edges && range) result[axis] = [nearestEdge(edges, range[0]), nearestEdge(edges, range[1])];
    }
    return result;
  }

  private edgeAt(panel: Panel, axis: Axis, pixel: number): number {
    const edges = this.edgesNow[axis];
    const scale = panel[axis];
    return edges && scale ? nearestEdge(edges, scale.invert(pixel)) : 0;
  }

  /** True while a drag goes on. */
  move(_event: PointerEvent, at: Point): boolean {
    const { drag } = this;
    if (!drag) {
      this.cursor(at);
      return false;
    }
    const { panel } = drag;
    if (!drag.moved && Math.hypot(at.x - drag.start.x, at.y - drag.start.y) < 3) return true;
    drag.moved = true;
    const span: Span = {};
    for (const axis of this.axes) {
      const edges = this.edgesNow[axis] as Float64Array;
      const last = edges.length - 1;
      const here = this.edgeAt(panel, axis, at[axis]);
      const from = drag.span[axis];
      if (drag.mode === "draw" || !from) {
        const begun = this.edgeAt(panel, axis, drag.start[axis]);
        span[axis] = [Math.min(begun, here), Math.max(begun, here)];
      } else if (drag.mode === "move") {
        const shift = here - this.edgeAt(panel, axis, drag.start[axis]);
        const held = Math.max(-from[0], Math.min(last - from[1], shift));
        span[axis] = [from[0] + held, from[1] + held];
      } else {
        const end = drag.ends[axis];
        // On axes that run the other way the lower pixel is the higher value.
        const turned = (panel[axis]?.place(edges[0] as number) ?? 0) > (panel[axis]?.place(edges[last] as number) ?? 0);
        const lower = end === undefined ? undefined : (end === 0) !== turned;
        if (lower === undefined) span[axis] = from;
        else {
          const fixed = lower ? from[1] : from[0];
          span[axis] = [Math.min(fixed, here), Math.max(fixed, here)];
        }
      }
      const [low, high] = span[axis] as [number, number];
      if (low === high) span[axis] = high < last ? [low, high + 1] : [low - 1, high];
    }
    this.set(span, panel);
    return true;
  }

  private cursor(at: Point) {
    const panel = this.panel();
    if (!panel) return;
    const spans = this.pixelSpan(panel);
    const { style } = this.view.catcher;
    const full = this.axes.every((axis) => spans[axis]);
    const inside =
      full &&
      this.axes.every(
        (axis) => at[axis] >= (spans[axis]?.[0] ?? 0) - GRIP && at[axis] <= (spans[axis]?.[1] ?? 0) + GRIP,
      );
    if (!inside) style.cursor = "";
    else {
      const edge = this.axes.find(
        (axis) =>
          Math.min(Math.abs(at[axis] - (spans[axis]?.[0] ?? 0)), Math.abs(at[axis] - (spans[axis]?.[1] ?? 0))) <= GRIP,
      );
      style.cursor = edge === "x" ? "ew-resize" : edge === "y" ? "ns-resize" : "grab";
    }
  }

  private set(span: Span, panel: Panel) {
    const key = this.panelKey(panel);
    const state: SelectionState = key ? { keys: [key] } : {};
    for (const axis of this.axes) {
      const edges = this.edgesNow[axis];
      const ends = span[axis];
      if (edges && ends) state[axis] = [edges[ends[0]] as number, edges[ends[1]] as number];
      const on = this.channelOn(axis);
      if (on !== undefined) state.on = { ...state.on, [axis]: on };
    }
    for (const selection of this.selections) {
      if (!selection.byMarks) {
        this.view.app.select(selection.name, state);
        continue;
      }
      const keys = this.view.app.model.keysWithin(selection, state);
      const { x, y } = state;
      this.box = { keys: JSON.stringify(keys), ranges: { ...(x ? { x } : {}), ...(y ? { y } : {}) } };
      this.view.app.select(selection.name, { keys });
    }
  }

  /** Ends a drag; answers whether there was one, so that a click is not taken for it. */
  up(event: PointerEvent): boolean {
    const { drag } = this;
    this.cancel();
    if (!drag) return false;
    if (this.view.catcher.hasPointerCapture(event.pointerId)) this.view.catcher.releasePointerCapture(event.pointerId);
    if (!drag.moved) {
      // A press beside the brush lets go of it.
      if (drag.mode === "draw" && this.state()) this.clear();
      return false;
    }
    this.view.app.settle();
    return true;
  }

  cancel() {
    this.drag = undefined;
    document.removeEventListener("keydown", this.escape, true);
  }

  clear() {
    this.inHand = false;
    for (const selection of this.selections) this.view.app.select(selection.name, undefined);
    this.view.app.settle();
  }

  /** Keys: b takes the brush in hand, arrows move it, Shift and arrows move its far end, Enter lets go. */
  key(event: KeyboardEvent): boolean {
    const panel = this.panel();
    if (!panel) return false;
    if (event.key === "b" && !event.ctrlKey && !event.metaKey && !event.altKey) {
      this.inHand = !this.inHand;
      if (this.inHand) this.begin();
      this.view.drawOverlay();
      return true;
    }
    if (!this.inHand) return false;
    if (event.key === "Enter") {
      this.inHand = false;
      this.view.drawOverlay();
      return true;
    }
    const axis: Axis | undefined =
      event.key === "ArrowLeft" || event.key === "ArrowRight"
        ? "x"
        : event.key === "ArrowUp" || event.key === "ArrowDown"
          ? "y"
          : undefined;
    if (!axis || !this.axes.includes(axis) || !this.refreshEdges()) return false;
    const spans = this.edgeSpan(this.pixelSpan(panel));
    const span = spans[axis];
    if (!span) return false;
    const last = (this.edgesNow[axis] as Float64Array).length - 1;
    const step = Math.max(1, Math.round(last / 50)) * (event.key === "ArrowRight" || event.key === "ArrowUp" ? 1 : -1);
    if (event.shiftKey) spans[axis] = [span[0], Math.max(span[0] + 1, Math.min(last, span[1] + step))];
    else {
      const held = Math.max(-span[0], Math.min(last - span[1], step));
      spans[axis] = [span[0] + held, span[1] + held];
    }
    this.set(spans, panel);
    this.view.app.settle();
    this.sayRange();
    return true;
  }

  private begin() {
    const panel = this.panel();
    if (!panel || !this.refreshEdges(panel)) return;
    this.warm(panel);
    if (!this.state()) {
      const span: Span = {};
      for (const axis of this.axes) {
        const last = (this.edgesNow[axis] as Float64Array).length - 1;
        span[axis] = [Math.round(last * 0.4), Math.max(Math.round(last * 0.4) + 1, Math.round(last * 0.6))];
      }
      this.set(span, panel);
      this.view.app.settle();
    }
    this.sayRange();
  }

  /** The words of a range on an axis, with its unit. */
  private rangeWords(axis: Axis, range: [number, number]): string {
    const channel = leadingLayer(this.view.plan).query.channels[axis];
    if (!channel) return "";
    const { interval, ...plain } = channel;
    const words = fromTo((value) => writeNumber(plain, value), range, interval?.type === "period");
    return `${words}${channel.unit ? ` ${channel.unit}` : ""}`;
  }

  private sayRange() {
    const state = this.state();
    this.view.app.say(
      `Brush ${this.axes.map((axis) => (state?.[axis] ? this.rangeWords(axis, state[axis]) : "")).join(", ")}`,
    );
  }

  /** The brass outline with its grips and what it holds in words. */
  draw(_drawn: Drawn, overlay: SVGSVGElement) {
    const panel = this.panel();
    const spans = panel ? this.pixelSpan(panel) : {};
    const state = this.state();
    if (!panel || !this.axes.some((axis) => spans[axis])) return;
    const { plot } = panel;
    const seen = { x: [plot.x, plot.x + plot.width], y: [plot.y, plot.y + plot.height] } as const;
    const within = (axis: Axis): [number, number] => {
      const [from, to] = seen[axis];
      const [low, high] = spans[axis] ?? [from, to];
      return [Math.max(from, Math.min(to, low)), Math.max(from, Math.min(to, high))];
    };
    const [left, right] = within("x");
    const [top, bottom] = within("y");
    // What lies beyond the axis is not seen; an end that does has no grip.
    const hasGrip = (axis: Axis, end: number) => spans[axis]?.some((at) => Math.abs(at - end) < 1);
    const [brass, sheet] = [this.view.app.accent, this.view.color("sheet")];
    const add = (tag: string, attributes: Record<string, string | number>) => overlay.append(svgPart(tag, attributes));
    add("rect", {
      x: left,
      y: top,
      width: Math.max(1, right - left),
      height: Math.max(1, bottom - top),
      fill: brass,
      "fill-opacity": 0.08,
      stroke: brass,
      "stroke-width": this.inHand ? 2.5 : 1.5,
    });
    const grip = (x: number, y: number, across: boolean) =>
      add("rect", {
        class: "grip",
        x: x - (across ? 3 : 8),
        y: y - (across ? 8 : 3),
        width: across ? 6 : 16,
        height: across ? 16 : 6,
        fill: sheet,
        stroke: brass,
        "stroke-width": 1.5,
      });
    for (const x of [left, right]) if (hasGrip("x", x)) grip(x, (top + bottom) / 2, true);
    for (const y of [top, bottom]) if (hasGrip("y", y)) grip((left + right) / 2, y, false);
    const words = this.axes.map((axis) => (state?.[axis] ? this.rangeWords(axis, state[axis]) : "")).join(" · ");
    // Over the plot, where no mark stands, and left of what can be pressed there.
    const x = plot.x + plot.width - this.view.switchesWidth;
    const text = svgPart("text", { x, y: plot.y - 6, "font-size": 12, fill: brass, "text-anchor": "end" });
    text.textContent = words;
    overlay.append(text);
  }
}

const sameKey = (a: Key | undefined, b: Key): boolean =>
  a !== undefined && Object.entries(a).every(([name, value]) => b[name] === value);
