import { Optional } from "../../core/finding/kit";
import type { SelectionState } from "../../core/link/selection";
import { plainValue } from "../../core/query/categories";
import { keyName } from "../../core/query/query";
import { type App, NOT_PICKED } from "../app";
import { NO_ROWS, type ShownRows } from "./columns";

type Key = NonNullable<SelectionState["keys"]>[number];

/** Picking of rows; a dashboard has it where a link is made on the rows of a table. */
export const ROW_PICKS = new Optional<typeof RowPicks>("picked rows");

/** Picks rows of a data table, for the links that are made on it. */
export class RowPicks {
  /** The rows as they are shown now, and those of the page. */
  private shown: ShownRows = NO_ROWS;
  private pageIds: Int32Array = new Int32Array(0);
  /** Where the keyboard stands among the rows of the page. */
  private active = 0;
  /** Rows are put in place of others: that the focus leaves one for another is nobody's doing. */
  private isRedrawing = false;

  /** @param reveal brings a row of the page into sight, by its place there */
  constructor(
    private readonly app: App,
    private readonly name: string,
    private readonly rowsBox: HTMLElement,
    private readonly isGrouped: () => boolean,
    private readonly reveal: (place: number) => void,
  ) {
    rowsBox.addEventListener("pointerleave", () => this.hold(undefined));
    rowsBox.addEventListener("focusout", () => this.isRedrawing || this.hold(undefined));
    rowsBox.addEventListener("keydown", (event) => this.key(event));
  }

  /** The keyboard stays at its row, wherever that stands now; where it is gone, at its place. */
  follow(shown: ShownRows, pageIds: Int32Array) {
    const place = pageIds.indexOf(this.pageIds[this.active] ?? -1);
    this.active = place >= 0 ? place : Math.max(0, Math.min(this.active, pageIds.length - 1));
    this.shown = shown;
    this.pageIds = pageIds;
  }

  /** Puts rows in place of others; a row that has the focus keeps it where it stands again. */
  keepFocus(redraw: () => void) {
    if (this.isRedrawing) return redraw();
    const { activeElement } = document;
    const had = activeElement?.matches("tr[data-id]") === true && this.rowsBox.contains(activeElement);
    this.isRedrawing = true;
    redraw();
    const rows = [...this.rowsBox.querySelectorAll<HTMLElement>("tr[data-id]")];
    const own = rows.find((row) => row.tabIndex === 0);
    // Out of sight the row of the keyboard cannot be come to; the first one in sight can.
    if (!own && rows[0]) rows[0].tabIndex = 0;
    if (had && own) own.focus({ preventScroll: true });
    this.isRedrawing = false;
    if (had && !own) this.hold(undefined);
  }

  /** Makes a row one that can be picked. */
  dress(row: HTMLElement, id: number) {
    row.setAttribute("aria-selected", String(this.isPicked(id)));
    row.tabIndex = this.pageIds[this.active] === id ? 0 : -1;
    row.dataset.id = String(id);
    row.addEventListener("pointerenter", () => this.hold(id));
    row.addEventListener("focus", () => {
      if (this.isRedrawing) return;
      this.active = this.pageIds.indexOf(id);
      this.hold(id);
    });
    row.addEventListener("click", (event) => this.pickHere(id, event.shiftKey || event.ctrlKey || event.metaKey));
  }

  private rowOf(id: number | undefined): HTMLElement | null {
    return this.rowsBox.querySelector<HTMLElement>(`tr[data-id="${id}"]`);
  }

  private pickHere(id: number, add: boolean) {
    this.pick(id, add);
    this.rowOf(id)?.focus();
  }

  private key(event: KeyboardEvent) {
    if (!(event.target as HTMLElement).matches("tr")) return;
    const id = Number((event.target as HTMLElement).dataset.id);
    const place = this.pageIds.indexOf(id);
    const next = event.key === "ArrowDown" ? place + 1 : event.key === "ArrowUp" ? place - 1 : undefined;
    if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      this.pickHere(id, event.shiftKey);
    } else if (next !== undefined && next >= 0 && next < this.pageIds.length) {
      event.preventDefault();
      this.active = next;
      this.reveal(next);
      for (const other of this.rowsBox.querySelectorAll<HTMLElement>("tr[data-id]")) other.tabIndex = -1;
      const row = this.rowOf(this.pageIds[next]);
      if (!row) return;
      row.tabIndex = 0;
      row.focus();
    }
  }

  private selections(...gestures: string[]) {
    return this.app.selectionsOf(this.name).filter(({ gesture }) => gestures.includes(gesture));
  }

  private isPicked(id: number): boolean {
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
    if (identity) return { [keyName(identity.channel)]: plainValue(identity.column, id) };
    return Object.fromEntries(
      this.shown.columns
        .filter(({ channel }) => !channel.aggregate)
        .map(({ channel, column }) => [keyName(channel), plainValue(column, id)]),
    );
  }

  /** Rows that are known by keys stay the same in every build; others are known by their numbers in this file. */
  private hasKeys(): boolean {
    return this.isGrouped() || this.shown.identity !== undefined;
  }

  /** The row under the pointer, or on which the keyboard stands, is what a `hover` link selects. */
  private hold(id: number | undefined) {
    for (const selection of this.selections("hover")) {
      const row = id === undefined ? -1 : this.baseRow(id);
      if (id === undefined || row < 0) this.app.hold(selection.name, undefined);
      else this.app.hold(selection.name, this.hasKeys() ? { keys: [this.keyOf(id)] } : { rows: [row] });
    }
  }

  /** Picks a row; again takes it away, added to others where that is wanted. */
  private pick(id: number, add: boolean) {
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
