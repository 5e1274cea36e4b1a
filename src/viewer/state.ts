import type { SelectionState } from "../core/link/selection";
import { isoDate, isoDatetime } from "../core/table/calendar";
import type { Scalar } from "../core/table/column";
import {
  decodePart,
  encodePart,
  keyOf,
  numberText,
  readAddress,
  readNames,
  readSelection,
  writeAddress,
  writeNames,
  writeSelection,
} from "./address";
import type { App } from "./app";
import type { ControlView } from "./controls";
import { isProof } from "./frame";

/** Keeps the reader's state in the address and reads it back. */
export class StateKeeper {
  private written = "";

  constructor(
    private readonly app: App,
    private readonly controls: ReadonlyMap<string, ControlView>,
    private readonly seal: string,
  ) {
    app.onSettled(() => this.write());
    window.addEventListener("hashchange", () => {
      if (location.hash.slice(1) !== this.written) this.read();
    });
    window.addEventListener("popstate", () => {
      if (location.hash.slice(1) !== this.written) this.read();
    });
  }

  /** The state as the address holds it: text by key. */
  private texts(): Record<string, string> {
    const { app } = this;
    const texts: Record<string, string> = {};
    if (app.page > 0) texts.page = encodePart(app.plan.pages[app.page]?.name ?? "");
    for (const selection of app.plan.selections) {
      if (!selection.kept) continue;
      const state = app.model.engine.state(selection.name);
      if (selection.gesture !== "control" && state)
        texts[keyOf(selection.name)] = writeSelection(selection, state, this.seal);
    }
    for (const [name, control] of this.controls) {
      const value = control.value();
      if (value === undefined) continue;
      const plan = app.plan.controls.find((one) => one.name === name);
      if (value === "all" && plan?.type === "pick") texts[keyOf(name)] = "~all";
      else if (plan?.type === "pick" && plan.as === "range")
        texts[keyOf(name)] = (value as [number, number])
          .map((end) => encodePart(numberText(plan.channel.kind, end)).replaceAll("%2E", "."))
          .join("..");
      else
        texts[keyOf(name)] = Array.isArray(value)
          ? writeNames(value.map((one: Scalar) => (one === null ? null : String(one))))
          : encodePart(String(value));
    }
    for (const [piece, off] of app.off) if (off.size) texts[`${piece}.off`] = writeNames([...off]);
    for (const [piece, { sort }] of app.tables) if (sort) texts[`${piece}.sort`] = encodePart(sort);
    return texts;
  }

  /** The state as an object with the address's keys, for scripts. */
  object(): Record<string, unknown> {
    const { app } = this;
    const state: Record<string, unknown> = { page: app.plan.pages[app.page]?.name };
    for (const selection of app.plan.selections) {
      const held = app.model.engine.state(selection.name);
      if (held && selection.gesture !== "control" && selection.kept)
        state[keyOf(selection.name)] = plainState(held, (axis) => selection.words[axis]?.kind ?? "number");
    }
    for (const [name, control] of this.controls) {
      const value = control.value();
      if (value === undefined) continue;
      const plan = app.plan.controls.find((one) => one.name === name);
      state[keyOf(name)] =
        plan?.type === "pick" && plan.as === "range" && Array.isArray(value)
          ? {
              from: plainEnd(plan.channel.kind, value[0] as number),
              to: plainEnd(plan.channel.kind, value[1] as number),
            }
          : value;
    }
    for (const [piece, off] of app.off) if (off.size) state[`${piece}.off`] = [...off];
    for (const [piece, { sort }] of app.tables) if (sort) state[`${piece}.sort`] = sort;
    return state;
  }

  write() {
    const text = writeAddress(this.texts());
    if (text === this.written) return;
    this.written = text;
    try {
      history.pushState(null, "", text ? `#${text}` : location.pathname + location.search);
    } catch {
      // A page without an address of its own (a sandboxed frame) keeps its state by messages instead.
    }
    if (isProof()) window.parent.postMessage({ stillHarbor: "state", hash: text }, "*");
  }

  /** Takes over what an address says; parts that cannot be read are left out one by one. */
  read(hash = location.hash) {
    const { app } = this;
    const parts = readAddress(hash);
    this.written = hash.replace(/^#/, "");
    app.notice = "";
    const page = parts.get("page");
    const wanted = page === undefined ? 0 : app.plan.pages.findIndex(({ name }) => name === decodePart(page));
    for (const selection of app.plan.selections) {
      if (selection.gesture === "control") continue;
      const text = parts.get(keyOf(selection.name));
      const state = text === undefined ? undefined : readSelection(selection, text, this.seal);
      if (text !== undefined && /(?:^|\|)rows:/.test(text) && !state?.rows)
        app.notice = "rows picked in another build of this report were dropped";
      app.select(
        selection.name,
        state?.rows && !this.hasRows(selection.table, state)
          ? undefined
          : state && app.model.wholePeriods(selection, state),
      );
    }
    for (const [name, control] of this.controls) this.readControl(name, control, parts.get(keyOf(name)));
    for (const piece of app.plan.pieces) {
      const off = parts.get(`${piece.name}.off`);
      const set = app.offOf(piece.name);
      set.clear();
      if (off !== undefined) for (const name of readNames(off)) set.add(name);
      const sort = parts.get(`${piece.name}.sort`);
      const text = sort === undefined ? undefined : decodePart(sort);
      if (text) app.tables.set(piece.name, { sort: text });
      else app.tables.delete(piece.name);
    }
    app.touchAll();
    app.model.settle();
    app.showPage(Math.max(0, wanted));
  }

  private hasRows(table: string, state: SelectionState): boolean {
    const { rowCount } = this.app.model.engine.tableOf(table);
    return (state.rows ?? []).every((row) => row < rowCount);
  }

  private readControl(name: string, control: ControlView, text: string | undefined) {
    const plan = this.app.plan.controls.find((one) => one.name === name);
    if (plan?.type === "set") {
      const start = this.app.plan.settings[name]?.start;
      const value = text === undefined ? undefined : decodePart(text);
      if (value === undefined || control.set(value) !== undefined) control.set(start);
      return;
    }
    if (plan?.type !== "pick") return;
    if (text === undefined) {
      this.app.select(name, this.app.model.selections.get(name)?.start);
      return;
    }
    if (text === "~all") control.set("all");
    else if (plan.as === "range") {
      const [from, to] = text.split("..").map(decodePart);
      if (from !== undefined && to !== undefined) control.set({ from, to });
    } else control.set(readNames(text));
  }
}

function plainEnd(kind: string, value: number): string | number {
  if (kind === "date") return isoDate(value);
  if (kind === "datetime") return value % 86400 === 0 ? isoDate(value) : isoDatetime(value);
  return value;
}

function plainState(state: SelectionState, kindOf: (axis: string) => string): Record<string, unknown> {
  const plain: Record<string, unknown> = {};
  for (const axis of ["x", "y"] as const) {
    const range = state[axis];
    if (range) plain[axis] = range.map((end) => plainEnd(kindOf(axis), end));
  }
  if (state.keys) plain.keys = state.keys;
  if (state.rows) plain.rows = state.rows;
  return plain;
}
