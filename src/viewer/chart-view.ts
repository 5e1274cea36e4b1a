import { type Drawn, drawChart } from "../core/chart/draw";
import type { ChartPlan, LayerPlan } from "../core/chart/plan";
import type { Key, SelectionPlan } from "../core/link/selection";
import { chartRows, type PlainRow } from "../core/model/model";
import { type TooltipLine, tooltipLines, writeNumber } from "../core/model/texts";
import type { PlanPiece } from "../core/plan/plan";
import { nameAt, plainValue } from "../core/query/categories";
import { stretchEnd } from "../core/query/interval";
import { brushEdges } from "../core/scale/edges";
import { backSvg, frontSvg } from "../core/scene/svg";
import { paintOf } from "../core/scene/theme";
import { type App, NOT_PICKED, type View } from "./app";
import { Brush } from "./brush";
import { drawMarks } from "./canvas";
import { element, svg, svgPart } from "./dom";
import { Legend } from "./legend";
import { type Found, marksAtX, middleOf, nearestMark } from "./nearest-mark";

/** The size at which a chart is thought drawn while its page is out of sight. */
const UNSEEN = { width: 600, height: 300 };

/** One chart on the page: its drawing, and the gestures made on it. */
export class ChartView implements View {
  readonly name: string;
  readonly plan: ChartPlan;
  private readonly plot: HTMLElement;
  private readonly back = svg("back");
  private readonly canvas = element("canvas", { "aria-hidden": "true" });
  private readonly front = svg("over");
  private readonly overlay = svg("over");
  readonly catcher: HTMLDivElement;
  private readonly legend: Legend | undefined;
  private readonly brush: Brush | undefined;
  private size = { width: 0, height: 0 };
  private drawn: Drawn | undefined;
  private focused: { layer: number; mark: number } | undefined;
  private hovered: Found | undefined;
  /** The mark that `hover` links hold, in the drawing in which it was found. */
  private held: { layer: number; id: number; drawn: Drawn | undefined } | undefined;

  constructor(
    private readonly app: App,
    private readonly piece: PlanPiece,
    section: HTMLElement,
  ) {
    this.name = piece.name;
    this.plan = piece.plan as ChartPlan;
    this.plot = section.querySelector(".plot") as HTMLElement;
    const selections = app.selectionsOf(this.name);
    const brushing = selections.filter(({ gesture }) => gesture.startsWith("brush"));
    const clicking = selections.some(({ gesture }) => gesture === "click");
    this.catcher = element("div", {
      class: `catch${brushing.length ? " brushes" : clicking ? " clicks" : ""}`,
      tabindex: "0",
      role: "application",
      "aria-roledescription": "chart",
      "aria-label": this.help(brushing.length > 0, clicking),
    });
    const host = section.querySelector<HTMLElement>(".legend");
    this.legend = host ? new Legend(app, piece, host) : undefined;
    this.brush = brushing.length ? new Brush(app, this, brushing, this.overlay) : undefined;
    this.listen(clicking);
    new ResizeObserver(() => this.fit()).observe(this.plot);
  }

  private help(brushes: boolean, clicks: boolean): string {
    const ways = ["arrows walk the marks"];
    if (clicks) ways.push("Enter picks");
    if (brushes) ways.push("b begins a brush, arrows move it, Shift and arrows widen it");
    return `${this.piece.words.title}: ${ways.join(", ")}`;
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

  draw() {
    if (this.size.width === 0) this.size = { width: this.plot.clientWidth, height: this.plot.clientHeight };
    if (this.size.width === 0 || this.size.height === 0) return;
    const drawn = this.picture(this.size.width, this.size.height);
    if (!drawn) return;
    this.drawn = drawn;
    const { ground } = this.app;
    if (this.canvas.parentElement !== this.plot)
      this.plot.replaceChildren(this.back, this.canvas, this.front, this.overlay, this.catcher);
    drawMarks(this.canvas, drawn.scene, ground);
    // Written by our own functions from escaped words; presentation attributes only.
    this.back.innerHTML = backSvg(drawn.scene, ground);
    this.front.innerHTML = frontSvg(drawn.scene, ground);
    this.legend?.draw();
    this.drawOverlay();
  }

  private picture(width: number, height: number): Drawn | undefined {
    const input = this.app.model.chartInput(this.name, width, height, this.app.offOf(this.name));
    return input && drawChart(input);
  }

  rows(): PlainRow[] {
    const { width, height } = this.size.width ? this.size : UNSEEN;
    const input = this.app.model.chartInput(this.name, width, height, this.app.offOf(this.name));
    if (!input) return [];
    const drawn = drawChart(input);
    const places = drawn.layers.map((_, at) => at);
    const shown = drawn.layers.map(({ marks, values }) => ({ ids: marks.ids, values }));
    if (!input.layers.some((layer) => layer.base)) return chartRows(this.plan, shown, places);
    // Faded charts are drawn twice: everything faintly, then what is selected.
    const faint = drawChart({
      ...input,
      layers: input.layers.map((layer) => ({ ...layer, current: layer.base?.answer ?? layer.current })),
    });
    const rows: PlainRow[] = [];
    faint.layers.forEach(({ marks, values }, at) => {
      const full = new Set(values.prepared.query.grouped ? [] : drawn.layers[at]?.marks.ids);
      rows.push(
        ...chartRows(this.plan, [{ ids: marks.ids.filter((id) => !full.has(id)), values, picked: false }], [at]),
      );
    });
    rows.push(
      ...chartRows(
        this.plan,
        shown.map((layer) => ({ ...layer, picked: true })),
        places,
      ),
    );
    return rows;
  }

  // ---- pointing -------------------------------------------------------------------------

  place(event: PointerEvent | MouseEvent): { x: number; y: number } {
    const box = this.catcher.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  }

  private listen(clicking: boolean) {
    const { catcher } = this;
    catcher.addEventListener("pointerenter", () => this.brush?.warm());
    catcher.addEventListener("pointermove", (event) => {
      if (this.brush?.move(event)) {
        this.leave();
        return;
      }
      this.hover(event);
    });
    catcher.addEventListener("pointerleave", () => this.leave());
    catcher.addEventListener("pointerdown", (event) => {
      if (event.button !== 0) return;
      this.brush?.down(event);
    });
    catcher.addEventListener("pointerup", (event) => {
      const dragged = this.brush?.up(event) ?? false;
      if (!dragged && clicking && event.button === 0) this.press(event);
    });
    catcher.addEventListener("pointercancel", () => this.brush?.cancel());
    catcher.addEventListener("dblclick", () => this.brush?.clear());
    catcher.addEventListener("keydown", (event) => this.key(event));
    catcher.addEventListener("blur", () => {
      this.focused = undefined;
      this.leave();
    });
  }

  private hover(event: PointerEvent) {
    const { drawn } = this;
    if (!drawn) return;
    const at = this.place(event);
    const along = this.app.selectionsOf(this.name).filter(({ gesture }) => gesture === "hover x");
    if (along.length) {
      this.hoverAlong(drawn, at, event.clientX, event.clientY, along);
      return;
    }
    this.show(nearestMark(drawn, this.plan.along, at.x, at.y), event.clientX, event.clientY);
  }

  /** A rule at the nearest value along x, here and in every chart that shares it. */
  private hoverAlong(
    drawn: Drawn,
    at: { x: number; y: number },
    clientX: number,
    clientY: number,
    selections: readonly SelectionPlan[],
  ) {
    const found = marksAtX(drawn, at.x);
    const first = found[0];
    if (!first || !drawn.x) return this.leave();
    const { values } = drawn.layers[first.layer] as Drawn["layers"][number];
    const column = values.get("x");
    if (!column || column.kind === "text") return this.leave();
    const targets = selections.flatMap(({ effects }) =>
      effects.filter(({ effect }) => effect === "crosshair").map(({ target }) => target),
    );
    this.app.setCrosshair(column.values[first.id] as number, targets);
    const lines = this.seriesLines(drawn, found);
    this.app.tooltip.show(lines.lines, lines.caption, clientX, clientY);
    return undefined;
  }

  /** One line a series at the same x: its colour's name and its measured value. */
  private seriesLines(
    drawn: Drawn,
    found: readonly Found[],
  ): { caption: string; lines: (TooltipLine & { color?: string })[] } {
    let caption = "";
    const sorted = [...found].sort((a, b) => a.y - b.y);
    const lines = sorted.map((one) => {
      const layer = this.plan.layers[one.layer] as LayerPlan;
      const { values, marks } = drawn.layers[one.layer] as Drawn["layers"][number];
      const all = tooltipLines(
        { ...layer, tooltip: ["x", "y"].filter((name) => name in layer.query.channels) },
        values,
        one.id,
      );
      caption = all[0]?.text ?? caption;
      const color = values.get("color");
      const measured = all.at(-1) as TooltipLine;
      const label = color ? (nameAt(color, one.id) ?? "missing") : measured.label;
      return {
        ...measured,
        label,
        ...(color ? { color: paintOf(marks.paints[marks.color[one.mark] as number] as string, this.app.ground) } : {}),
      };
    });
    return { caption, lines };
  }

  /** What is under the pointer, or where the keyboard stands, is what a `hover` link selects. */
  private holdHovered(found: { layer: number; id: number } | undefined) {
    // The pointer moves over one mark many times, and what stands behind it may be sought in all rows.
    if (this.held?.layer === found?.layer && this.held?.id === found?.id && this.held?.drawn === this.drawn) return;
    this.held = found && { layer: found.layer, id: found.id, drawn: this.drawn };
    for (const selection of this.app.selectionsOf(this.name)) {
      if (selection.gesture !== "hover") continue;
      const behind = found && this.keysBehind(selection, found.layer, found.id);
      this.app.hold(selection.name, behind && ("rows" in behind ? { rows: [behind.rows] } : behind));
    }
  }

  private show(found: Found | undefined, clientX: number, clientY: number) {
    this.hovered = found;
    this.holdHovered(found);
    if (!found || !this.drawn) {
      this.app.tooltip.hide();
      this.drawOverlay();
      return;
    }
    const { values } = this.drawn.layers[found.layer] as Drawn["layers"][number];
    this.app.tooltip.show(
      tooltipLines(this.plan.layers[found.layer] as LayerPlan, values, found.id),
      "",
      clientX,
      clientY,
    );
    this.drawOverlay();
  }

  private leave() {
    this.app.tooltip.hide();
    this.holdHovered(undefined);
    if (this.hovered) {
      this.hovered = undefined;
      this.drawOverlay();
    }
    if (this.app.crosshair && this.app.selectionsOf(this.name).some(({ gesture }) => gesture === "hover x"))
      this.app.setCrosshair(undefined);
  }

  private press(event: PointerEvent) {
    if (!this.drawn) return;
    const at = this.place(event);
    // What the tooltip speaks of is what is picked; without one (touch) the mark must nearly be hit.
    const found = this.hovered ?? nearestMark(this.drawn, this.plan.along, at.x, at.y, 12);
    if (found) this.pick(found, event.shiftKey);
    else this.unpick();
  }

  /** Picks what stands behind a mark; again takes it away, with shift it is added. */
  pick(found: { layer: number; id: number }, add: boolean) {
    for (const selection of this.app.selectionsOf(this.name)) {
      if (selection.gesture !== "click") continue;
      const keys = this.keysBehind(selection, found.layer, found.id);
      if (!keys) {
        this.app.say(NOT_PICKED);
        continue;
      }
      const before = this.app.model.engine.state(selection.name);
      if ("rows" in keys) {
        const had = before?.rows ?? [];
        const again = had.includes(keys.rows);
        const rows = again ? had.filter((row) => row !== keys.rows) : add ? [...had, keys.rows] : [keys.rows];
        this.app.select(selection.name, rows.length ? { rows } : undefined);
        continue;
      }
      const had = before?.keys ?? [];
      const texts = keys.keys.map((key) => JSON.stringify(key));
      const again = texts.every((text) => had.some((key) => JSON.stringify(key) === text));
      const rest = had.filter((key) => !texts.includes(JSON.stringify(key)));
      const next = again ? (add ? rest : []) : add ? [...rest, ...keys.keys] : keys.keys;
      this.app.select(selection.name, next.length ? { keys: next } : undefined);
    }
    this.app.settle();
  }

  private unpick() {
    for (const selection of this.app.selectionsOf(this.name))
      if (selection.gesture === "click" && this.app.model.engine.isActive(selection.name))
        this.app.select(selection.name, undefined);
    this.app.settle();
  }

  /** The keys of a mark's group, the values of `by` in the rows behind it, or the number of its row. */
  private keysBehind(
    selection: SelectionPlan,
    layer: number,
    id: number,
  ): { keys: Key[] } | { rows: number } | undefined {
    const { values } = (this.drawn as Drawn).layers[layer] as Drawn["layers"][number];
    const { prepared } = values;
    const { channels, groupBy, grouped } = prepared.query;
    const { engine } = this.app.model;
    const base = engine.baseRows(prepared.table);
    if (selection.by.length) {
      const { columns: own } = base ? engine.tableOf(prepared.query.from) : prepared.table;
      const columns = selection.by.map((name) => [name, own.get(name)] as const);
      const found = new Map<string, Key>();
      for (let row = 0; row < prepared.groups.length; row++) {
        const at = base ? (base[row] as number) : row;
        if (prepared.groups[row] !== id || at < 0) continue;
        const key: Key = Object.fromEntries(
          columns.map(([name, column]) => [name, column ? plainValue(column, at) : null]),
        );
        found.set(JSON.stringify(key), key);
      }
      return found.size ? { keys: [...found.values()] } : undefined;
    }
    if (!grouped) {
      const row = base ? (base[id] as number) : id;
      return row < 0 ? undefined : { rows: row };
    }
    const key: [string, Key[string]][] = [];
    for (const name of groupBy) {
      const channel = channels[name];
      const column = values.get(name);
      if (!channel || !column) continue;
      const edges = prepared.edges.get(name);
      const binned = edges && !edges.grain && column.kind !== "text";
      key.push([
        channel.text,
        binned ? [column.values[id] as number, stretchEnd(edges, column.values[id] as number)] : plainValue(column, id),
      ]);
    }
    return { keys: [Object.fromEntries(key)] };
  }

  // ---- the keyboard ---------------------------------------------------------------------

  private key(event: KeyboardEvent) {
    if (this.brush?.key(event)) {
      event.preventDefault();
      return;
    }
    const steps: Record<string, number> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };
    const step = steps[event.key];
    if (step !== undefined) {
      event.preventDefault();
      this.walk(step);
    } else if (event.key === "Home" || event.key === "End") {
      event.preventDefault();
      this.focused = undefined;
      this.walk(event.key === "Home" ? 1 : -1);
    } else if ((event.key === "Enter" || event.key === " ") && this.focused && this.drawn) {
      event.preventDefault();
      const { layer, mark } = this.focused;
      const id = this.drawn.layers[layer]?.marks.ids[mark];
      if (id !== undefined) this.pick({ layer, id }, event.shiftKey);
    }
  }

  /** Goes to the next mark in drawn order and reads its tooltip out. */
  private walk(step: number) {
    const { drawn } = this;
    if (!drawn) return;
    const flat = drawn.layers.flatMap(({ marks }, layer) =>
      Array.from({ length: Math.min(marks.ids.length, 5000) }, (_, mark) => ({ layer, mark })),
    );
    if (flat.length === 0) return;
    const now = this.focused
      ? flat.findIndex((one) => one.layer === this.focused?.layer && one.mark === this.focused.mark)
      : step > 0
        ? -1
        : 0;
    this.focused = flat[(now + step + flat.length) % flat.length] as { layer: number; mark: number };
    const { marks, values } = drawn.layers[this.focused.layer] as Drawn["layers"][number];
    const id = marks.ids[this.focused.mark] as number;
    const middle = middleOf(marks, this.focused.mark);
    const box = this.catcher.getBoundingClientRect();
    const lines = tooltipLines(this.plan.layers[this.focused.layer] as LayerPlan, values, id);
    this.hovered = { ...this.focused, id, ...middle, distance: 0 };
    this.holdHovered(this.hovered);
    this.app.tooltip.show(lines, "", box.left + middle.x, box.top + middle.y);
    const hovers = this.app.selectionsOf(this.name).filter(({ gesture }) => gesture === "hover x");
    const column = values.get("x");
    if (hovers.length && column && column.kind !== "text")
      this.app.setCrosshair(
        column.values[id] as number,
        hovers.flatMap(({ effects }) => effects.map(({ target }) => target)),
      );
    this.app.say(lines.map(({ label, text, unit }) => `${label} ${text}${unit ? ` ${unit}` : ""}`).join(", "));
    this.drawOverlay();
  }

  // ---- what lies over the marks ---------------------------------------------------------

  edges(axis: "x" | "y"): Float64Array | undefined {
    const scale = this.drawn?.[axis];
    const layer = this.plan.layers[0];
    const channel = layer?.query.channels[axis];
    if (!scale || !channel || scale.type === "category") return undefined;
    return brushEdges(scale, channel.kind, this.drawn?.layers[0]?.values.prepared.edges.get(axis));
  }

  drawOverlay() {
    const { drawn } = this;
    if (!drawn) return;
    this.overlay.replaceChildren();
    this.brush?.draw(drawn);
    this.outline(drawn);
    this.crosshairInto(drawn);
  }

  drawCrosshair() {
    this.drawOverlay();
  }

  private color(token: string): string {
    return paintOf(token, this.app.ground);
  }

  private outline(drawn: Drawn) {
    const { hovered } = this;
    if (!hovered) return;
    const marks = drawn.layers[hovered.layer]?.marks;
    if (!marks || hovered.mark >= marks.ids.length) return;
    const ink = { fill: "none", stroke: this.color("ink"), "stroke-width": 1.5 };
    if (marks.shape === "bars")
      this.overlay.append(
        svgPart("rect", {
          x: marks.x[hovered.mark] as number,
          y: marks.y[hovered.mark] as number,
          width: marks.width[hovered.mark] as number,
          height: marks.height[hovered.mark] as number,
          ...ink,
        }),
      );
    else
      this.overlay.append(
        svgPart("circle", { cx: marks.x[hovered.mark] as number, cy: marks.y[hovered.mark] as number, r: 5, ...ink }),
      );
  }

  private crosshairInto(drawn: Drawn) {
    const { crosshair } = this.app;
    if (!crosshair?.targets.has(this.name) || !drawn.x) return;
    const { plot } = drawn.scene;
    const x = drawn.x.place(crosshair.value);
    if (!(x >= plot.x - 1 && x <= plot.x + plot.width + 1)) return;
    this.overlay.append(
      svgPart("line", { x1: x, x2: x, y1: plot.y, y2: plot.y + plot.height, stroke: this.color("ink") }),
    );
    const found = marksAtX(drawn, x).filter((one) => Math.abs(one.x - x) < 1);
    for (const one of found) {
      const { marks } = drawn.layers[one.layer] as Drawn["layers"][number];
      if (marks.shape !== "bars")
        this.overlay.append(
          svgPart("circle", {
            cx: one.x,
            cy: one.y,
            r: 3.5,
            fill: paintOf(marks.paints[marks.color[one.mark] as number] as string, this.app.ground),
            stroke: this.color("sheet"),
            "stroke-width": 1,
          }),
        );
    }
    const first = found[0];
    if (!first) return;
    const layer = this.plan.layers[first.layer] as LayerPlan;
    const { values } = drawn.layers[first.layer] as Drawn["layers"][number];
    const caption = tooltipLines({ ...layer, tooltip: ["x"] }, values, first.id)[0]?.text ?? "";
    const right = x > plot.x + plot.width / 2;
    const text = svgPart("text", {
      x: right ? x - 6 : x + 6,
      y: plot.y + 11,
      "font-size": 12,
      fill: this.color("ink"),
      "text-anchor": right ? "end" : "start",
    });
    text.textContent = caption;
    this.overlay.append(text);
  }

  /** The words of a range on an axis, with its unit. */
  rangeWords(axis: "x" | "y", range: [number, number]): string {
    const channel = this.plan.layers[0]?.query.channels[axis];
    if (!channel) return "";
    const plain = channel.interval ? { ...channel, interval: undefined } : channel;
    return `${writeNumber(plain, range[0])} to ${writeNumber(plain, range[1])}${channel.unit ? ` ${channel.unit}` : ""}`;
  }
}
