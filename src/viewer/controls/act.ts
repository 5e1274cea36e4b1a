import type { ButtonPlan } from "../../core/plan/plan";
import type { App } from "../app";
import { element } from "../dom";
import type { ControlView } from "./control-view";

/** A button: applies what waits, goes back to the start, draws anew, or hands rows out. */
export class ActButton implements ControlView {
  readonly name: string;
  private readonly pressed: HTMLButtonElement;

  constructor(
    private readonly app: App,
    private readonly control: ButtonPlan,
    host: HTMLElement,
  ) {
    this.name = control.name;
    this.pressed = element("button", { type: "button", class: "act" }, control.label);
    this.pressed.addEventListener("click", () => this.press());
    host.replaceChildren(element("div", { class: "control" }, this.pressed));
  }

  press() {
    const { app, control } = this;
    if (control.does === "apply") app.apply(control.to);
    else if (control.does === "reset") app.reset(control.to);
    else if (control.does === "redraw") this.redraw(this.times() + 1);
    else for (const piece of control.to) app.takeRows(piece);
    if (control.does === "redraw") app.settle();
  }

  /** How often its tables were drawn anew: a setting that their draws follow. */
  private times(): number {
    return Number(this.app.model.engine.setting(this.name) ?? 0);
  }

  private redraw(times: number) {
    this.app.setSetting(this.name, times);
  }

  set(value: unknown): string | undefined {
    if (this.control.does !== "redraw") return `${this.name} is a button; press("${this.name}") presses it`;
    const times = Number(value);
    if (!Number.isInteger(times) || times < 0) return `${this.name} takes how often its tables were drawn anew`;
    this.redraw(times);
    return undefined;
  }

  plain(): unknown {
    return this.times() || undefined;
  }

  write(): string | undefined {
    return this.times() ? String(this.times()) : undefined;
  }

  read(text: string | undefined) {
    if (this.control.does !== "redraw") return;
    if (text === undefined || this.set(text) !== undefined) this.set(0);
  }

  draw() {
    if (this.control.does !== "apply") return;
    const waiting = this.control.to.filter((name) => this.app.reader.waitingAt(name)).length;
    this.pressed.disabled = waiting === 0;
    this.pressed.textContent = waiting ? `${this.control.label} (${waiting})` : this.control.label;
  }
}
