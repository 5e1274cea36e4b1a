import { writeCount } from "../../core/formula/format";
import type { PickControlPlan } from "../../core/plan/plan";
import type { App } from "../app";
import { button, element } from "../dom";
import { type Name, ValuesControl } from "./value-names";

/**
 * A box for each value. Begun with none ticked, the first press leaves that one alone; begun full, it takes one
 * away.
 */
export class Checkboxes extends ValuesControl {
  private readonly boxes = new Map<Name, { input: HTMLInputElement; count: HTMLElement }>();
  private readonly all = button("all", () => this.pick(undefined), { class: "plain" });

  constructor(app: App, control: PickControlPlan, host: HTMLElement) {
    super(app, control);
    const list = element("ul", { class: "choices" });
    for (const name of this.names) {
      const input = element("input", { type: "checkbox" });
      const count = element("span", { class: "count" });
      input.addEventListener("change", () => this.toggle(name, input.checked));
      const words = element("span", { class: "name" }, this.textOf(name));
      list.append(element("li", {}, element("label", {}, input, words, count)));
      this.boxes.set(name, { input, count });
    }
    const legend = element("legend", {}, control.label, " ", this.all);
    host.replaceChildren(element("fieldset", { class: "control" }, legend, list));
  }

  /** What is ticked; with no choice made all boxes of a list that begins full, else none. */
  private ticked(): readonly Name[] {
    return this.picked() ?? (this.control.full ? this.names : []);
  }

  private toggle(name: Name, on: boolean) {
    const now = this.ticked();
    const next = this.names.filter((other) => (other === name ? on : now.includes(other)));
    if (on && next.length > this.most()) {
      this.app.say(`at most ${this.most()} can be ticked`);
      this.draw();
      return;
    }
    this.pick(next);
  }

  draw() {
    const counts = this.counts();
    const ticked = this.ticked();
    this.all.hidden = !this.control.all || this.picked() === undefined;
    const full = ticked.length >= this.most();
    for (const [name, { input, count }] of this.boxes) {
      input.checked = ticked.includes(name);
      input.disabled = full && !input.checked;
      count.textContent = writeCount(counts.get(name) ?? 0);
    }
  }
}
