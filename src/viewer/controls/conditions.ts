import { writeCount, writer } from "../../core/formula/format";
import { CONDITION_TESTS, type Condition, type ConditionTest, testsOf } from "../../core/link/selection";
import type { AnyControlPlan } from "../../core/plan/plan";
import type { Channel } from "../../core/query/query";
import type { Scalar } from "../../core/table/column";
import { decodePart, encodePart, textNumber, typedPlain } from "../address";
import type { App } from "../app";
import { button, element } from "../dom";
import { SelectionControl } from "./control-view";

const WORDS: Record<ConditionTest, string> = {
  is: "is",
  is_not: "is not",
  at_least: "at least",
  at_most: "at most",
  contains: "contains",
};

const keyOf = (channel: Channel) => channel.column ?? channel.text;

/** Conditions that a reader adds, one a line; all of them must hold. */
export class Conditions extends SelectionControl<AnyControlPlan> {
  private readonly lines = element("ul", { class: "conditions" });
  private readonly column: HTMLSelectElement;
  private readonly test = element("select", { "aria-label": "test" });
  private readonly value: HTMLInputElement;
  private readonly found = element("span", { class: "count" });

  constructor(app: App, control: AnyControlPlan, host: HTMLElement) {
    super(app, control);
    this.column = element(
      "select",
      { "aria-label": `${control.label}, column` },
      ...control.columns.map((channel) => element("option", { value: keyOf(channel) }, channel.label)),
    );
    this.value = element("input", { type: "text", "aria-label": "value", autocomplete: "off" });
    this.column.addEventListener("change", () => this.offer());
    this.value.addEventListener("keydown", (event) => {
      if (event.key === "Enter") this.add();
    });
    this.offer();
    const add = button("add", () => this.add(), { class: "plain" });
    const asked = element("div", { class: "asked" }, this.column, this.test, this.value, add);
    const legend = element("legend", {}, control.label, " ", this.found);
    host.replaceChildren(element("fieldset", { class: "control" }, legend, this.lines, asked));
  }

  private channel(name: string): Channel | undefined {
    return this.control.columns.find((channel) => keyOf(channel) === name);
  }

  /** The tests of the column that is chosen. */
  private offer() {
    const channel = this.channel(this.column.value);
    const tests = channel ? testsOf(channel.kind) : [];
    this.test.replaceChildren(...tests.map((test) => element("option", { value: test }, WORDS[test])));
  }

  private listed(): readonly Condition[] {
    return this.shown()?.conditions ?? [];
  }

  private stateFor(conditions: readonly Condition[]) {
    return conditions.length ? { conditions: [...conditions] } : undefined;
  }

  private add() {
    const kind = this.channel(this.column.value)?.kind ?? "text";
    const value = this.test.value === "contains" ? this.value.value : typedPlain(kind, this.value.value);
    const made = this.made({ column: this.column.value, [this.test.value]: value });
    if (typeof made === "string") {
      this.app.say(made);
      return;
    }
    this.value.value = "";
    this.change(this.stateFor([...this.listed(), made]));
    this.app.settle();
  }

  private drop(at: number) {
    this.change(this.stateFor(this.listed().filter((_, other) => other !== at)));
    this.app.settle();
  }

  /** A condition as scripts and readers write it, or why it is none. */
  private made(written: Record<string, unknown>): Condition | string {
    const channel = this.channel(String(written.column ?? ""));
    if (!channel) return `${this.name} has no column "${written.column}"`;
    const test = CONDITION_TESTS.find((one) => Object.hasOwn(written, one));
    if (!test) return `a condition is {column, ${CONDITION_TESTS.join(" | ")}: value}`;
    const value = this.asValue(channel, written[test]);
    if (value === undefined || (!testsOf(channel.kind).includes(test) && test !== "contains"))
      return `${channel.label} cannot be ${WORDS[test]} ${String(written[test])}`;
    return { column: keyOf(channel), test, value };
  }

  /** A value in the column's own kind; dates stay ISO text. */
  private asValue({ kind, format }: Channel, value: unknown): Scalar | undefined {
    if (value === null) return null;
    const text = String(value ?? "").trim();
    if (kind === "text" || kind === "place") return text === "" ? undefined : text;
    if (kind === "boolean") {
      const isTrue = text === "true" || text === writer(kind, format)(1);
      return isTrue || text === "false" || text === writer(kind, format)(0) ? isTrue : undefined;
    }
    const number = textNumber(kind, text);
    if (Number.isNaN(number)) return undefined;
    return kind === "date" || kind === "datetime" ? text : number;
  }

  set(value: unknown): string | undefined {
    if (value === null || value === undefined || value === "all") {
      this.put(undefined);
      return undefined;
    }
    const made = (Array.isArray(value) ? value : [value]).map((one) => this.made(one as Record<string, unknown>));
    const problem = made.find((one) => typeof one === "string");
    if (typeof problem === "string") return problem;
    this.put(this.stateFor(made as Condition[]));
    return undefined;
  }

  plain(): unknown {
    if (this.isAsStarted()) return undefined;
    return (this.held()?.conditions ?? []).map(({ column, test, value }) => ({ column, [test]: value }));
  }

  write(): string | undefined {
    if (this.isAsStarted()) return undefined;
    return (this.held()?.conditions ?? [])
      .map(({ column, test, value }) =>
        [column, test, value === null ? "~missing" : encodePart(String(value))]
          .map((part, at) => (at < 2 ? encodePart(String(part)) : part))
          .join(":"),
      )
      .join(";");
  }

  read(text: string | undefined) {
    if (text === undefined) return this.put(this.start());
    const made = text.split(";").flatMap((part) => {
      const [column, test, value] = part.split(":");
      if (column === undefined || test === undefined || value === undefined) return [];
      const known = value === "~missing" ? null : decodePart(value);
      const one = this.made({ column: decodePart(column), [decodePart(test) ?? ""]: known });
      return typeof one === "string" ? [] : [one];
    });
    this.put(this.stateFor(made));
  }

  draw() {
    const conditions = this.listed();
    this.lines.replaceChildren(
      ...conditions.map(({ column, test, value }, at) => {
        const words = `${this.channel(column)?.label ?? column} ${WORDS[test]} ${value ?? "missing"}`;
        return element(
          "li",
          { class: "chip" },
          words,
          button("×", () => this.drop(at), { "aria-label": `drop ${words}` }),
        );
      }),
    );
    this.found.textContent = conditions.length ? `${writeCount(this.app.model.rows.held(this.name))} found` : "";
  }
}
