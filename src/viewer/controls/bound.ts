import { OPEN_HIGH, OPEN_LOW, type SelectionState } from "../../core/link/selection";
import type { PickControlPlan } from "../../core/plan/plan";
import { decodePart, numberText, typedText } from "../address";
import type { App } from "../app";
import { element } from "../dom";
import { plainEnd } from "./plain-end";
import { type Places, Rail } from "./rail";
import { DAY, endText, SpanControl } from "./range";

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
        app.settle();
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
