import type { ChartInput, ColorScale, LayerInput } from "../chart/inputs";
import type { ChartPlan, LayerPlan } from "../chart/plan";
import { constantValue } from "../formula/constant";
import type { Formula } from "../formula/tree";
import { sharesAxis } from "../link/effects/effect";
import type { Asked, Engine } from "../link/engine";
import type { SelectionPlan } from "../link/selection";
import type { Plan, PlanPiece } from "../plan/plan";
import { closes } from "./closing";
import { type Picked, pickedBy } from "./picked";
import { effectsOn, type PieceQuestions } from "./piece-questions";
import { touches } from "./touches";

/** What of a dashboard the inputs of its charts are made from. */
interface Around {
  readonly plan: Plan;
  readonly engine: Engine;
  readonly selections: ReadonlyMap<string, SelectionPlan>;
  /** Marks that are shown as if they were picked, of one piece. */
  readonly lit: { piece: string; picked: Picked } | undefined;
  piece(name: string): PlanPiece | undefined;
  words(name: string): Record<string, string>;
  waits(name: string): boolean;
  emptyText(name: string): string | undefined;
  colorScale(name: string): ColorScale | undefined;
}

/** How a reader looks at a chart: closer, or fit to what is left. */
export interface LookedAt {
  zoom?: ChartInput["zoom"] | undefined;
  view?: ChartInput["view"] | undefined;
  fit?: boolean | undefined;
}

/** The box of a chart, the entries of its legend that are off, and how it is looked at. */
interface Seen {
  width: number;
  height: number;
  off: ReadonlySet<string | null>;
  looked: LookedAt;
}

/** Those of some selections that controls make. */
export const controlsAmong = (selections: ReadonlyMap<string, SelectionPlan>, names: readonly string[]): string[] =>
  names.filter((name) => selections.get(name)?.gesture === "control");

/** Makes what the charts of a dashboard are drawn from, as it stands. */
export class ChartInputs {
  constructor(private readonly around: Around) {}

  /** Everything that drawing a chart needs; nothing for other pieces. */
  of(own: PieceQuestions, { width, height, off, looked }: Seen): ChartInput | undefined {
    const { name, plan: piecePlan } = own.piece;
    if (piecePlan.type !== "chart") return undefined;
    const { around } = this;
    const titled = this.withAxisTitles(piecePlan, name);
    const plan = looked.fit ? fitted(titled) : titled;
    const needsLeft = closes(plan);
    const sorts = Object.entries(own.sorts).map(([axis, asked]) => [axis, this.frameOf(own, asked, needsLeft)]);
    const color = around.colorScale(name);
    const empty = around.emptyText(name);
    return {
      plan,
      layers: this.layersOf(own, plan, needsLeft),
      sorts: Object.fromEntries(sorts),
      off,
      width,
      height,
      ...(color ? { color } : {}),
      house: around.plan.style,
      ...(own.cut ? { cut: true } : {}),
      zoom: { ...this.zoomOf(name), ...looked.zoom },
      ...(looked.view ? { view: looked.view } : {}),
      ...(own.highlights.length ? { canLight: true as const } : {}),
      ...(this.isBrushed(name) ? { saysRange: true as const } : {}),
      ...(own.under.length ? { under: own.under.map((asked) => around.engine.all(asked)) } : {}),
      ...(empty === undefined ? {} : { empty }),
    };
  }

  private isBrushed(name: string): boolean {
    return this.around.plan.selections.some(({ source, kept, axes }) => source === name && kept && (axes.x || axes.y));
  }

  /** What axes stand on: all rows, those that controls leave and, where axes close on it, what is left at rest. */
  private frameOf(own: PieceQuestions, asked: Asked, needsLeft: boolean) {
    const { engine, selections } = this.around;
    const all = engine.all(asked);
    const controls = engine.answer(asked, controlsAmong(selections, asked.filters));
    const left = needsLeft ? (own.settled.get(asked) ?? engine.answer(asked)) : controls;
    return { all, controls, left };
  }

  /** What the marks of each layer are drawn from, faded, lit and picked as selections have it. */
  private layersOf(own: PieceQuestions, plan: ChartPlan, needsLeft: boolean): LayerInput[] {
    const { engine } = this.around;
    const { setting } = engine;
    const waits = this.around.waits(own.piece.name);
    const told = (formulas: Readonly<Record<string, Formula>>) =>
      Object.fromEntries(Object.entries(formulas).map(([key, formula]) => [key, constantValue(formula, setting)]));
    const picked = this.pickedOn(own.piece.name);
    return plan.layers.map((layer, place): LayerInput => {
      const asked = own.layers[place] as Asked;
      const [looks, options] = [told(layer.looks), told(layer.options)];
      const current = engine.answer(asked);
      const rest = own.settled.get(asked) ?? current;
      own.settled.set(asked, rest);
      const frame = this.frameOf(own, asked, needsLeft);
      const input: LayerInput = { plan: layer, looks, options, ...frame, current, rest };
      if (waits || (layer.show && constantValue(layer.show, setting) !== true)) input.isOff = true;
      this.fade(own, layer, asked, input);
      if (picked) input.picked = (answer, ids) => picked(layer, answer, ids);
      return input;
    });
  }

  /** Marks of a chart that its own selections hold, or that an advice speaks of. */
  private pickedOn(name: string): Picked | undefined {
    const { plan, engine, lit } = this.around;
    if (lit?.piece === name) return lit.picked;
    return pickedBy(
      engine,
      plan.selections.filter((one) => one.source === name && one.kept && engine.isActive(one.name)),
    );
  }

  /** Under what a selection fades or highlights lies all that passes the others; of what it says nothing, that alone. */
  private fade(own: PieceQuestions, layer: LayerPlan, asked: Asked, input: LayerInput) {
    const { plan, engine, selections } = this.around;
    const fading = own.fades.filter(({ selection }) => engine.isActive(selection));
    const lighting = own.highlights.filter((selection) => engine.isActive(selection));
    if (fading.length + lighting.length === 0) return;
    const isTouched = (selection: string) => touches(plan, selections.get(selection), layer);
    const isLit = lighting.some(isTouched);
    const whole = engine.answer(asked, own.filters);
    if (isLit || fading.some(({ selection }) => isTouched(selection)))
      input.base = { answer: whole, opacity: Math.min(1, ...fading.map(({ amount }) => amount)) };
    else input.current = whole;
    if (isLit) input.accent = true;
  }

  /** Ranges that selections on charts with the same axes have a chart's axes follow. */
  private zoomOf(name: string): NonNullable<ChartInput["zoom"]> {
    const { around } = this;
    const zoom: NonNullable<ChartInput["zoom"]> = {};
    const target = around.piece(name);
    for (const { selection, axis: own } of effectsOn(around.plan, name, "zoom")) {
      const state = around.engine.state(selection);
      const source = around.piece(around.selections.get(selection)?.source ?? "");
      // A control holds its one range as x, whichever axis it stands on.
      if (own && state?.x) zoom[own] = state.x;
      for (const axis of ["x", "y"] as const) {
        const range = state?.[axis];
        if (range && target && source && sharesAxis(source, target, axis)) zoom[axis] = range;
      }
    }
    return zoom;
  }

  /** A chart with the titles of its axes as they are now. */
  private withAxisTitles(plan: ChartPlan, name: string): ChartPlan {
    const { live } = this.around.piece(name) ?? {};
    if (!live || !Object.keys(live.parts).some((key) => key.startsWith("axis "))) return plan;
    const words = this.around.words(name);
    const axes = { ...plan.axes };
    for (const axis of ["x", "y", "y2"] as const) {
      const [own, title] = [axes[axis], words[`axis ${axis}`]];
      if (own && title !== undefined) axes[axis] = { ...own, title };
    }
    return { ...plan, axes };
  }
}

/** A chart whose axes close on what is left, but for those whose ends the author has given. */
function fitted(plan: ChartPlan): ChartPlan {
  const axes = { ...plan.axes };
  for (const axis of ["x", "y", "y2"] as const) {
    const own = axes[axis];
    if (own && !Array.isArray(own.range)) axes[axis] = { ...own, range: "left" };
  }
  return { ...plan, axes };
}
