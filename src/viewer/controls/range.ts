import type { Indexer } from "../../core/link/index/in-hand";
import { rangeIndexer } from "../../core/link/index/range-index";
import { inclusiveEnd } from "../../core/link/predicate";
import type { SelectionState } from "../../core/link/selection";
import type { PickControlPlan } from "../../core/plan/plan";
import type { Channel } from "../../core/query/query";
import { withUnit, writeNumber } from "../../core/query/write";
import { extentOf } from "../../core/table/extent";
import { decodePart, encodePart, numberText, textNumber } from "../address";
import type { App } from "../app";
import { element } from "../dom";
import { SelectionControl } from "./control-view";
import { plainEnd } from "./plain-end";
import { evenPlaces, logPlaces, type Places, Rail, roundStep } from "./rail";

export const DAY = 86400;

/** Places of a rail for which totals are kept. */
const MOST_STEPS = 512;

/** An end in the address: its own dots stay, as two of them stand between the ends. */
export const endText = (kind: string, value: number) => encodePart(numberText(kind, value)).replaceAll("%2E", ".");

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

  /** Along the places of its rail, as far as there are not too many of them. */
  indexer(): Indexer {
    const { least, most, step, at } = this.places();
    const stride = step * Math.ceil((most - least) / step / MOST_STEPS);
    return rangeIndexer(
      Float64Array.from({ length: Math.floor((most - least) / stride) + 1 }, (_, n) => at(least + n * stride)),
    );
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
    return withUnit(this.control.label, this.channel.unit);
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
