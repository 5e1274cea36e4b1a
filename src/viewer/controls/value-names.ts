import type { Indexer } from "../../core/link/index/in-hand";
import { textIndexer } from "../../core/link/index/text-index";
import type { SelectionState } from "../../core/link/selection";
import type { PickControlPlan } from "../../core/plan/plan";
import { categoriesOf, nameAt } from "../../core/query/categories";
import { type Edges, stretchEnd } from "../../core/query/interval";
import { keyName } from "../../core/query/query";
import { LayerValues } from "../../core/query/values";
import { categoryText, writeNumber } from "../../core/query/write";
import { type Scalar, valuesIn } from "../../core/table/column";
import { readNames, writeNames } from "../address";
import type { App } from "../app";
import { SelectionControl } from "./control-view";

export type Name = string | null;

/** The values that a reader can pick: of cells that hold several, each by itself. */
function namesOf(names: readonly Name[], split: string | undefined): Name[] {
  if (split === undefined) return [...names];
  return [...new Set(names.flatMap((name) => (name === null ? [null] : valuesIn(name, split))))].sort(
    (a, b) => Number(a === null) - Number(b === null) || ((a ?? "") < (b ?? "") ? -1 : 1),
  );
}

/** What check boxes, menus and radio buttons share: a list of values, of which some are picked. */
export abstract class ValuesControl extends SelectionControl<PickControlPlan> {
  /** All values, whatever is picked. */
  protected readonly names: readonly Name[];
  /** Where each value is a bin: from where to where these go. */
  private readonly edges: Edges | undefined;

  constructor(app: App, control: PickControlPlan) {
    super(app, control);
    const prepared = app.model.rows.ofControl(control.name)?.all.prepared;
    const edges = prepared?.edges.get("key");
    this.edges = edges?.grain ? undefined : edges;
    const column = prepared?.keys.get("key");
    const found = column ? categoriesOf(column, control.channel.order).map(({ name }) => name) : [];
    this.names = namesOf(found, control.split);
  }

  indexer(): Indexer {
    return textIndexer;
  }

  /** A value as readers see it. */
  protected textOf(name: Name): string {
    const { channel } = this.control;
    const held = this.heldOf(name);
    return Array.isArray(held)
      ? held.map((end) => writeNumber(channel, end)).join(" to ")
      : categoryText(name, channel);
  }

  /** The value that a name stands for, in the column's own kind. */
  private asValue(name: Name): Scalar {
    const { kind } = this.control.channel;
    if (name === null || kind === "text" || kind === "date" || kind === "datetime") return name;
    return kind === "boolean" ? name === "true" : Number(name);
  }

  /** The same as a selection holds it: of a bin the whole of it. */
  private heldOf(name: Name): Scalar | [number, number] {
    const value = this.asValue(name);
    return this.edges && typeof value === "number" ? [value, stretchEnd(this.edges, value)] : value;
  }

  /** Names that are picked; nothing where no choice is made. */
  protected picked(): Name[] | undefined {
    return this.namesIn(this.shown());
  }

  private namesIn(state: SelectionState | undefined): Name[] | undefined {
    const { keys } = state ?? {};
    if (!keys) return undefined;
    const values = new Set(keys.map((key) => [Object.values(key)[0]].flat()[0]));
    return this.names.filter((name) => values.has(this.asValue(name)));
  }

  /** The selection of some names; no choice where all are picked, or none and that means all. */
  protected stateOf(names: readonly Name[] | undefined): SelectionState | undefined {
    if (!names || names.length === this.names.length) return undefined;
    if (names.length === 0 && this.control.none === "all") return undefined;
    return { keys: names.map((name) => ({ [keyName(this.control.channel)]: this.heldOf(name) })) };
  }

  /** The reader picks these names. */
  protected pick(names: readonly Name[] | undefined) {
    this.change(this.stateOf(names));
    this.app.settle();
  }

  protected override isAsStarted(): boolean {
    return JSON.stringify(this.namesIn(this.held())) === JSON.stringify(this.namesIn(this.start()));
  }

  set(value: unknown): string | undefined {
    if (value === null || value === undefined || value === "all") {
      this.put(undefined);
      return undefined;
    }
    const wanted = (Array.isArray(value) ? value : [value]).map((one) => (one === null ? null : String(one)));
    const unknown = wanted.find((name) => !this.names.includes(name));
    if (unknown !== undefined) return `${this.name} has no value "${unknown}"`;
    const most = this.most();
    if (wanted.length > most) return `${this.name} holds at most ${most}`;
    this.put(this.stateOf(this.names.filter((name) => wanted.includes(name))));
    return undefined;
  }

  /** Most values that can be picked at once. */
  protected most(): number {
    return this.control.most ?? Number.POSITIVE_INFINITY;
  }

  plain(): unknown {
    if (this.isAsStarted()) return undefined;
    return this.namesIn(this.held())?.map((name) => this.asValue(name)) ?? "all";
  }

  write(): string | undefined {
    if (this.isAsStarted()) return undefined;
    const picked = this.namesIn(this.held());
    return picked ? writeNames(picked) : "~all";
  }

  read(text: string | undefined) {
    if (text === undefined) this.put(this.start());
    else if (text === "~all") this.put(undefined);
    else this.set(readNames(text));
  }

  /** How many rows each value would bring, under every other selection. */
  protected counts(): ReadonlyMap<Name, number> {
    const counts = new Map<Name, number>();
    const found = this.app.model.rows.ofControl(this.name);
    const column = found?.answer.prepared.keys.get("key");
    const numbers = found && new LayerValues(found.answer, found.all).numbers("n");
    if (column && numbers)
      for (let group = 0; group < numbers.length; group++)
        for (const name of namesOf([nameAt(column, group)], this.control.split))
          counts.set(name, (counts.get(name) ?? 0) + (numbers[group] as number));
    return counts;
  }
}
