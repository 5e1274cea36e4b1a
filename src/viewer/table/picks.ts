import type { SelectionState } from "../../core/link/selection";
import { plainValue } from "../../core/query/categories";
import { type App, NOT_PICKED } from "../app";
import { NO_ROWS, type ShownRows } from "./columns";

type Key = NonNullable<SelectionState["keys"]>[number];

/** Picks rows of a data table, for the links that are made on it. */
export class RowPicks {
  /** The rows as they are shown now. */
  private shown: ShownRows = NO_ROWS;

  constructor(
    private readonly app: App,
    private readonly name: string,
    private readonly isGrouped: () => boolean,
  ) {}

  follow(shown: ShownRows) {
    this.shown = shown;
  }

  /** Rows can be picked, or are held by the pointer. */
  get isOn(): boolean {
    return this.selections("rows", "click", "hover").length > 0;
  }

  private selections(...gestures: string[]) {
    return this.app.selectionsOf(this.name).filter(({ gesture }) => gestures.includes(gesture));
  }

  isPicked(id: number): boolean {
    return this.selections("rows", "click").some((selection) => {
      const state = this.app.model.engine.state(selection.name);
      if (state?.rows) return state.rows.includes(this.baseRow(id));
      return state?.keys?.some((key) => JSON.stringify(key) === JSON.stringify(this.keyOf(id))) ?? false;
    });
  }

  /** A row's number in its table with no selection on: picked rows stay the same rows whatever else is left out. */
  private baseRow(id: number): number {
    return this.shown.baseRow(id);
  }

  /** The keys of a grouped table's row, by the texts of its grouping channels. */
  private keyOf(id: number): Key {
    const { identity } = this.shown;
    if (identity) return { [identity.channel.text]: plainValue(identity.column, id) };
    return Object.fromEntries(
      this.shown.columns
        .filter(({ channel }) => !channel.aggregate)
        .map(({ channel, column }) => [channel.text, plainValue(column, id)]),
    );
  }

  /** Rows that are known by keys stay the same in every build; others are known by their numbers in this file. */
  private hasKeys(): boolean {
    return this.isGrouped() || this.shown.identity !== undefined;
  }

  /** The row under the pointer, or on which the keyboard stands, is what a `hover` link selects. */
  hold(id: number | undefined) {
    for (const selection of this.selections("hover")) {
      const row = id === undefined ? -1 : this.baseRow(id);
      if (id === undefined || row < 0) this.app.hold(selection.name, undefined);
      else this.app.hold(selection.name, this.hasKeys() ? { keys: [this.keyOf(id)] } : { rows: [row] });
    }
  }

  /** Picks a row; again takes it away, added to others where that is wanted. */
  pick(id: number, add: boolean) {
    for (const selection of this.selections("rows", "click")) {
      const before = this.app.model.engine.state(selection.name);
      if (this.hasKeys()) this.app.select(selection.name, this.withKey(before, this.keyOf(id), add));
      else if (this.baseRow(id) < 0) this.app.say(NOT_PICKED);
      else this.app.select(selection.name, this.withRow(before, this.baseRow(id), add));
    }
    this.app.settle();
  }

  private withRow(before: SelectionState | undefined, row: number, add: boolean): SelectionState | undefined {
    const had = before?.rows ?? [];
    const rows = had.includes(row) ? had.filter((other) => other !== row) : add ? [...had, row] : [row];
    return rows.length ? { rows } : undefined;
  }

  private withKey(before: SelectionState | undefined, key: Key, add: boolean): SelectionState | undefined {
    const had = before?.keys ?? [];
    const rest = had.filter((other) => JSON.stringify(other) !== JSON.stringify(key));
    const keys = rest.length < had.length ? rest : add ? [...had, key] : [key];
    return keys.length ? { keys } : undefined;
  }
}
