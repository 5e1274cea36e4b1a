import { writeCount } from "../../core/formula/format";
import type { PickControlPlan, SetControlPlan } from "../../core/plan/plan";
import type { App } from "../app";
import { button, element } from "../dom";
import { ValueControl } from "./control-view";
import { TypedList } from "./typed-list";
import { type Name, ValuesControl } from "./value-names";

/** Menus of more values than this can be typed into. */
const PLAIN = 8;

/** One value of a column. */
export class PickMenu extends ValuesControl {
  private readonly select: HTMLSelectElement | undefined;
  private readonly typed: TypedList | undefined;

  constructor(app: App, control: PickControlPlan, host: HTMLElement) {
    super(app, control);
    const id = `control-${control.name}`;
    const label = element("label", { for: id }, control.label);
    if (this.names.length > PLAIN) {
      const placeholder = control.all ? "all · type to find" : "type to find";
      this.typed = new TypedList(
        id,
        placeholder,
        (place) => this.pick([this.names[place] as Name]),
        () => {
          if (control.all) this.pick(undefined);
        },
      );
      host.replaceChildren(element("div", { class: "control" }, label, this.typed.field));
      return;
    }
    const select = element("select", { id });
    select.addEventListener("change", () => {
      const place = Number(select.value);
      this.pick(place < 0 ? undefined : [this.names[place] as Name]);
    });
    this.select = select;
    host.replaceChildren(element("div", { class: "control" }, label, select));
  }

  protected override most(): number {
    return 1;
  }

  draw() {
    const counts = this.counts();
    const picked = this.picked();
    const chosen = picked?.length === 1 ? this.names.indexOf(picked[0] as Name) : -1;
    const note = (name: Name) => writeCount(counts.get(name) ?? 0);
    this.typed?.show(
      this.names.map((name) => ({ label: this.textOf(name), note: note(name) })),
      chosen < 0 ? "" : this.textOf(this.names[chosen] as Name),
    );
    const option = (value: number, text: string) =>
      element("option", { value: String(value), ...(value === chosen ? { selected: "" } : {}) }, text);
    this.select?.replaceChildren(
      ...(this.control.all || chosen < 0 ? [option(-1, this.control.all ? "all" : "")] : []),
      ...this.names.map((name, at) => option(at, `${this.textOf(name)} (${note(name)})`)),
    );
  }
}

/** Several values of a column, picked one after another from a list that can be typed into. */
export class PickMenus extends ValuesControl {
  private readonly typed: TypedList;
  private readonly chips = element("ul", { class: "chips" });

  constructor(app: App, control: PickControlPlan, host: HTMLElement) {
    super(app, control);
    const id = `control-${control.name}`;
    this.typed = new TypedList(
      id,
      "all · type to find",
      (place) => this.toggle(this.names[place] as Name),
      () => undefined,
    );
    const label = element("label", { for: id }, control.label);
    host.replaceChildren(element("div", { class: "control" }, label, this.chips, this.typed.field));
  }

  private toggle(name: Name) {
    const now = this.picked() ?? [];
    const next = now.includes(name) ? now.filter((other) => other !== name) : [...now, name];
    if (next.length > this.most()) this.app.say(`at most ${this.most()} can be picked`);
    else this.pick(next);
  }

  draw() {
    const counts = this.counts();
    const picked = this.picked() ?? [];
    this.chips.replaceChildren(
      ...picked.map((name) => {
        const drop = button("×", () => this.toggle(name), { "aria-label": `drop ${this.textOf(name)}` });
        return element("li", { class: "chip" }, this.textOf(name), drop);
      }),
    );
    this.typed.show(
      this.names.map((name) => ({
        label: this.textOf(name),
        note: picked.includes(name) ? "picked" : writeCount(counts.get(name) ?? 0),
      })),
      "",
    );
  }
}

/** One value of a setting. */
export class SetMenu extends ValueControl {
  private readonly select: HTMLSelectElement | undefined;
  private readonly typed: TypedList | undefined;

  constructor(app: App, control: SetControlPlan, host: HTMLElement) {
    super(app, control);
    const id = `control-${control.name}`;
    const label = element("label", { for: id }, control.label);
    const of = control.of ?? [];
    if (of.length > PLAIN) {
      this.typed = new TypedList(
        id,
        "type to find",
        (place) => this.choose(of[place]?.value ?? ""),
        () => undefined,
      );
      host.replaceChildren(element("div", { class: "control" }, label, this.typed.field));
      return;
    }
    const select = element("select", { id }, ...of.map(({ value, label }) => element("option", { value }, label)));
    select.addEventListener("change", () => this.choose(select.value));
    this.select = select;
    host.replaceChildren(element("div", { class: "control" }, label, select));
  }

  private choose(value: string) {
    this.change(this.inKind(value));
    this.app.settle();
  }

  draw() {
    const now = String(this.shown());
    const of = this.control.of ?? [];
    if (this.select) this.select.value = now;
    this.typed?.show(
      of.map(({ label }) => ({ label, note: "" })),
      of.find(({ value }) => value === now)?.label ?? now,
    );
  }
}
