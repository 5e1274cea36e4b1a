import type { Indexer } from "../../core/link/index/in-hand";
import type { SelectionState } from "../../core/link/selection";
import type { AnyControlPlan, PickControlPlan, SearchControlPlan, SetControlPlan } from "../../core/plan/plan";
import type { Scalar } from "../../core/table/column";
import { decodePart, encodePart } from "../address";
import type { App, View } from "../app";

/** A control on the page, which scripts and the address can set too. */
export interface ControlView extends View {
  /** What answers its moves, made ready when a reader comes to it. */
  indexer?(): Indexer;
  /** Takes a value; answers words when it cannot be held. */
  set(value: unknown): string | undefined;
  /** What it holds, for scripts; nothing when it holds what it started with. */
  plain(): unknown;
  /** The same as the address has it. */
  write(): string | undefined;
  /** Takes over what an address says; without a text it goes back to its start. */
  read(text: string | undefined): void;
}

/** A control that holds a selection: of values, a range, a text or conditions. */
export abstract class SelectionControl<P extends PickControlPlan | SearchControlPlan | AnyControlPlan>
  implements ControlView
{
  readonly name: string;

  constructor(
    protected readonly app: App,
    protected readonly control: P,
  ) {
    this.name = control.name;
  }

  abstract set(value: unknown): string | undefined;
  abstract plain(): unknown;
  abstract write(): string | undefined;
  abstract read(text: string | undefined): void;
  abstract draw(): void;

  /** What the reader sees: what waits for a button, else what counts. */
  protected shown(): SelectionState | undefined {
    const waiting = this.app.reader.waitingAt(this.name);
    return waiting ? waiting.state : this.held();
  }

  /** What counts. */
  protected held(): SelectionState | undefined {
    return this.app.model.engine.state(this.name);
  }

  protected start(): SelectionState | undefined {
    return this.app.model.startOf(this.name);
  }

  /** The reader changes it: at once, or as soon as a button is pressed. */
  protected change(state: SelectionState | undefined) {
    if (this.control.waitsFor === undefined) this.app.select(this.name, state);
    else this.app.stage(this.name, { state });
  }

  /** An address changes it at once, a script as a reader would. */
  protected put(state: SelectionState | undefined) {
    if (this.app.asReader) return this.change(state);
    this.app.reader.unstage(this.name);
    this.app.select(this.name, state);
  }

  protected isAsStarted(): boolean {
    return JSON.stringify(this.held() ?? null) === JSON.stringify(this.start() ?? null);
  }
}

/** A control that sets a value. */
export abstract class ValueControl implements ControlView {
  readonly name: string;

  constructor(
    protected readonly app: App,
    protected readonly control: SetControlPlan,
  ) {
    this.name = control.name;
  }

  abstract draw(): void;

  /** What the reader sees: what waits for a button, else what counts. */
  protected shown(): Scalar {
    const waiting = this.app.reader.waitingAt(this.name);
    return waiting ? (waiting.value ?? null) : this.app.model.engine.setting(this.name);
  }

  protected change(value: Scalar) {
    if (this.control.waitsFor === undefined) this.app.setSetting(this.name, value);
    else this.app.stage(this.name, { value });
  }

  /** An address changes it at once, a script as a reader would. */
  protected put(value: Scalar) {
    if (this.app.asReader) return this.change(value);
    this.app.reader.unstage(this.name);
    this.app.setSetting(this.name, value);
  }

  /** A text in the setting's own kind. */
  protected inKind(text: string): Scalar {
    const kind = this.app.plan.settings[this.name]?.kind;
    if (kind === "number") return text.trim() === "" ? Number.NaN : Number(text);
    return kind === "boolean" ? text === "true" : text;
  }

  /** Why a value cannot be held; nothing if it can. */
  protected problem(value: Scalar): string | undefined {
    const { of, range } = this.control;
    if (of && !of.some((one) => one.value === String(value)))
      return `${this.name} is one of ${of.map((one) => one.value).join(", ")}`;
    const kind = this.app.plan.settings[this.name]?.kind;
    if (kind === "number" && !Number.isFinite(value)) return `${this.name} is a number`;
    if (range && !((value as number) >= range[0] && (value as number) <= range[1]))
      return `${this.name} lies between ${range[0]} and ${range[1]}`;
    return undefined;
  }

  set(value: unknown): string | undefined {
    const own = this.inKind(String(value));
    const problem = this.problem(own);
    if (problem !== undefined) return problem;
    this.put(own);
    return undefined;
  }

  plain(): unknown {
    const now = this.app.model.engine.setting(this.name);
    return now === this.app.plan.settings[this.name]?.start ? undefined : now;
  }

  write(): string | undefined {
    const now = this.plain();
    // Parts of numbers stay readable.
    return now === undefined ? undefined : encodePart(String(now)).replaceAll("%2E", ".");
  }

  read(text: string | undefined) {
    const value = text === undefined ? undefined : decodePart(text);
    if (value === undefined || this.set(value) !== undefined) this.set(this.app.plan.settings[this.name]?.start);
  }
}
