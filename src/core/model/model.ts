import { colorsOf } from "../chart/color-key";
import { colorRamp } from "../chart/color-ramp";
import type { ChartInput, ColorScale } from "../chart/inputs";
import { type LegendKeys, legendKeys } from "../chart/legend-keys";
import type { ChartPlan } from "../chart/plan";
import { choosingSettings, resolvedPiece } from "../chart/resolve";
import { TOPS } from "../chart/tops";
import type { WordPart } from "../chart/words";
import { keysBehind } from "../link/behind";
import { type Asked, Engine } from "../link/engine";
import { isEmptyState, type Key, type SelectionPlan, type SelectionState } from "../link/selection";
import type { Plan, PlanPiece } from "../plan/plan";
import { speaksOf } from "../plan/speaks";
import type { Answer } from "../query/answer";
import type { AnswerWhole } from "../query/cache";
import { choiceKey } from "../query/choices";
import { drawnIds } from "../query/drawn";
import { stretchEnd, wholePeriods } from "../query/interval";
import type { Channel } from "../query/query";
import { LayerValues } from "../query/values";
import type { Table } from "../table/table";
import { ChartInputs, controlsAmong, type LookedAt } from "./chart-inputs";
import { closes } from "./closing";
import type { Picked } from "./picked";
import { type PieceQuestions, questionsOf } from "./piece-questions";
import { RowCounts } from "./row-counts";
import { SaidWords } from "./said-words";

/**
 * A dashboard without its screen: the plan, the tables and what is selected, and for every piece
 * what it shows now. The build draws first pictures with it, the viewer all others.
 */
export class Model {
  readonly engine: Engine;
  /** How many rows of tables are left, and how many each value of a control would bring. */
  readonly rows: RowCounts;
  /** By piece, and by what readers have chosen for it. */
  private readonly questions = new Map<string, PieceQuestions>();
  /** By piece, and by the categories that come first. */
  private readonly topped = new Map<string, PieceQuestions>();
  /** Settings by which readers choose what a piece shows. */
  private readonly choosing = new Map<string, string[]>();
  private readonly speaking = new Map<string, readonly string[]>();
  private readonly said: SaidWords;
  private readonly inputs = new ChartInputs(this);
  /** Marks that are shown as if they were picked, of one piece: the proof lights what an advice speaks of. */
  lit: { piece: string; picked: Picked } | undefined;
  readonly selections: Map<string, SelectionPlan>;

  constructor(
    readonly plan: Plan,
    packed: ReadonlyMap<string, Table>,
    whole?: AnswerWhole,
  ) {
    const withOrders = new Map(
      [...packed].map(([name, table]) => {
        const orders = plan.tables.find((planned) => planned.name === name)?.orders ?? {};
        return [
          name,
          { ...table, info: new Map(Object.entries(orders).map(([column, order]) => [column, { order }])) },
        ] as const;
      }),
    );
    this.selections = new Map(plan.selections.map((selection) => [selection.name, selection]));
    const settings = Object.fromEntries(Object.entries(plan.settings).map(([name, { start }]) => [name, start]));
    this.engine = new Engine(plan.tables, withOrders, plan.selections, settings, whole);
    this.said = new SaidWords(plan, this.engine, this.selections);
    for (const piece of plan.pieces) this.choosing.set(piece.name, choosingSettings(piece.plan));
    this.rows = new RowCounts(plan, this.engine, this.selections);
    for (const { name } of plan.selections) {
      const start = this.startOf(name);
      if (start) this.engine.select(name, start);
    }
  }

  /** What readers have chosen for a piece. */
  private chosenFor(name: string): string {
    return choiceKey((this.choosing.get(name) ?? []).map(this.engine.setting));
  }

  /** The questions of a piece under the settings as they are. */
  private questionsFor(name: string): PieceQuestions | undefined {
    const settings = this.choosing.get(name);
    if (!settings) return undefined;
    const key = `${name} ${this.chosenFor(name)}`;
    let own = this.questions.get(key);
    if (!own) {
      const piece = this.plan.pieces.find((one) => one.name === name) as PlanPiece;
      const resolved = settings.length ? { ...piece, plan: resolvedPiece(piece.plan, this.engine.setting) } : piece;
      own = questionsOf(this.plan, resolved);
      this.questions.set(key, own);
    }
    return own;
  }

  /** What a selection holds before anybody has touched it. */
  startOf(name: string): SelectionState | undefined {
    const plan = this.selections.get(name);
    return plan?.start && this.wholePeriods(plan, plan.start);
  }

  /** A selection whose ends on an axis of periods are moved out to whole ones. */
  wholePeriods({ source }: SelectionPlan, state: SelectionState): SelectionState {
    const asked = this.piece(source)?.plan.type === "chart" ? this.leadingAsked(source) : undefined;
    if (!asked || (!state.x && !state.y)) return state;
    const { edges } = this.engine.all(asked).prepared;
    const whole = { ...state };
    for (const axis of ["x", "y"] as const) {
      const [range, own] = [state[axis], edges.get(axis)];
      if (range && own?.grain) whole[axis] = wholePeriods(own.grain, range);
    }
    return whole;
  }

  /**
   * What a brush over measures of groups holds: the keys of those marks whose values lie in its
   * ranges, `[lo, hi)`; of a bin some part of its stretch.
   */
  keysWithin(selection: SelectionPlan, ranges: Pick<SelectionState, "x" | "y">): Key[] {
    const asked = this.leadingAsked(selection.source);
    const plan = this.piece(selection.source)?.plan;
    if (!asked || plan?.type !== "chart") return [];
    const [answer, all] = [this.engine.answer(asked), this.engine.all(asked)];
    const values = new LayerValues(answer, all);
    let ids = drawnIds(answer, plan.along);
    for (const axis of ["x", "y"] as const) {
      const [range, numbers] = [ranges[axis], values.numbers(axis)];
      if (!range || !numbers) continue;
      const edges = answer.prepared.edges.get(axis);
      ids = ids.filter((id) => {
        const value = numbers[id] as number;
        return edges ? stretchEnd(edges, value) > range[0] && value < range[1] : value >= range[0] && value < range[1];
      });
    }
    return keysBehind(this.engine, selection, values, ids);
  }

  piece(name: string): PlanPiece | undefined {
    return this.questionsFor(name)?.piece;
  }

  /** Pieces whose formulas speak of a selection. */
  speakingOf(selection: string): readonly string[] {
    // Asked at every move of a brush; formulas do not change.
    let pieces = this.speaking.get(selection);
    if (!pieces) {
      pieces = this.plan.pieces
        .map(({ name }) => this.questionsFor(name) as PieceQuestions)
        .flatMap(({ piece }) => (speaksOf(piece, selection) ? [piece.name] : []));
      this.speaking.set(selection, pieces);
    }
    return pieces;
  }

  /** All questions of a piece, for those who warm the index. */
  askedBy(name: string): Asked[] {
    const own = this.questionsFor(name);
    return own ? [...own.layers, ...Object.values(own.sorts)] : [];
  }

  /** The question of a piece, of a chart that of the layer that it is about. */
  leadingAsked(name: string): Asked | undefined {
    const own = this.questionsFor(name);
    const plan = own?.piece.plan;
    return own?.layers[(plan?.type === "chart" && plan.leading) || 0];
  }

  /**
   * Ends a gesture: axes whose range is `left` may move now, and those that readers had fit to what is left. What all
   * others are drawn from is taken to be at rest when they are drawn next.
   */
  settle(fits: (piece: string) => boolean = () => false) {
    for (const { piece, layers, sorts, settled } of [...this.questions.values(), ...this.topped.values()]) {
      settled.clear();
      if (piece.plan.type !== "chart" || !(closes(piece.plan) || fits(piece.name))) continue;
      for (const asked of [...layers, ...Object.values(sorts)]) settled.set(asked, this.engine.answer(asked));
    }
  }

  /**
   * The words around a piece as they are now, with the values that stand in them; axes as `axis x`, `axis y`,
   * `axis y2`.
   */
  words(name: string): Record<string, string> {
    const own = this.questionsFor(name);
    return own ? this.said.texts(own) : {};
  }

  /** The title of a piece as it reads now, what lives in it written out. */
  titleOf(name: string): string {
    return this.words(name).title || name;
  }

  /** What few rows that are picked on a chart are called there; nothing where they are many, or nameless. */
  rowNames(plan: SelectionPlan, rows: readonly number[]): string | undefined {
    return this.said.rowNames(plan, rows);
  }

  /** A part of a text that is the same wherever it stands: words, a setting, what a selection holds. */
  say(part: Exclude<WordPart, { channel: string }>): string {
    return this.said.say(part);
  }

  /** True while nothing is drawn for want of a selection. */
  waits(name: string): boolean {
    const waitsFor = this.plan.pieces.find((piece) => piece.name === name)?.waitsFor;
    return waitsFor !== undefined && !this.engine.isActive(waitsFor);
  }

  /** The questions of a piece, of its first categories alone where it says so. */
  private toppedFor(name: string): PieceQuestions | undefined {
    const own = this.questionsFor(name);
    const plan = own?.piece.plan;
    if (!own || plan?.type !== "chart" || !plan.top) return own;
    const { axis } = plan.top;
    const asked = own.sorts[axis] ?? (own.layers[plan.leading ?? 0] as Asked);
    const sorted = { answer: this.engine.answer(asked), all: this.engine.all(asked) };
    const first = TOPS.get().firstNow(plan, plan.top, this.engine.setting, sorted);
    const key = `${name} ${JSON.stringify([this.chosenFor(name), first.map((one) => one.name)])}`;
    let topped = this.topped.get(key);
    if (!topped) {
      topped = questionsOf(this.plan, { ...own.piece, plan: TOPS.get().withTop(plan, axis, plan.top, first) });
      // Of lists that were asked for before only the latest are worth their memory.
      if (this.topped.size >= 24) this.topped.delete(this.topped.keys().next().value as string);
      this.topped.set(key, topped);
    }
    return topped;
  }

  /** Everything that drawing a chart needs, for its box. */
  chartInput(
    name: string,
    width: number,
    height: number,
    off: ReadonlySet<string | null>,
    looked: LookedAt = {},
  ): ChartInput | undefined {
    const own = this.toppedFor(name);
    return own && this.inputs.of(own, { width, height, off, looked });
  }

  /** The author's words for where nothing is drawn, else those for a piece that waits; nothing for others. */
  emptyText(name: string): string | undefined {
    // Asked at every drawing; words are answered only where there are some.
    const said = this.questionsFor(name)?.piece.words.empty === undefined ? undefined : this.words(name).empty;
    return said ?? (this.waits(name) ? "Pick something first" : undefined);
  }

  colorScale(name: string): ColorScale | undefined {
    const plan = this.piece(name)?.plan;
    if (plan?.type !== "chart") return undefined;
    const channel = plan.layers.map((layer) => layer.query.channels.color).find((found) => found !== undefined);
    if (!channel) return undefined;
    return colorsOf(this.plan.colors, channel, plan, name) ?? this.aggregateRamp(name, channel, plan);
  }

  /** What the legend of a chart explains: colours, sizes, symbols. */
  legendKeys(name: string): LegendKeys {
    const own = this.questionsFor(name);
    if (own?.piece.plan.type !== "chart") return {};
    return legendKeys(own.piece.plan, this.colorScale(name), (layer) => this.engine.all(own.layers[layer] as Asked));
  }

  /** A ramp for a colour that is an aggregate: its ends are those of all groups. */
  private aggregateRamp(name: string, channel: Channel, plan: ChartPlan): ColorScale | undefined {
    const asked = this.questionsFor(name)?.layers.find((layer) => layer.query.channels.color === channel);
    if (!asked) return undefined;
    const all = this.engine.all(asked);
    const values = new LayerValues(all, all).numbers("color");
    let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
    for (const value of values ?? []) {
      if (value < low) low = value;
      if (value > high) high = value;
    }
    return low <= high ? colorRamp(plan, low, high) : undefined;
  }

  /** The current answer of a figure or data table, and the one with no selection on. */
  plainAnswer(name: string): { answer: Answer; all: Answer } | undefined {
    const asked = this.questionsFor(name)?.layers[0];
    return asked && { answer: this.engine.answer(asked), all: this.engine.all(asked) };
  }

  /** What a piece answers under its controls alone: what readers compare by eye is drawn over these. */
  controlsAnswer(name: string): Answer | undefined {
    const asked = this.questionsFor(name)?.layers[0];
    return asked && this.engine.answer(asked, controlsAmong(this.selections, asked.filters));
  }

  /** The rows behind a chart's marks that pass, with the columns that come along. */
  rowsBehind(name: string): { answer: Answer; all: Answer } | undefined {
    const asked = this.questionsFor(name)?.behind;
    return asked && { answer: this.engine.answer(asked), all: this.engine.all(asked) };
  }

  /** The answers of a figure's small line, if it has one. */
  sparkAnswer(name: string): { answer: Answer; all: Answer } | undefined {
    const asked = this.questionsFor(name)?.spark;
    return asked && { answer: this.engine.answer(asked), all: this.engine.all(asked) };
  }

  /** Rows of each counted table that pass everything, and all of them. */
  counts(): Record<string, { left: number; all: number }> {
    return this.rows.left();
  }

  /** What the rows of a table are called. */
  nounOf(table: string): string {
    return this.plan.tables.find(({ name }) => name === table)?.label ?? table.replaceAll("_", " ");
  }

  /** Selections that leave out rows of a piece at this moment. */
  filtering(piece: string): SelectionPlan[] {
    return this.active().filter(({ effects }) =>
      effects.some(({ effect, target }) => effect === "filter" && target === piece),
    );
  }

  /** True if a selection is what it started with, or every one that stays is. */
  isAsStarted(name?: string): boolean {
    const text = (state: SelectionState | undefined) => JSON.stringify(isEmptyState(state) ? null : state);
    if (name !== undefined) return text(this.engine.state(name)) === text(this.startOf(name));
    return this.plan.selections.every((own) => !own.kept || this.isAsStarted(own.name));
  }

  /** Active selections in the order in which they are planned. */
  active(): SelectionPlan[] {
    return this.plan.selections.filter(
      (selection) => selection.kept && !isEmptyState(this.engine.state(selection.name)),
    );
  }
}
