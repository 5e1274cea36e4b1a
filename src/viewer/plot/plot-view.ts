import { type Drawn, drawChart, NOTHING_KNOWN, type Panel } from "../../core/chart/draw";
import type { ChartInput } from "../../core/chart/inputs";
import type { PlainRow } from "../../core/chart/plain-row";
import type { ChartPlan } from "../../core/chart/plan";
import { rowsOfChart } from "../../core/chart/rows";
import { tooltipLines } from "../../core/chart/tooltip";
import type { LookedAt } from "../../core/model/chart-inputs";
import type { PlanPiece } from "../../core/plan/plan";
import { nameAt } from "../../core/query/categories";
import type { LayerValues } from "../../core/query/values";
import type { Point } from "../../core/scene/shapes/shape";
import { backSvg, frontSvg, wordsSvg } from "../../core/scene/svg";
import { paintOf } from "../../core/scene/theme";
import type { App, View } from "../app";
import { button, element, svg, svgPart, whenPointerStays, write } from "../dom";
import { emptyOffer } from "../empty-offer";
import { handsOf } from "../gestures/hands";
import { Legend } from "../legend";
import { drawMarks } from "./canvas";
import { chartMenu } from "./chart-menu";
import { chartTable } from "./chart-rows";
import { drawCrosshair } from "./crosshair";
import { type Found, marksBeside, nearestMark, panelAt, shapeOf } from "./find-mark";
import type { Hand } from "./hand";
import { nextMark, wordsOfMark } from "./walk";

/** The size at which a chart is thought drawn while its page is out of sight. */
const UNSEEN = { width: 600, height: 300 };

/** How near a press without a hovered mark, as by touch, must come to one, in pixels. */
const TOUCH = 12;

/** Of more groups or rows nobody asks which colours are left. */
const MOST_NAMED = 50_000;

/** Ends of axes. */
type WholeRanges = Partial<Record<"x" | "y", [number, number]>>;

function rangesOf(drawn: Drawn | undefined): WholeRanges {
  const panel = drawn?.panels[0];
  return { ...(panel?.x ? { x: panel.x.domain } : {}), ...(panel?.y ? { y: panel.y.domain } : {}) };
}

/** Marks at one place that a tooltip tells beside the first. */
const MOST_TOLD = 3;
/** Lines of all of them together, about: a taller tooltip hides what it is about. */
const MOST_LINES = 14;

/** One chart on the page: its drawing, what is under the pointer, and the gestures that may be made on it. */
export class PlotView implements View {
  readonly name: string;
  readonly catcher: HTMLDivElement;
  private readonly plot: HTMLElement;
  private readonly back = svg("back");
  readonly canvas = element("canvas", { "aria-hidden": "true" });
  private readonly front = svg("over");
  private readonly overlay = svg("over");
  private readonly legend: Legend | undefined;
  private readonly hands: readonly Hand[];
  private readonly switches = element("div", { class: "switches", hidden: "" });
  /** A drag looks closer for now, whatever else it would do. */
  isCloser = false;
  private size = { width: 0, height: 0 };
  private drawn: Drawn | undefined;
  private whole: WholeRanges | undefined;
  /** Which switches stand there. */
  private switched = "";
  private focused: Found | undefined;
  private hovered: Found | undefined;

  constructor(
    readonly app: App,
    piece: PlanPiece,
    section: HTMLElement,
  ) {
    this.name = piece.name;
    this.plot = section.querySelector(".plot") as HTMLElement;
    const selections = app.selectionsOf(this.name);
    const has = (gesture: string) => selections.some((selection) => selection.gesture.startsWith(gesture));
    this.hands = handsOf(this, selections);
    this.catcher = element("div", {
      class: `catch${has("lasso") ? " brushes lassos" : has("brush") ? " brushes" : has("click") ? " clicks" : ""}`,
      tabindex: "0",
      role: "application",
      "aria-roledescription": "chart",
      "aria-label": `${app.model.titleOf(this.name)}: ${["arrows walk the marks", ...this.helps()].join(", ")}`,
    });
    const host = section.querySelector<HTMLElement>(".legend");
    this.legend = host ? new Legend(app, piece.name, host) : undefined;
    section.querySelector("header")?.append(chartMenu(this, section));
    this.listen();
    new ResizeObserver(() => this.fit()).observe(this.plot);
  }

  /** The chart under the settings as they are. */
  get plan(): ChartPlan {
    return this.app.model.piece(this.name)?.plan as ChartPlan;
  }

  private helps(): string[] {
    return [...this.hands].reverse().flatMap(({ help }) => (help === undefined ? [] : [help]));
  }

  /** Takes the place of the first picture at the first drawing, so that nothing is ever empty. */
  fit() {
    const { clientWidth, clientHeight } = this.plot;
    if (clientWidth === 0 || clientHeight === 0) return;
    if (clientWidth === this.size.width && clientHeight === this.size.height) return;
    this.size = { width: clientWidth, height: clientHeight };
    this.app.touch(this.name);
  }

  current(): Drawn | undefined {
    return this.drawn;
  }

  /** The panel under a place; the only one of a chart that has one. */
  panelAt({ x, y }: Point): Panel | undefined {
    return this.drawn?.panels[panelAt(this.drawn, x, y)];
  }

  /** The values behind a mark that was found. */
  valuesOf({ panel, layer }: Found): LayerValues | undefined {
    return this.drawn?.panels[panel]?.layers[layer]?.values;
  }

  /** Finds how large the plot is, before its first drawing; later on it is told. */
  measure() {
    if (this.size.width === 0) this.size = { width: this.plot.clientWidth, height: this.plot.clientHeight };
  }

  draw() {
    if (this.size.width === 0 || this.size.height === 0) return;
    const input = this.input(this.size);
    if (!input) return;
    const sharesEdge = input.plan.stage === "plane" && input.plan.legend.at !== "left";
    const drawn = drawChart(sharesEdge ? { ...input, left: this.app.leftEdges.of(this.name) } : input);
    if (sharesEdge && drawn.left !== undefined) this.app.leftEdges.need(this.name, drawn.left);
    this.drawn = drawn;
    if (!this.isLooked) this.whole = rangesOf(drawn);
    const { ground } = this.app;
    if (this.canvas.parentElement !== this.plot)
      this.plot.replaceChildren(this.back, this.canvas, this.front, this.overlay, this.catcher, this.switches);
    drawMarks(this.canvas, drawn.scene, ground);
    // Presentation attributes only.
    write(this.back, backSvg(drawn.scene, ground));
    write(this.front, wordsSvg(drawn.scene, ground) + frontSvg(drawn.scene, ground));
    this.legend?.draw(namesLeft(input));
    this.drawSwitch();
    this.plot.querySelector(".nothing")?.remove();
    const { message } = drawn.scene;
    const isOffered = message !== undefined && message !== NOTHING_KNOWN && input.empty === undefined;
    const offer = isOffered ? emptyOffer(this.app, this.name) : undefined;
    if (offer) this.plot.append(offer);
    this.drawOverlay();
  }

  input({ width, height }: { width: number; height: number }): ChartInput | undefined {
    return this.app.model.chartInput(this.name, width, height, this.app.reader.offOf(this.name), this.looked);
  }

  // ---- looking closer -------------------------------------------------------------------

  /** How the reader looks at the chart. */
  get looked(): LookedAt {
    return this.app.reader.lookOf(this.name);
  }

  look(look: LookedAt) {
    this.app.reader.look(this.name, look);
    this.app.touch(this.name);
  }

  /** Lets go of a pointer that a gesture has held. */
  release(pointer: number) {
    if (this.catcher.hasPointerCapture(pointer)) this.catcher.releasePointerCapture(pointer);
  }

  /** Ends looking closer. */
  showAll() {
    this.look({ ...this.looked, zoom: undefined, view: undefined });
    this.app.settle();
  }

  get isLooked(): boolean {
    return this.looked.zoom !== undefined || this.looked.view !== undefined;
  }

  /** Some link has a brush made here. */
  get canBrush(): boolean {
    return this.app.selectionsOf(this.name).some(({ gesture }) => gesture.startsWith("brush") || gesture === "lasso");
  }

  /** True for a chart in which something can be looked at more closely. */
  get canZoom(): boolean {
    const { stage, axes } = this.plan;
    return stage === "map" || [axes.x, axes.y].some((axis) => axis && axis.scale !== "category");
  }

  /** The ends of the axes when nobody looks closer: as they were drawn last, or as they would be. */
  wholeRanges(): WholeRanges {
    if (this.whole) return this.whole;
    const { zoom: _, ...rest } = this.looked;
    const input = this.app.model.chartInput(
      this.name,
      this.size.width,
      this.size.height,
      this.app.reader.offOf(this.name),
      rest,
    );
    this.whole = rangesOf(input && drawChart(input));
    return this.whole;
  }

  /** Pixels at the plot's upper right that its switches take. */
  get switchesWidth(): number {
    return this.switches.hidden ? 0 : this.switches.offsetWidth + 8;
  }

  /** Lets a drag look closer, or make a brush again. */
  lookCloser(on: boolean) {
    this.isCloser = on;
    this.catcher.classList.toggle("closer", on);
    this.drawSwitch();
  }

  /** What says that a drag looks closer, and leads back; where a drag could also make a brush, always. */
  private drawSwitch() {
    const couldBoth = this.canBrush && this.plan.zoom.some((way) => way !== "wheel");
    const shown = JSON.stringify([this.isCloser, couldBoth, this.isLooked]);
    if (shown === this.switched) return;
    this.switched = shown;
    const parts: HTMLElement[] = [];
    if (this.isCloser || couldBoth) {
      const words = this.isCloser ? "a drag looks closer" : "a drag selects";
      const title = this.isCloser ? "let a drag select again" : "let a drag look closer";
      parts.push(
        button(words, () => this.lookCloser(!this.isCloser), { "aria-pressed": String(this.isCloser), title }),
      );
    }
    if (this.isLooked) parts.push(button("show all", () => this.showAll()));
    this.switches.replaceChildren(...parts);
    this.switches.hidden = parts.length === 0;
  }

  /** The size that it has, or is thought to have while its page is out of sight. */
  shownSize() {
    return this.size.width ? this.size : UNSEEN;
  }

  redress() {
    this.legend?.forget();
  }

  /** All its marks, or the rows behind them, for those who take them elsewhere. */
  taking() {
    return { rows: chartTable(this), ways: ["csv", "xlsx", "copy"] as const };
  }

  rows(most?: number): PlainRow[] {
    const input = this.input(this.shownSize());
    return input ? rowsOfChart(input, most) : [];
  }

  // ---- pointing -------------------------------------------------------------------------

  place(event: PointerEvent | MouseEvent): Point {
    const box = this.catcher.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  }

  private listen() {
    const { catcher } = this;
    const each = (act: (hand: Hand) => void) => this.hands.forEach(act);
    whenPointerStays(catcher, () => each((hand) => hand.warm?.()));
    catcher.addEventListener("pointermove", (event) => {
      const at = this.place(event);
      if (this.hands.some((hand) => hand.move?.(event, at))) this.leave();
      else this.hover(event, at);
    });
    catcher.addEventListener("pointerleave", () => this.leave());
    catcher.addEventListener("pointerdown", (event) => {
      for (const hand of this.hands) {
        hand.down?.(event, this.place(event));
        // What takes the pointer has it alone.
        if (catcher.hasPointerCapture(event.pointerId)) break;
      }
    });
    catcher.addEventListener("pointerup", (event) => {
      const at = this.place(event);
      const dragged = this.hands.map((hand) => hand.up?.(event, at) ?? false).includes(true);
      if (!dragged && event.button === 0) this.press(event, at);
    });
    catcher.addEventListener("pointercancel", () => each((hand) => hand.cancel?.()));
    catcher.addEventListener("dblclick", () => each((hand) => hand.double?.()));
    catcher.addEventListener("keydown", (event) => {
      if (this.hands.some((hand) => hand.key?.(event)) || this.key(event)) event.preventDefault();
    });
    catcher.addEventListener("keyup", (event) => each((hand) => hand.keyUp?.(event)));
    catcher.addEventListener("wheel", (event) => each((hand) => hand.wheel?.(event)), { passive: false });
    catcher.addEventListener("blur", () => {
      this.focused = undefined;
      this.leave();
    });
  }

  private hover(event: PointerEvent, at: Point) {
    const { drawn } = this;
    if (!drawn || this.hands.some((hand) => hand.point?.(event, at))) return;
    this.hovered = nearestMark(drawn, this.plan.along, at.x, at.y);
    this.tellFound(this.hovered);
    if (this.hovered) this.tell(this.hovered, event.clientX, event.clientY);
    else this.app.tooltip.hide();
    this.drawOverlay();
  }

  /** Shows the tooltip of a mark with those that lie at the same place; answers how many these are. */
  private tell(found: Found, clientX: number, clientY: number): number {
    const others = this.drawn ? marksBeside(this.drawn, found) : [];
    const lines = this.linesOf(found);
    const told = Math.min(MOST_TOLD, Math.max(1, Math.floor(MOST_LINES / lines.length) - 1));
    const blocks = [lines, ...others.slice(0, told).map((one) => this.linesOf(one))];
    this.app.tooltip.show(blocks, "", clientX, clientY, others.length + 1 - blocks.length);
    return others.length;
  }

  private linesOf(found: Found) {
    const layer = this.plan.layers[found.layer];
    const marks = this.drawn?.panels[found.panel]?.layers[found.layer];
    if (!layer || !marks) return [];
    // An author's own words come before what a mark says of itself.
    const own = layer.tooltip === undefined && !layer.says ? marks.lines?.(found.shape, found.mark) : undefined;
    return own ?? tooltipLines(layer, marks.values, found.id, (part) => this.app.model.say(part));
  }

  private tellFound(found: Found | undefined) {
    for (const hand of this.hands) hand.found?.(found);
  }

  leave() {
    this.app.tooltip.hide();
    this.tellFound(undefined);
    if (this.hovered) {
      this.hovered = undefined;
      this.drawOverlay();
    }
    for (const hand of this.hands) hand.leave?.();
  }

  private press(event: PointerEvent, at: Point) {
    if (!this.drawn) return;
    // What the tooltip speaks of is what is picked; without one (touch) the mark must nearly be hit.
    const found = this.hovered ?? nearestMark(this.drawn, this.plan.along, at.x, at.y, TOUCH);
    for (const hand of this.hands) hand.press?.(found, event.shiftKey);
  }

  // ---- the keyboard ---------------------------------------------------------------------

  private key(event: KeyboardEvent): boolean {
    const steps: Record<string, number> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };
    const step = steps[event.key];
    if (step !== undefined) this.walk(step);
    else if (event.key === "Home" || event.key === "End") {
      this.focused = undefined;
      this.walk(event.key === "Home" ? 1 : -1);
    } else if ((event.key === "Enter" || event.key === " ") && this.focused) {
      for (const hand of this.hands) hand.press?.(this.focused, event.shiftKey);
    } else return false;
    return true;
  }

  /** Goes to the next mark in drawn order and reads its tooltip out. */
  private walk(step: number) {
    const found = this.drawn && nextMark(this.drawn, this.focused, step);
    if (!found) return;
    this.focused = found;
    this.hovered = found;
    this.tellFound(found);
    const box = this.catcher.getBoundingClientRect();
    const lines = this.linesOf(found);
    const others = this.tell(found, box.left + found.x, box.top + found.y);
    this.app.say(`${wordsOfMark(lines)}${others ? `, and ${others} more here` : ""}`);
    this.drawOverlay();
  }

  // ---- what lies over the marks ---------------------------------------------------------

  drawOverlay() {
    const { drawn } = this;
    if (!drawn) return;
    this.overlay.replaceChildren();
    for (const hand of this.hands) hand.draw?.(drawn, this.overlay);
    this.outline(drawn);
    drawCrosshair(this, drawn, this.overlay);
  }

  drawCrosshair() {
    this.drawOverlay();
  }

  color(token: string): string {
    return paintOf(token, this.app.ground);
  }

  private outline(drawn: Drawn) {
    const { hovered } = this;
    const shape = hovered && shapeOf(drawn, hovered);
    if (!hovered || !shape || hovered.mark >= shape.ids.length) return;
    const { tag, attributes } = shape.outline(hovered.mark);
    const ink = { fill: "none", stroke: this.color("ink"), "stroke-width": 1.5 };
    this.overlay.append(svgPart(tag, { ...attributes, ...ink }));
  }
}

/** Names of the colours of which some row is left; nothing for charts without categories of colour. */
function namesLeft({ layers }: ChartInput): Set<string | null> | undefined {
  const names = new Set<string | null>();
  let isThere = false;
  for (const { current: narrowed, base, accent } of layers) {
    // What is lit leaves all the rest as it is.
    const current = base && accent && base.opacity === 1 ? base.answer : narrowed;
    const column = current.prepared.keys.get("color");
    if (!column) continue;
    isThere = true;
    // Of many raw rows each would be asked for its name.
    if (current.counts.length > MOST_NAMED) return undefined;
    current.counts.forEach((count, id) => {
      if (count > 0) names.add(nameAt(column, id));
    });
  }
  return isThere ? names : undefined;
}
