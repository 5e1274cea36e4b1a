import type { SetControlPlan } from "../../core/plan/plan";
import { readIsoDate } from "../../core/table/time-text";
import type { App } from "../app";
import { element } from "../dom";
import { ValueControl } from "./control-view";

/** The fields of browsers by the looks that are nothing else. */
export const FIELDS = { stepper: "number", switch: "checkbox", color: "color", text: "text", date: "date" } as const;

type FieldType = (typeof FIELDS)[keyof typeof FIELDS];

/** A setting in one field of the browser's own: a number, a text, a colour, a day, or a switch. */
export class SetField extends ValueControl {
  private readonly input: HTMLInputElement;

  constructor(app: App, control: SetControlPlan, host: HTMLElement, type: FieldType) {
    super(app, control);
    const id = `control-${control.name}`;
    const range: Record<string, string> =
      type === "number" && control.range ? { min: String(control.range[0]), max: String(control.range[1]) } : {};
    const step: Record<string, string> =
      type === "number" ? { step: control.step === undefined ? "any" : String(control.step) } : {};
    const role: Record<string, string> = type === "checkbox" ? { role: "switch" } : {};
    this.input = element("input", { id, type, ...range, ...step, ...role });
    const acts = type === "color" && !control.onRelease ? "input" : "change";
    this.input.addEventListener(acts, () => this.take());
    if (acts === "input") this.input.addEventListener("change", () => app.settle());
    const label = element("label", { for: id }, control.label);
    host.replaceChildren(
      element("div", { class: `control${type === "checkbox" ? " switched" : ""}` }, label, this.input),
    );
  }

  /** Why a text is no value of such a field: a browser would take it for nothing, or for something else. */
  private unheld(text: string): string | undefined {
    const { type } = this.input;
    if (type === "checkbox" && text !== "true" && text !== "false") return `${this.name} is true or false`;
    if (type === "color" && !/^#[\da-f]{6}$/i.test(text)) return `${this.name} is a colour such as #4f7295`;
    if (type === "date" && Number.isNaN(readIsoDate(text))) return `${this.name} is a day such as 2024-03-01`;
    return undefined;
  }

  override set(value: unknown): string | undefined {
    return this.unheld(String(value)) ?? super.set(value);
  }

  private take() {
    const { type, checked, value } = this.input;
    const next = type === "checkbox" ? checked : this.inKind(value);
    const problem = this.unheld(String(next)) ?? this.problem(next);
    if (problem === undefined) this.change(next);
    else this.app.say(problem);
    if (type !== "color") this.app.settle();
    this.draw();
  }

  draw() {
    const now = this.shown();
    if (this.input.type === "checkbox") this.input.checked = now === true;
    else if (document.activeElement !== this.input || this.input.type !== "text") this.input.value = String(now);
  }
}
