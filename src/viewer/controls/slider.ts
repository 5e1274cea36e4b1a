import type { SetControlPlan } from "../../core/plan/plan";
import type { App } from "../app";
import { element } from "../dom";
import { ValueControl } from "./control-view";
import { evenPlaces, logPlaces, type Places, Rail } from "./rail";

/** A number on a rail, with the number at its end; it acts while it moves. */
export class SetSlider extends ValueControl {
  private readonly rail: Rail;
  private readonly on: Places;
  private readonly field: HTMLInputElement;

  constructor(app: App, control: SetControlPlan, host: HTMLElement) {
    super(app, control);
    const [low, high] = control.range ?? [0, 1];
    const step = control.step ?? 1;
    // Steps begin at the lower end.
    const most = low + Math.floor((high - low) / step + 1e-9) * step;
    this.on = control.log ? logPlaces(low, high) : { ...evenPlaces(low, high, step), least: low, most };
    this.rail = new Rail(
      [control.label],
      this.on,
      () => this.moved(false),
      () => {
        this.moved(true);
        app.settle();
      },
    );
    const id = `control-${control.name}`;
    this.field = element("input", {
      id,
      type: "number",
      class: "bound",
      min: String(low),
      max: String(high),
      step: String(step),
      "aria-label": `${control.label}, value`,
    });
    this.field.addEventListener("change", () => {
      const value = this.inKind(this.field.value);
      if (this.problem(value) === undefined) this.change(value);
      app.settle();
      this.draw();
    });
    const ends = element("div", { class: "ends" }, element("span", {}, String(low)), this.field);
    const label = element("label", { for: id }, control.label);
    host.replaceChildren(element("div", { class: "control" }, label, this.rail.track, ends));
  }

  private moved(ended: boolean) {
    const value = this.on.at(this.rail.placeOf(0));
    if (ended || !this.control.onRelease) this.change(value);
    this.field.value = String(value);
  }

  draw() {
    const now = Number(this.shown());
    this.rail.show(0, this.on.of(now), String(now));
    this.rail.hold(this.on.least, this.rail.placeOf(0));
    if (document.activeElement !== this.field) this.field.value = String(now);
  }
}
