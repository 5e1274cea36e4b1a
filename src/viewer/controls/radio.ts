import { writeCount } from "../../core/formula/format";
import type { PickControlPlan, SetControlPlan } from "../../core/plan/plan";
import type { App } from "../app";
import { element } from "../dom";
import { ValueControl } from "./control-view";
import { type Name, ValuesControl } from "./value-names";

interface Entry<V> {
  value: V;
  input: HTMLInputElement;
  count: HTMLElement;
}

/** A list of which one entry is on. */
function entriesOf<V>(name: string, values: readonly { value: V; label: string }[], choose: (value: V) => void) {
  const list = element("ul", { class: "choices" });
  const entries = values.map(({ value, label }): Entry<V> => {
    const input = element("input", { type: "radio", name: `radio-${name}` });
    const count = element("span", { class: "count" });
    input.addEventListener("change", () => choose(value));
    list.append(element("li", {}, element("label", {}, input, element("span", { class: "name" }, label), count)));
    return { value, input, count };
  });
  return { list, entries };
}

const ALL = "\u0000all";

/** One value of a column, all of them in sight. */
export class PickRadio extends ValuesControl {
  private readonly entries: Entry<Name>[];

  constructor(app: App, control: PickControlPlan, host: HTMLElement) {
    super(app, control);
    const values = this.names.map((value) => ({ value, label: this.textOf(value) }));
    const all = control.all ? [{ value: ALL as Name, label: "all" }] : [];
    const { list, entries } = entriesOf<Name>(control.name, [...all, ...values], (value) =>
      this.pick(value === ALL ? undefined : [value]),
    );
    this.entries = entries;
    host.replaceChildren(element("fieldset", { class: "control" }, element("legend", {}, control.label), list));
  }

  protected override most(): number {
    return 1;
  }

  draw() {
    const counts = this.counts();
    const picked = this.picked();
    for (const { value, input, count } of this.entries) {
      input.checked = value === ALL ? picked === undefined : picked?.[0] === value && picked.length === 1;
      count.textContent = value === ALL ? "" : writeCount(counts.get(value) ?? 0);
    }
  }
}

/** One value of a setting, all of them in sight. */
export class SetRadio extends ValueControl {
  private readonly entries: Entry<string>[];

  constructor(app: App, control: SetControlPlan, host: HTMLElement) {
    super(app, control);
    const { list, entries } = entriesOf(control.name, control.of ?? [], (value) => {
      this.change(this.inKind(value));
      this.app.settle();
    });
    this.entries = entries;
    host.replaceChildren(element("fieldset", { class: "control" }, element("legend", {}, control.label), list));
  }

  draw() {
    const now = String(this.shown());
    for (const { value, input } of this.entries) input.checked = value === now;
  }
}
