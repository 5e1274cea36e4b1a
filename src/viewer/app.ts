import type { PlainRow } from "../core/chart/plain-row";
import type { SelectionPlan, SelectionState } from "../core/link/selection";
import { closes, widens } from "../core/model/closing";
import { Model } from "../core/model/model";
import { type PagePlan, tabsAbove } from "../core/page/page";
import type { Plan } from "../core/plan/plan";
import type { AnswerWhole } from "../core/query/cache";
import { type Ground, paintOf } from "../core/scene/theme";
import type { Scalar } from "../core/table/column";
import type { Table } from "../core/table/table";
import { announcer } from "./dom";
import { LeftEdges } from "./left-edges";
import { Reader, type Staged } from "./reader";
import { bringTo } from "./several-pages";
import type { Side } from "./side";
import type { Tabs } from "./tabs";
import { Tooltip } from "./tooltip";
import { Warming } from "./warming";

/** Something on the page that shows a part of the model. */
export interface View {
  /** Its name among pieces and controls. */
  name: string;
  /** Draws what it shows now. */
  draw: () => void;
  /** Takes the size that its place has now. */
  fit?: () => void;
  /** Finds how large its place is, before it is drawn for the first time. */
  measure?: () => void;
  /** Forgets what it drew for one ground alone. */
  redress?: () => void;
  /** What it shows now, as plain rows, of many at least so many; for pieces only. */
  rows?: (most?: number) => PlainRow[];
}

/**
 * The running dashboard: the model, what the reader has set, and the views. Gestures change the
 * model and ask for a frame; a frame draws each view that may have changed, once.
 */
export class App {
  readonly model: Model;
  readonly views = new Map<string, View>();
  readonly warming = new Warming(this);
  readonly tooltip = new Tooltip();
  readonly say = announcer();
  readonly reader = new Reader();
  readonly leftEdges = new LeftEdges(this);
  private readonly stands: Stands = { page: 0, tabs: new Map(), isPrinting: false, notice: "", isReader: false };
  /** The ground that the reader has asked for. */
  private turned: Ground | undefined;
  private readonly above = new Map<PagePlan, ReturnType<typeof tabsAbove>>();
  private readonly beside = new Map<string, () => void>();
  private dirty = new Set<string>();
  private frame = 0;
  private readonly listeners: (() => void)[] = [];
  private settling = false;
  private resting: ReturnType<typeof setTimeout> | undefined;
  /** Names of selections, the one that changed last at the end. */
  private recent: string[] = [];

  private readonly ending = new AbortController();

  constructor(
    readonly plan: Plan,
    tables: ReadonlyMap<string, Table>,
    readonly pictures: Readonly<Record<string, string>>,
    whole?: AnswerWhole,
  ) {
    this.model = new Model(plan, tables, whole);
  }

  /** Listens to something outside of the dashboard's own pieces, for as long as it runs. */
  listen<K extends keyof WindowEventMap & keyof DocumentEventMap>(
    target: Window | Document,
    type: K | "hashchange" | "popstate" | "beforeprint" | "afterprint",
    take: (event: WindowEventMap[K]) => void,
  ) {
    target.addEventListener(type, take as (event: Event) => void, { signal: this.ending.signal });
  }

  /** Ends everything that goes on, and takes away what stands beside the page. */
  end() {
    this.ending.abort();
    clearTimeout(this.resting);
    this.warming.end();
    if (this.frame) cancelAnimationFrame(this.frame);
    this.tooltip.remove();
    this.say.region.remove();
  }

  /** The controls at the side of the pages. */
  get side(): Side | undefined {
    return this.stands.side;
  }

  /** Takes up what was made of the page beside its pieces: the column at its side, and areas with tabs. */
  takeUp(side: Side, tabs: readonly Tabs[]) {
    this.stands.side = side;
    for (const one of tabs) this.stands.tabs.set(one.area, one);
  }

  /** The number of the page in sight. */
  get page(): number {
    return this.stands.page;
  }

  /** Areas whose pieces take turns, by name. */
  get tabs(): ReadonlyMap<string, Tabs> {
    return this.stands.tabs;
  }

  /** Shows one piece and nothing else, where the dashboard stands in a frame that asked for it. */
  showOnly(piece: string | undefined) {
    this.stands.alone = piece;
  }

  /** True while the page is laid out for paper. */
  get printing(): boolean {
    return this.stands.isPrinting;
  }

  layForPaper(isPrinting: boolean) {
    this.stands.isPrinting = isPrinting;
  }

  /** Something that the reader should know once, beside the sentence. */
  get notice(): string {
    return this.stands.notice;
  }

  tell(words: string) {
    this.stands.notice = words;
    this.touch("#sentence");
  }

  /** Value of the shared rule, and who shows it. */
  get crosshair(): Stands["crosshair"] {
    return this.stands.crosshair;
  }

  /** True while a script sets a control: that waits for its button as a reader's change does. */
  get asReader(): boolean {
    return this.stands.isReader;
  }

  /** Does something as a reader would. */
  doAsReader<T>(work: () => T): T {
    this.stands.isReader = true;
    try {
      return work();
    } finally {
      this.stands.isReader = false;
    }
  }

  get ground(): Ground {
    const { ground } = this.plan.style;
    if (this.printing) return "light";
    if (this.turned) return this.turned;
    if (ground !== "auto") return ground;
    return window.matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
  }

  /** Shows the page on the other ground. */
  turnGround() {
    this.turned = this.ground === "dark" ? "light" : "dark";
    document.documentElement.classList.toggle("on-dark", this.turned === "dark");
    document.documentElement.classList.toggle("on-light", this.turned === "light");
    this.touchAll();
    this.redress();
  }

  /** Has everything drawn that follows the ground and nothing else. */
  private redress() {
    for (const view of this.views.values()) view.redress?.();
  }

  /** The colour of what is picked. */
  get accent(): string {
    return this.plan.style.accent ?? paintOf("brass", this.ground);
  }

  /** Leaves those entries of a legend that keys name, as pressing all others would. */
  leaveEntries({ source, keys }: SelectionPlan, state: SelectionState) {
    const [column] = Object.keys(keys);
    const color = this.model.colorScale(source);
    if (color?.type !== "categories" || column === undefined) return;
    const left = new Set(state.keys?.map((key) => key[column] as string | null));
    this.switchOff(
      source,
      color.names.filter((name) => !left.has(name)),
    );
  }

  /** Presses just these entries of a legend; the selections that it makes hold those that are left on. */
  switchOff(piece: string, entries: Iterable<string | null>) {
    this.reader.switchOff(piece, entries);
    this.touch(piece);
    const off = this.reader.offOf(piece);
    const color = this.model.colorScale(piece);
    for (const selection of this.selectionsOf(piece)) {
      const column = Object.keys(selection.keys)[0];
      if (selection.gesture !== "legend" || color?.type !== "categories" || column === undefined) continue;
      const left = color.names.filter((name) => !off.has(name)).map((name) => ({ [column]: name }));
      this.select(selection.name, off.size ? { keys: left } : undefined);
    }
  }

  add(view: View) {
    this.views.set(view.name, view);
    this.dirty.add(view.name);
  }

  /** Calls a function whenever a gesture has ended and the state is worth keeping. */
  onSettled(listener: () => void) {
    this.listeners.push(listener);
  }

  /** True if the view stands on the page in sight. */
  isInSight(name: string): boolean {
    if (name === this.stands.alone) return true;
    const page = this.plan.pages[this.page];
    if (page === undefined) return false;
    if (page.side.includes(name)) return true;
    const above = this.tabsOf(page).get(name);
    // On paper all tabs are open.
    return above?.every(({ area, tab }) => this.printing || (this.tabs.get(area)?.shown ?? 0) === tab) ?? false;
  }

  /** For each piece of a page the tabs over it. */
  private tabsOf(page: PagePlan) {
    let known = this.above.get(page);
    if (!known) {
      known = tabsAbove(page);
      this.above.set(page, known);
    }
    return known;
  }

  /** Something is seen that was hidden: it takes its room, and is drawn if it has changed meanwhile. */
  cameInSight() {
    for (const view of this.views.values()) if (this.isInSight(view.name)) view.fit?.();
    this.flush();
  }

  selectionsOf(source: string): SelectionPlan[] {
    return this.plan.selections.filter((selection) => selection.source === source);
  }

  /** Changes a selection while a gesture goes on; {@link settle} ends it. */
  select(name: string, state: SelectionState | undefined) {
    this.model.engine.select(name, state);
    this.recent = [...this.recent.filter((other) => other !== name), name];
    const plan = this.model.selections.get(name);
    if (!plan) return;
    this.touch(plan.source, ...plan.effects.map(({ target }) => target), ...this.model.speakingOf(name));
    this.touchCounts();
  }

  /**
   * Holds what is under the pointer for as long as it is there: no chip, no place in the address, nothing for
   * Escape.
   */
  hold(name: string, state: SelectionState | undefined) {
    const { engine, selections } = this.model;
    if (JSON.stringify(engine.state(name)) === JSON.stringify(state)) return;
    engine.select(name, state);
    this.touch(...(selections.get(name)?.effects ?? []).map(({ target }) => target), ...this.model.speakingOf(name));
    this.touchCounts();
  }

  setSetting(name: string, value: Scalar) {
    this.model.engine.setSetting(name, value);
    this.touchAll();
  }

  /** Keeps a change until its button is pressed. */
  stage(name: string, change: Staged) {
    this.reader.stage(name, change);
    this.touch(...this.plan.controls.map((control) => control.name));
  }

  /** Lets changes count that wait at some controls. */
  apply(names: readonly string[]) {
    for (const name of names) {
      const change = this.reader.unstage(name);
      if (!change) continue;
      if ("value" in change) this.setSetting(name, change.value ?? null);
      else this.select(name, change.state);
    }
    this.touchCounts();
    this.settle();
  }

  /** Brings controls and selections back to what they started with; without names all of them. */
  reset(names: readonly string[]) {
    if (names.length === 0) {
      for (const [name, { start }] of Object.entries(this.plan.settings)) this.setSetting(name, start);
      this.clearAll();
      return;
    }
    for (const name of names) {
      this.reader.unstage(name);
      const setting = this.plan.settings[name];
      if (setting) this.setSetting(name, setting.start);
      else this.select(name, this.model.startOf(name));
    }
    this.touchCounts();
    this.settle();
  }

  /** Hands the rows of a piece to the reader as a file. */
  takeRows(piece: string) {
    (this.views.get(piece) as (View & { take?: () => void }) | undefined)?.take?.();
  }

  touchCounts() {
    this.touch("#sentence", ...this.plan.controls.map((control) => control.name));
  }

  touchAll() {
    this.touch("#sentence", ...this.views.keys());
  }

  touch(...names: string[]) {
    for (const name of names) this.dirty.add(name);
    this.frame ||= requestAnimationFrame(() => this.flush());
  }

  /** Has something written whenever a view is drawn. */
  alongside(name: string, write: () => void) {
    this.beside.set(name, write);
  }

  /** Draws everything in sight that may have changed, at once. */
  flush() {
    if (this.frame) cancelAnimationFrame(this.frame);
    this.frame = 0;
    let isMeasured = false;
    for (const name of [...this.dirty]) {
      const view = this.views.get(name);
      if (view && (name.startsWith("#") || this.isInSight(name))) {
        // All charts are measured before the first of them is drawn: the page is laid out once, not for each of them.
        if (view.measure && !isMeasured) {
          for (const other of this.dirty) if (this.isInSight(other)) this.views.get(other)?.measure?.();
          isMeasured = true;
        }
        this.dirty.delete(name);
        view.draw();
        this.beside.get(name)?.();
      } else if (!view) this.dirty.delete(name);
    }
  }

  /** Drops the selection that was made or moved last. */
  dropLast() {
    const last = this.recent.findLast((name) => this.model.active().some((plan) => plan.name === name));
    if (last === undefined) return;
    this.select(last, undefined);
    this.settle();
  }

  /** Ends a gesture: ranges may move, the address is written. */
  settle() {
    if (this.settling) return;
    this.settling = true;
    if (this.notice) this.tell("");
    this.model.settle((piece) => this.reader.lookOf(piece).fit === true);
    const isFit = [...this.reader.allLooks()].some(([, { fit }]) => fit);
    if (isFit || this.plan.pieces.some(({ plan }) => plan.type === "chart" && closes(plan))) this.touchAll();
    else for (const { name, plan } of this.plan.pieces) if (plan.type === "chart" && widens(plan)) this.touch(name);
    this.flush();
    for (const listener of this.listeners) listener();
    this.warming.again();
    this.settling = false;
  }

  /** Ends a gesture that has no end of its own, such as turning a wheel, once it rests. */
  settleSoon() {
    clearTimeout(this.resting);
    this.resting = setTimeout(() => this.settle(), 250);
  }

  setCrosshair(value: Crosshair["value"] | undefined, targets: readonly string[] = []) {
    const before = this.crosshair;
    this.stands.crosshair = value === undefined ? undefined : { value, targets: new Set(targets) };
    for (const name of new Set([...(before?.targets ?? []), ...targets]))
      (this.views.get(name) as View & { drawCrosshair?: () => void })?.drawCrosshair?.();
  }

  /** Returns every selection and pick to its start; legends come back whole. */
  clearAll() {
    for (const { name } of this.plan.controls) this.reader.unstage(name);
    for (const { name } of this.plan.selections) this.select(name, this.model.startOf(name));
    for (const [piece] of this.reader.allOff()) this.switchOff(piece, []);
    this.touchAll();
    this.settle();
  }

  clear(name: string) {
    const plan = this.model.selections.get(name);
    if (!plan) return;
    this.reader.unstage(name);
    this.select(name, this.model.startOf(name));
    this.settle();
  }

  showPage(page: number) {
    if (page < 0 || page >= this.plan.pages.length) return;
    this.stands.page = page;
    this.plan.pages.forEach((_, at) => {
      const main = document.getElementById(`page-${at}`);
      if (main) main.hidden = at !== page;
      if (main && at === page) bringTo(main);
      const tab = document.querySelector(`[data-page="${at}"]`);
      if (at === page) tab?.setAttribute("aria-current", "page");
      else tab?.removeAttribute("aria-current");
    });
    this.tooltip.hide();
    this.side?.changed();
    this.flush();
  }
}

/** How the page stands, and who acts on it; App alone changes it. */
interface Stands {
  page: number;
  side?: Side;
  tabs: Map<string, Tabs>;
  alone?: string | undefined;
  isPrinting: boolean;
  notice: string;
  crosshair?: Crosshair | undefined;
  isReader: boolean;
}

/** A shared rule: the value by its place along an axis and by its name among categories, and who shows it. */
export interface Crosshair {
  value: { at: number; name: string | null };
  targets: ReadonlySet<string>;
}

/** Said of a row that a step made only of the rows left, as with `first` after a `group`. */
export const NOT_PICKED = "this row is there only while other rows are left out, and cannot be picked";
