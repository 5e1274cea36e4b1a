import { inclusiveEnd } from "../../core/link/predicate";
import { OPEN_HIGH, OPEN_LOW, type SelectionState } from "../../core/link/selection";
import type { PickControlPlan } from "../../core/plan/plan";
import type { Channel } from "../../core/query/query";
import { writeNumber } from "../../core/query/write";
import { extentOf } from "../../core/table/extent";
import { decodePart, encodePart, numberText, textNumber, typedText } from "../address";
import type { App } from "../app";
import { element } from "../dom";
import { SelectionControl } from "./control-view";
import { plainEnd } from "./plain-end";
import { evenPlaces, logPlaces, type Places, Rail, roundStep } from "./rail";

const DAY = 86400;

/** An end in the address: its own dots stay, as two of them stand between the ends. */
const endText = (kind: string, value: number) => encodePart(numberText(kind, value)).replaceAll("%2E", ".");

/** Datetimes are picked by whole days and written as such. */
function dayChannel(channel: Channel): Channel {
  return channel.kind === "datetime" ? { ...channel, kind: "date", format: "%-d %b %Y" } : channel;
}

/** What ranges and bounds share: the values of their column, and a range on them. */
export abstract class SpanControl extends SelectionControl<PickControlPlan> {
  /** The least and the largest known value: a range over both holds everything, and is off. */
  protected readonly extent: readonly [number, number];
  protected readonly channel: Channel;

  constructor(app: App, control: PickControlPlan) {
    super(app, control);
    const column = app.model.engine.columnsOf(control.from).get(control.channel.formula);
    this.extent = (column.kind === "text" ? undefined : extentOf(column.values)) ?? [0, 1];
    this.channel = dayChannel(control.channel);
  }

  protected places(): Places {
    const { kind } = this.control.channel;
    const [low, high] = this.control.range ?? this.extent;
    if (this.control.log) return logPlaces(low, high);
    const isMoment = kind === "date" || kind === "datetime";
    const step = this.control.step ?? (isMoment ? DAY : roundStep((high - low) / 200, kind === "duration"));
    const places = evenPlaces(low, high, step);
    return kind === "datetime"
      ? { ...places, most: Math.max(places.least + step, Math.floor(high / step) * step) }
      : places;
  }

  protected words(value: number): string {
    return writeNumber(this.channel, value);
  }

  protected legend(): string {
    const { unit } = this.channel;
    return unit ? `${this.control.label}, ${unit}` : this.control.label;
  }

  /** A value of a script or an address as a number; `NaN` for what the column cannot hold. */
  protected number(value: unknown): number {
    const { kind } = this.control.channel;
    return typeof value === "number" && kind !== "date" && kind !== "datetime"
      ? value
      : textNumber(kind, String(value ?? ""));
  }

  /** The reader moves it: at once, or when it is let go. */
  protected move(state: SelectionState | undefined, ended: boolean) {
    if (!ended && this.control.onRelease) return;
    this.change(state);
  }
}

/** A range with two ends, on a rail or as two days. */
abstract class TwoEnds extends SpanControl {
  protected isWhole(low: number, high: number): boolean {
    return low <= this.extent[0] && inclusiveEnd(this.control.channel.kind, high) > this.extent[1];
  }

  protected stateOf(low: number, high: number): SelectionState | undefined {
    return this.isWhole(low, high) ? undefined : { x: [low, high] };
  }

  set(value: unknown): string | undefined {
    if (value === null || value === undefined || value === "all") {
      this.put(undefined);
      return undefined;
    }
    const pair = Array.isArray(value) ? { from: value[0], to: value[1] } : (value as { from?: unknown; to?: unknown });
    if (typeof pair !== "object") return `${this.name} takes {from, to}`;
    const end = (one: unknown, otherwise: number) => (one === undefined || one === null ? otherwise : this.number(one));
    const [low, high] = [end(pair.from, this.extent[0]), end(pair.to, this.extent[1])];
    if (!(low <= high)) return `${this.name} cannot hold ${JSON.stringify(value)}`;
    this.put(this.stateOf(low, high));
    return undefined;
  }

  plain(): unknown {
    if (this.isAsStarted()) return undefined;
    const range = this.held()?.x;
    if (!range) return "all";
    const [from, to] = range.map((end) => plainEnd(this.control.channel.kind, end));
    return { from, to };
  }

  write(): string | undefined {
    if (this.isAsStarted()) return undefined;
    const { kind } = this.control.channel;
    return (
      this.held()
        ?.x?.map((end) => endText(kind, end))
        .join("..") ?? "~all"
    );
  }

  read(text: string | undefined) {
    if (text === undefined) this.put(this.start());
    else if (text === "~all") this.put(undefined);
    else {
      const [from, to] = text.split("..").map(decodePart);
      if (from !== undefined && to !== undefined) this.set({ from, to });
    }
  }
}

/** Two ends on a rail. */
export class PickRange extends TwoEnds {
  private readonly rail: Rail;
  private readonly on: Places;
  private readonly texts = [element("span"), element("span")] as const;

  constructor(app: App, control: PickControlPlan, host: HTMLElement) {
    super(app, control);
    this.on = this.places();
    const labels = [`${control.label}, from`, `${control.label}, to`];
    this.rail = new Rail(
      labels,
      this.on,
      (end) => this.moved(end),
      () => {
        if (control.onRelease) this.take(true);
        app.settle();
      },
    );
    const ends = element("div", { class: "ends" }, ...this.texts);
    host.replaceChildren(
      element("fieldset", { class: "control" }, element("legend", {}, this.legend()), this.rail.track, ends),
    );
  }

  private moved(end: number) {
    const [low, high] = [this.rail.placeOf(0), this.rail.placeOf(1)];
    // An end that is pushed past the other takes it along no further than to itself.
    if (low > high) this.rail.show(end, end === 0 ? high : low, "");
    this.take(false);
  }

  private take(ended: boolean) {
    const [low, high] = [this.rail.placeOf(0), this.rail.placeOf(1)];
    const full = low <= this.on.least && high >= this.on.most;
    this.move(full ? undefined : { x: [this.on.at(low), this.on.at(high)] }, ended);
    if (!ended && this.control.onRelease) this.say(this.on.at(low), this.on.at(high));
  }

  private say(low: number, high: number) {
    this.texts[0].textContent = this.words(low);
    this.texts[1].textContent = this.words(high);
  }

  draw() {
    const [low, high] = this.shown()?.x ?? [this.on.at(this.on.least), this.on.at(this.on.most)];
    this.rail.show(0, this.on.of(low), this.words(low));
    this.rail.show(1, this.on.of(high), this.words(high));
    this.rail.hold(this.rail.placeOf(0), this.rail.placeOf(1));
    this.say(low, high);
  }
}

/** Two days that are typed or chosen. */
export class PickDates extends TwoEnds {
  private readonly inputs: readonly HTMLInputElement[];

  constructor(app: App, control: PickControlPlan, host: HTMLElement) {
    super(app, control);
    const [low, high] = this.extent.map((end) => numberText("date", Math.floor(end / DAY) * DAY)) as [string, string];
    this.inputs = ["from", "to"].map((which) => {
      const input = element("input", { type: "date", min: low, max: high, "aria-label": `${control.label}, ${which}` });
      input.addEventListener("change", () => this.take());
      return input;
    });
    const days = element("div", { class: "days" }, ...this.inputs);
    host.replaceChildren(element("fieldset", { class: "control" }, element("legend", {}, control.label), days));
  }

  private take() {
    const [from, to] = this.inputs.map((input, end) =>
      input.value === "" ? (this.extent[end] as number) : textNumber("date", input.value),
    ) as [number, number];
    if (from <= to) this.change(this.stateOf(from, to));
    this.app.settle();
    this.draw();
  }

  draw() {
    const range = this.shown()?.x;
    this.inputs.forEach((input, end) => {
      const value = range ? numberText("date", Math.floor((range[end] as number) / DAY) * DAY) : "";
      if (document.activeElement !== input) input.value = value;
    });
  }
}

/** One end on a rail, with a number that can be typed and stepped; the other end is open. */
export class PickBound extends SpanControl {
  private readonly rail: Rail;
  private readonly on: Places;
  private readonly field: HTMLInputElement;

  constructor(app: App, control: PickControlPlan, host: HTMLElement) {
    super(app, control);
    this.on = this.places();
    this.rail = new Rail(
      [control.label],
      this.on,
      () => this.take(this.on.at(this.rail.placeOf(0)), false),
      () => {
        if (control.onRelease) this.take(this.on.at(this.rail.placeOf(0)), true);
        app.settle();
      },
    );
    const { kind } = control.channel;
    const isMoment = kind === "date" || kind === "datetime";
    const step = isMoment || control.log ? "any" : String(this.on.step);
    this.field = element("input", {
      type: isMoment ? "date" : kind === "duration" ? "text" : "number",
      step: isMoment ? "1" : step,
      class: "bound",
      "aria-label": `${control.label}, ${BOUND_WORDS[control.as] ?? ""}`,
    });
    this.field.addEventListener("change", () => {
      const value = this.number(this.field.value);
      if (value === value) this.take(value, true);
      app.settle();
      this.draw();
    });
    // A clock is text to the browser, which steps numbers alone.
    if (kind === "duration")
      this.field.addEventListener("keydown", (event) => {
        const up = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
        const value = this.number(this.field.value) + up * this.on.step;
        if (!up || value !== value) return;
        event.preventDefault();
        this.field.value = typedText(kind, value);
        this.take(value, true);
      });
    const words = element("span", {}, BOUND_WORDS[control.as] ?? "");
    const ends = element("div", { class: "ends" }, words, this.field);
    host.replaceChildren(
      element("fieldset", { class: "control" }, element("legend", {}, this.legend()), this.rail.track, ends),
    );
  }

  /** The range that a bound makes; none where everything passes it. */
  private stateOf(value: number): SelectionState | undefined {
    const [low, high] = this.extent;
    const { end, as } = this.control;
    const passesAll =
      end === "low" ? (as === "above" ? value < low : value <= low) : as === "below" ? value > high : value >= high;
    return passesAll ? undefined : { x: end === "low" ? [value, OPEN_HIGH] : [OPEN_LOW, value] };
  }

  private take(value: number, ended: boolean) {
    this.move(this.stateOf(value), ended);
    if (!ended) this.writeField(value);
  }

  /** The bound that a state holds; where it holds none, the end at which everything passes. */
  private boundOf(state: SelectionState | undefined): number {
    const side = this.control.end === "low" ? 0 : 1;
    return state?.x?.[side] ?? this.on.at(side === 0 ? this.on.least : this.on.most);
  }

  set(value: unknown): string | undefined {
    if (value === null || value === undefined || value === "all") {
      this.put(undefined);
      return undefined;
    }
    const pair = typeof value === "object" && !Array.isArray(value) ? (value as { from?: unknown; to?: unknown }) : {};
    const one = typeof value === "object" ? (this.control.end === "low" ? pair.from : pair.to) : value;
    const number = this.number(one);
    if (!Number.isFinite(number)) return `${this.name} cannot hold ${JSON.stringify(value)}`;
    this.put(this.stateOf(number));
    return undefined;
  }

  plain(): unknown {
    if (this.isAsStarted()) return undefined;
    const held = this.held();
    return held ? plainEnd(this.control.channel.kind, this.boundOf(held)) : "all";
  }

  write(): string | undefined {
    if (this.isAsStarted()) return undefined;
    const held = this.held();
    return held ? endText(this.control.channel.kind, this.boundOf(held)) : "~all";
  }

  read(text: string | undefined) {
    if (text === undefined) this.put(this.start());
    else this.set(text === "~all" ? "all" : decodePart(text));
  }

  private writeField(value: number) {
    if (document.activeElement !== this.field)
      this.field.value =
        this.field.type === "date"
          ? numberText("date", Math.floor(value / DAY) * DAY)
          : typedText(this.control.channel.kind, value);
  }

  draw() {
    const value = this.boundOf(this.shown());
    this.rail.show(0, this.on.of(value), this.words(value));
    const place = this.rail.placeOf(0);
    if (this.control.end === "low") this.rail.hold(place, this.on.most);
    else this.rail.hold(this.on.least, place);
    this.writeField(value);
  }
}

const BOUND_WORDS: Readonly<Record<string, string>> = {
  at_least: "at least",
  at_most: "at most",
  above: "above",
  below: "below",
};
