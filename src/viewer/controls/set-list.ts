import { listOf } from "../../core/formula/list-setting";
import type { SetControlPlan } from "../../core/plan/plan";
import { readNames, writeNames } from "../address";
import type { App } from "../app";
import { element } from "../dom";
import { ValueControl } from "./control-view";

/** A list of which a reader takes some values; they stand in the order in which they were taken. */
export class SetList extends ValueControl {
  private readonly boxes = new Map<string, HTMLInputElement>();

  constructor(app: App, control: SetControlPlan, host: HTMLElement) {
    super(app, control);
    const lines = (control.of ?? []).map(({ value, label }) => {
      const input = element("input", { type: "checkbox" });
      input.addEventListener("change", () => this.toggle(value, input.checked));
      this.boxes.set(value, input);
      return element("li", {}, element("label", {}, input, element("span", { class: "name" }, label)));
    });
    const list = element("ul", { class: "choices" }, ...lines);
    host.replaceChildren(element("fieldset", { class: "control" }, element("legend", {}, control.label), list));
  }

  private values(): string[] {
    return listOf(this.shown()).map(String);
  }

  private written(values: readonly string[]): string {
    const isNumbers = this.app.plan.settings[this.name]?.kind === "number";
    return JSON.stringify(isNumbers ? values.map(Number) : values);
  }

  private toggle(value: string, on: boolean) {
    const rest = this.values().filter((other) => other !== value);
    this.change(this.written(on ? [...rest, value] : rest));
    this.app.settle();
  }

  override set(value: unknown): string | undefined {
    const values = (value === "all" ? (this.control.of ?? []).map((one) => one.value) : [value].flat()).map(String);
    const odd = values.find((one) => !this.boxes.has(one));
    if (odd !== undefined) return `${this.name} takes some of ${[...this.boxes.keys()].join(", ")}, and not "${odd}"`;
    this.put(this.written([...new Set(values)]));
    return undefined;
  }

  override plain(): unknown {
    const now = super.plain();
    return now === undefined ? undefined : listOf(String(now));
  }

  override write(): string | undefined {
    const now = this.plain();
    return now === undefined ? undefined : writeNames((now as (string | number)[]).map(String));
  }

  override read(text: string | undefined) {
    const start = listOf(this.app.plan.settings[this.name]?.start ?? null);
    if (text === undefined || this.set(readNames(text).map(String)) !== undefined) this.set(start);
  }

  draw() {
    const now = new Set(this.values());
    for (const [value, box] of this.boxes) box.checked = now.has(value);
  }
}
