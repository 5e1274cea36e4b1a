import { writeCount } from "../../core/formula/format";
import type { SearchControlPlan } from "../../core/plan/plan";
import { decodePart, encodePart } from "../address";
import type { App } from "../app";
import { element } from "../dom";
import { SelectionControl } from "./control-view";

/** Rows that hold what is typed. */
export class Search extends SelectionControl<SearchControlPlan> {
  private readonly input: HTMLInputElement;
  private readonly found = element("span", { class: "count" });

  constructor(app: App, control: SearchControlPlan, host: HTMLElement) {
    super(app, control);
    const id = `control-${control.name}`;
    const where = control.columns.map(({ label }) => label).join(", ");
    this.input = element("input", { id, type: "search", placeholder: `in ${where}`, autocomplete: "off" });
    this.input.addEventListener("input", () => this.change(this.stateOf(this.input.value)));
    this.input.addEventListener("change", () => app.settle());
    const label = element("label", { for: id }, control.label, " ", this.found);
    host.replaceChildren(element("div", { class: "control" }, label, this.input));
  }

  private stateOf(text: string) {
    return text.trim() === "" ? undefined : { search: text.trim() };
  }

  set(value: unknown): string | undefined {
    this.put(this.stateOf(value === null || value === undefined || value === "all" ? "" : String(value)));
    return undefined;
  }

  plain(): string | undefined {
    return this.isAsStarted() ? undefined : (this.held()?.search ?? "");
  }

  write(): string | undefined {
    const text = this.plain();
    return text === undefined ? undefined : encodePart(text);
  }

  read(text: string | undefined) {
    this.put(text === undefined ? this.start() : this.stateOf(decodePart(text) ?? ""));
  }

  draw() {
    const now = this.shown()?.search ?? "";
    if (document.activeElement !== this.input) this.input.value = now;
    this.found.textContent = now === "" ? "" : `${writeCount(this.app.model.rows.held(this.name))} found`;
  }
}
