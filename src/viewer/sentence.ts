import { writeCount } from "../core/formula/format";
import type { SelectionPlan } from "../core/link/selection";
import type { App, View } from "./app";
import type { Loaded } from "./dashboard";
import { button, element } from "./dom";
import { typeRange } from "./exact-range";
import { heldText } from "./selection-text";

/** The line at the top that is always true: how many rows pass, and why. */
export class Sentence implements View {
  readonly name = "#sentence";

  constructor(
    private readonly app: App,
    private readonly host: HTMLElement,
    private readonly fresh?: Loaded["fresh"],
  ) {}

  draw() {
    const parts: (Node | string)[] = [];
    Object.entries(this.app.model.counts()).forEach(([table, { left, all }], at) => {
      if (at > 0) parts.push(" · ");
      parts.push(element("b", {}, writeCount(left)), ` of ${writeCount(all)} ${this.app.model.nounOf(table)}`);
    });
    const active = this.app.model.active();
    active.forEach((plan, at) => {
      const text = heldText(this.app, plan);
      parts.push(at === 0 ? " where " : " and ", this.chip(plan, `${text}${this.holdsIn(plan)}`));
      parts.push(button("×", () => this.drop(plan), { "aria-label": `drop ${text}`, title: `drop ${text}` }));
    });
    const pressed = this.app.reader.allOff().length > 0;
    if (pressed || !this.app.model.isAsStarted())
      parts.push(
        " ",
        button("clear all", () => this.app.clearAll(), { class: "plain" }),
      );
    if (this.app.notice) parts.push(" ", element("span", { class: "notice" }, this.app.notice));
    if (this.fresh) {
      const back = button("back to them", this.fresh.back, { class: "plain" });
      parts.push(element("span", { class: "fresh" }, `${this.fresh.says} `, back));
    }
    this.host.replaceChildren(...parts);
  }

  /** What a selection holds in words; of a range a button that lets its ends be typed. */
  private chip(plan: SelectionPlan, text: string): HTMLElement {
    const { x, y } = this.app.model.engine.state(plan.name) ?? {};
    if (plan.gesture === "control" || !(x || y)) return element("span", { class: "chip" }, text);
    const chip = button(text, () => typeRange(this.app, plan, chip), { class: "chip", title: "type its ends" });
    return chip;
  }

  /** Where a selection holds that does not filter every chart it could. */
  private holdsIn({ everywhere, effects, source }: SelectionPlan): string {
    const targets = [...new Set(effects.map(({ target }) => target))].filter((target) => target !== source);
    if (everywhere || targets.length === 0) return "";
    if (targets.length > 3) return `, in ${targets.length} charts`;
    return `, in ${targets.map((target) => this.app.model.titleOf(target)).join(" and ")}`;
  }

  private drop(plan: SelectionPlan) {
    this.app.select(plan.name, undefined);
    this.app.settle();
  }
}
