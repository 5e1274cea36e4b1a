import { writeCount } from "../core/formula/format";
import { inclusiveEnd } from "../core/link/predicate";
import type { PickControlPlan, SetControlPlan } from "../core/plan/plan";
import { categoriesOf, nameAt } from "../core/query/categories";
import { LayerValues } from "../core/query/values";
import { writeNumber } from "../core/query/write";
import { valuesIn } from "../core/table/column";
import { extentOf } from "../core/table/extent";
import { textNumber } from "./address";
import type { App, View } from "./app";
import { button, element } from "./dom";

/** A control that can be set from outside, as the address and scripts do. */
export interface ControlView extends View {
  /** Takes a value; answers words when it cannot be held. */
  set: (value: unknown) => string | undefined;
  /** What the control holds now, for the state; nothing when it holds what it started with. */
  value: () => unknown;
}

/** Values that are picked one by one: check boxes or a menu, each with how many rows it would bring. */
export class PickList implements ControlView {
  readonly name: string;
  private readonly names: (string | null)[];
  private readonly boxes = new Map<string | null, { input: HTMLInputElement; count: HTMLElement }>();
  private select: HTMLSelectElement | undefined;
  private typed: HTMLInputElement | undefined;
  private readonly all = button("all", () => this.change(undefined), { class: "plain" });
  /** What is ticked; nothing means that all are. */
  private ticked: (string | null)[] | undefined;

  constructor(
    private readonly app: App,
    private readonly control: PickControlPlan,
    host: HTMLElement,
  ) {
    this.name = control.name;
    const found = app.model.controlValues(control.name);
    const column = found?.all.prepared.keys.get("key");
    this.names = column
      ? namesOf(
          categoriesOf(column, control.channel.order).map(({ name }) => name),
          control.split,
        )
      : [];
    this.ticked = control.start ? [...control.start] : undefined;
    if (control.as === "menu") this.menu(host);
    else this.list(host);
  }

  private list(host: HTMLElement) {
    const list = element("ul", { class: "choices" });
    for (const name of this.names) {
      const input = element("input", { type: "checkbox" });
      const count = element("span", { class: "count" });
      input.addEventListener("change", () => this.toggle(name, input.checked));
      list.append(
        element("li", {}, element("label", {}, input, element("span", { class: "name" }, name ?? "missing"), count)),
      );
      this.boxes.set(name, { input, count });
    }
    host.replaceChildren(
      element("fieldset", { class: "control" }, element("legend", {}, this.control.label, " ", this.all), list),
    );
  }

  private menu(host: HTMLElement) {
    const label = element("label", { for: `control-${this.name}` }, this.control.label);
    if (this.names.length > 8) {
      // Long lists can be typed into.
      const list = element("datalist", { id: `list-${this.name}` });
      this.typed = element("input", {
        type: "search",
        id: `control-${this.name}`,
        list: `list-${this.name}`,
        placeholder: "all · type to find",
      });
      this.typed.addEventListener("change", () => {
        const text = this.typed?.value.trim() ?? "";
        const name = this.names.find((one) => (one ?? "missing").toLowerCase() === text.toLowerCase());
        if (text !== "" && name === undefined) this.app.say(`there is no ${text}`);
        else this.change(text === "" ? undefined : [name as string | null]);
      });
      host.replaceChildren(element("div", { class: "control" }, label, this.typed, list));
      return;
    }
    this.select = element("select", { id: `control-${this.name}` });
    this.select.addEventListener("change", () => {
      const place = Number(this.select?.value);
      this.change(place < 0 ? undefined : [this.names[place] as string | null]);
    });
    host.replaceChildren(element("div", { class: "control" }, label, this.select));
  }

  private toggle(name: string | null, on: boolean) {
    const now = this.ticked ?? this.names;
    this.change(
      on ? this.names.filter((other) => other === name || now.includes(other)) : now.filter((other) => other !== name),
    );
  }

  private change(names: (string | null)[] | undefined) {
    this.apply(names);
    this.app.settle();
  }

  private apply(names: (string | null)[] | undefined) {
    this.ticked = names && names.length === this.names.length ? undefined : names;
    const keys = this.ticked?.map((name) => ({ [this.control.channel.text]: this.valueOf(name) }));
    const off = keys === undefined || (keys.length === 0 && this.control.none === "all");
    this.app.select(this.name, off ? undefined : { keys });
  }

  /** The value that a name stands for, in the column's own kind. */
  private valueOf(name: string | null): string | number | boolean | null {
    const { kind } = this.control.channel;
    if (name === null || kind === "text" || kind === "date" || kind === "datetime") return name;
    return kind === "boolean" ? name === "true" : Number(name);
  }

  set(value: unknown): string | undefined {
    if (value === null || value === undefined || value === "all") {
      this.apply(undefined);
      return undefined;
    }
    const wanted = (Array.isArray(value) ? value : [value]).map((one) => (one === null ? null : String(one)));
    const unknown = wanted.find((name) => !this.names.includes(name));
    if (unknown !== undefined) return `${this.name} has no value "${unknown}"`;
    this.apply(this.names.filter((name) => wanted.includes(name)));
    return undefined;
  }

  value(): unknown {
    const start = this.control.start;
    if (this.ticked === undefined) return start ? "all" : undefined;
    if (
      start &&
      start.length === this.ticked.length &&
      this.ticked.every((name) => name !== null && start.includes(name))
    )
      return undefined;
    return this.ticked.map((name) => this.valueOf(name));
  }

  /** Takes over what stands in the model after clear all or an address. */
  private follow() {
    const state = this.app.model.engine.state(this.name);
    if (state?.keys)
      this.ticked = this.names.filter((name) =>
        state.keys?.some((key) => Object.values(key)[0] === this.valueOf(name)),
      );
    else if (this.ticked && this.ticked.length > 0) this.ticked = undefined;
  }

  draw() {
    this.follow();
    const found = this.app.model.controlValues(this.name);
    if (!found) return;
    const column = found.answer.prepared.keys.get("key");
    const numbers = new LayerValues(found.answer, found.all).numbers("n");
    const counts = new Map<string | null, number>();
    if (column && numbers)
      for (let group = 0; group < numbers.length; group++)
        for (const name of namesOf([nameAt(column, group)], this.control.split))
          counts.set(name, (counts.get(name) ?? 0) + (numbers[group] as number));
    const now = this.ticked ?? this.names;
    this.all.hidden = this.ticked === undefined;
    for (const [name, { input, count }] of this.boxes) {
      input.checked = now.includes(name);
      count.textContent = writeCount(counts.get(name) ?? 0);
    }
    const label = (name: string | null) => `${name ?? "missing"} (${writeCount(counts.get(name) ?? 0)})`;
    const chosen = this.ticked?.length === 1 ? this.names.indexOf(this.ticked[0] as string | null) : -1;
    this.select?.replaceChildren(
      element("option", { value: "-1", ...(chosen < 0 ? { selected: "" } : {}) }, "all"),
      ...this.names.map((name, at) =>
        element("option", { value: String(at), ...(at === chosen ? { selected: "" } : {}) }, label(name)),
      ),
    );
    if (this.typed) {
      if (document.activeElement !== this.typed) this.typed.value = chosen < 0 ? "" : (this.names[chosen] ?? "missing");
      const list = this.typed.list;
      list?.replaceChildren(
        ...this.names.map((name) => element("option", { value: name ?? "missing", label: label(name) })),
      );
    }
  }
}

/** The values that a reader can pick: of cells that hold several, each by itself. */
function namesOf(names: readonly (string | null)[], split: string | undefined): (string | null)[] {
  if (split === undefined) return [...names];
  return [...new Set(names.flatMap((name) => (name === null ? [null] : valuesIn(name, split))))].sort(
    (a, b) => Number(a === null) - Number(b === null) || ((a ?? "") < (b ?? "") ? -1 : 1),
  );
}

/** Width of a slider's end in pixels, as in the style sheet. */
const THUMB = 9;

/** A range with two ends over numbers, lengths of time or dates. */
export class PickRange implements ControlView {
  readonly name: string;
  private readonly low: HTMLInputElement;
  private readonly high: HTMLInputElement;
  private readonly held = element("span", { class: "held" });
  private readonly track = element("div", { class: "track" });
  private readonly texts = [element("span"), element("span")] as const;
  private readonly from: number;
  private readonly to: number;
  private readonly step: number;
  /** The least and the largest known value: a range over both holds everything, and is off. */
  private readonly extent: readonly [number, number];

  constructor(
    private readonly app: App,
    private readonly control: PickControlPlan,
    host: HTMLElement,
  ) {
    this.name = control.name;
    const { kind } = control.channel;
    const column = app.model.engine.columnsOf(control.from).get(control.channel.formula);
    const [low, high] = (column.kind === "text" ? undefined : extentOf(column.values)) ?? [0, 1];
    this.extent = [low, high];
    this.step = kind === "date" || kind === "datetime" ? 86400 : roundStep((high - low) / 200);
    this.from = Math.floor(low / this.step);
    this.to = Math.ceil(high / this.step) || this.from + 1;
    if (kind === "datetime") this.to = Math.floor(high / this.step);
    const make = (which: "from" | "to") => {
      const input = element("input", {
        type: "range",
        min: String(this.from),
        max: String(this.to),
        step: "1",
        "aria-label": `${control.label}, ${which}`,
      });
      input.addEventListener("input", () => this.moved(which));
      input.addEventListener("change", () => app.settle());
      return input;
    };
    this.low = make("from");
    this.high = make("to");
    this.track.append(element("span", { class: "rail" }), this.held, this.low, this.high);
    this.track.addEventListener("pointerdown", (event) => this.pressed(event));
    this.low.value = String(this.from);
    this.high.value = String(this.to);
    host.replaceChildren(
      element(
        "fieldset",
        { class: "control" },
        element("legend", {}, control.channel.unit ? `${control.label}, ${control.channel.unit}` : control.label),
        this.track,
        element("div", { class: "ends" }, ...this.texts),
      ),
    );
  }

  /** A press on the rail brings the nearer end there and holds it; the ends themselves take their own presses. */
  private pressed(event: PointerEvent) {
    if (event.button !== 0 || event.target === this.low || event.target === this.high) return;
    event.preventDefault();
    const box = this.track.getBoundingClientRect();
    const placeAt = ({ clientX }: PointerEvent) =>
      this.from + ((clientX - box.left - THUMB / 2) / (box.width - THUMB)) * (this.to - this.from);
    const begun = placeAt(event);
    const isLow = Math.abs(begun - Number(this.low.value)) < Math.abs(begun - Number(this.high.value));
    const end = isLow ? this.low : this.high;
    const bring = (moved: PointerEvent) => {
      end.value = String(Math.round(placeAt(moved)));
      this.moved(isLow ? "from" : "to");
    };
    const { track } = this;
    end.focus();
    track.setPointerCapture(event.pointerId);
    track.addEventListener("pointermove", bring);
    const release = () => {
      track.removeEventListener("pointermove", bring);
      this.app.settle();
    };
    track.addEventListener("lostpointercapture", release, { once: true });
    bring(event);
  }

  private at(place: number): number {
    return this.step >= 1 ? place * this.step : place / Math.round(1 / this.step);
  }

  private moved(which: "from" | "to") {
    let [low, high] = [Number(this.low.value), Number(this.high.value)];
    if (low > high) {
      if (which === "from") low = high;
      else high = low;
      this.low.value = String(low);
      this.high.value = String(high);
    }
    this.apply(low, high);
  }

  private apply(low: number, high: number) {
    const full = low <= this.from && high >= this.to;
    this.app.select(this.name, full ? undefined : { x: [this.at(low), this.at(high)] });
  }

  set(value: unknown): string | undefined {
    if (value === null || value === undefined || value === "all") {
      this.app.select(this.name, undefined);
      return undefined;
    }
    const pair = Array.isArray(value) ? { from: value[0], to: value[1] } : (value as { from?: unknown; to?: unknown });
    if (typeof pair !== "object") return `${this.name} takes {from, to}`;
    const read = (end: unknown, otherwise: number) =>
      end === undefined || end === null ? otherwise : textNumber(this.control.channel.kind, String(end));
    const [low, high] = [read(pair.from, this.at(this.from)), read(pair.to, this.at(this.to))];
    if (!(low <= high)) return `${this.name} cannot hold ${JSON.stringify(value)}`;
    const full = low <= this.extent[0] && inclusiveEnd(this.control.channel.kind, high) > this.extent[1];
    this.app.select(this.name, full ? undefined : { x: [low, high] });
    return undefined;
  }

  value(): unknown {
    const held = this.app.model.engine.state(this.name)?.x;
    const start = this.app.model.selections.get(this.name)?.start?.x;
    if (!start) return held;
    if (!held) return "all";
    return held[0] === start[0] && held[1] === start[1] ? undefined : held;
  }

  draw() {
    const range = this.app.model.engine.state(this.name)?.x;
    const [low, high] = range ?? [this.at(this.from), this.at(this.to)];
    const place = (value: number) => Math.max(this.from, Math.min(this.to, Math.round(value / this.step)));
    const [a, b] = [place(low), place(high)];
    if (Number(this.low.value) !== a) this.low.value = String(a);
    if (Number(this.high.value) !== b) this.high.value = String(b);
    const span = this.to - this.from || 1;
    this.held.style.left = `${((a - this.from) / span) * 100}%`;
    this.held.style.right = `${((this.to - b) / span) * 100}%`;
    const { channel } = this.control;
    const words = (value: number) => writeNumber(channel.kind === "datetime" ? dayChannel(channel) : channel, value);
    this.texts[0].textContent = words(low);
    this.texts[1].textContent = words(high);
    this.low.setAttribute("aria-valuetext", words(low));
    this.high.setAttribute("aria-valuetext", words(high));
  }
}

const dayChannels = new WeakMap<object, PickControlPlan["channel"]>();

/** Datetimes are picked by whole days and written as such. */
function dayChannel(channel: PickControlPlan["channel"]): PickControlPlan["channel"] {
  let day = dayChannels.get(channel);
  if (!day) {
    day = { ...channel, kind: "date", format: "%-d %b %Y" };
    dayChannels.set(channel, day);
  }
  return day;
}

function roundStep(rough: number): number {
  if (!(rough > 0)) return 1;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = rough / power >= 5 ? 5 * power : rough / power >= 2 ? 2 * power : power;
  return step >= 1 ? Math.round(step) : step;
}

/** A setting: a slider that acts while it moves, or a menu. */
export class SettingControl implements ControlView {
  readonly name: string;
  private readonly input: HTMLInputElement | HTMLSelectElement;
  private readonly shown = element("span");
  private readonly held = element("span", { class: "held" });

  constructor(
    private readonly app: App,
    private readonly control: SetControlPlan,
    host: HTMLElement,
  ) {
    this.name = control.name;
    const id = `control-${control.name}`;
    const label = element("label", { for: id }, control.label);
    if (control.as === "menu") {
      this.input = element("select", { id }, ...(control.of ?? []).map((value) => element("option", { value }, value)));
      host.replaceChildren(element("div", { class: "control" }, label, this.input));
    } else {
      const [low, high] = control.range ?? [0, 1];
      this.input = element("input", {
        id,
        type: "range",
        min: String(low),
        max: String(high),
        step: String(control.step ?? 1),
      });
      host.replaceChildren(
        element(
          "div",
          { class: "control" },
          label,
          element("div", { class: "track" }, element("span", { class: "rail" }), this.held, this.input),
          element("div", { class: "ends" }, this.shown),
        ),
      );
    }
    this.input.addEventListener("input", () => this.app.setSetting(this.name, this.read(this.input.value)));
    this.input.addEventListener("change", () => this.app.settle());
  }

  private read(text: string): string | number | boolean {
    const kind = this.app.plan.settings[this.name]?.kind;
    return kind === "number" ? Number(text) : kind === "boolean" ? text === "true" : text;
  }

  set(value: unknown): string | undefined {
    const text = String(value);
    if (this.control.as === "menu") {
      if (!this.control.of?.includes(text)) return `${this.name} is one of ${this.control.of?.join(", ")}`;
    } else {
      const [low, high] = this.control.range ?? [0, 1];
      const number = Number(text);
      if (!(number >= low && number <= high)) return `${this.name} lies between ${low} and ${high}`;
    }
    this.app.setSetting(this.name, this.read(text));
    return undefined;
  }

  value(): unknown {
    const now = this.app.model.engine.setting(this.name);
    return now === this.app.plan.settings[this.name]?.start ? undefined : now;
  }

  draw() {
    const now = String(this.app.model.engine.setting(this.name));
    if (this.input.value !== now) this.input.value = now;
    this.shown.textContent = now;
    if (this.control.range) {
      const [low, high] = this.control.range;
      this.held.style.left = "0";
      this.held.style.width = `${((Number(now) - low) / (high - low)) * 100}%`;
    }
  }
}

export function makeControl(app: App, control: PickControlPlan | SetControlPlan, host: HTMLElement): ControlView {
  if (control.type === "set") return new SettingControl(app, control, host);
  return control.as === "range" ? new PickRange(app, control, host) : new PickList(app, control, host);
}
