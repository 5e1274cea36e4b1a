import type { SelectionState } from "../core/link/selection";
import type { LookedAt } from "../core/model/chart-inputs";
import { itemOf, type PageItem, type SharedPlace, TABLE_STATE } from "../core/page/page";
import type { Kind } from "../core/table/column";
import {
  decodePart,
  encodePart,
  keyOf,
  readAddress,
  readNames,
  readRange,
  readSelection,
  writeAddress,
  writeNames,
  writeRange,
  writeSelection,
} from "./address";
import type { App } from "./app";
import type { ControlView } from "./controls/control-view";
import { plainEnd } from "./controls/plain-end";
import { isProof } from "./proof/kit";

/** In the address: a selection that begins with something and was turned off. */
const NONE = "~none";

/** Keeps the reader's state in the address and reads it back. */
export class StateKeeper {
  private written = "";

  constructor(
    private readonly app: App,
    private readonly controls: ReadonlyMap<string, ControlView>,
    private readonly seal: string,
  ) {
    app.onSettled(() => this.write());
    const follow = () => {
      if (location.hash.slice(1) !== this.written) this.read();
    };
    app.listen(window, "hashchange", follow);
    app.listen(window, "popstate", follow);
  }

  /** The state as the address holds it: text by key. */
  private texts(): Record<string, string> {
    const { app } = this;
    const texts: Record<string, string> = {};
    if (app.page > 0) texts.page = encodePart(app.plan.pages[app.page]?.name ?? "");
    const side = app.side?.write();
    if (side !== undefined) texts.side = side;
    for (const selection of app.plan.selections) {
      if (!selection.kept || selection.gesture === "legend") continue;
      if (selection.gesture === "control" || app.model.isAsStarted(selection.name)) continue;
      const state = app.model.engine.state(selection.name);
      texts[keyOf(selection.name)] = state ? writeSelection(selection, state, this.seal) : NONE;
    }
    for (const [name, control] of this.controls) {
      const text = control.write();
      if (text !== undefined) texts[keyOf(name)] = text;
    }
    for (const [piece, looked] of app.reader.allLooks()) {
      const text = this.zoomText(piece, looked);
      if (text) texts[`${piece}.zoom`] = text;
      if (looked.fit) texts[`${piece}.fit`] = "left";
    }
    for (const [area, { shown }] of app.tabs) if (shown > 0) texts[area] = encodePart(this.tabName(area, shown));
    for (const [piece, off] of app.reader.allOff()) texts[`${piece}.legend`] = writeNames([...off]);
    for (const [piece, table] of app.reader.allTables())
      for (const key of TABLE_STATE) if (table[key]) texts[`${piece}.${key}`] = encodePart(table[key]);
    return texts;
  }

  /** The state as an object with the address's keys, for scripts. */
  object(): Record<string, unknown> {
    const { app } = this;
    const state: Record<string, unknown> = { page: app.plan.pages[app.page]?.name };
    const side = app.side?.write();
    if (side !== undefined) state.side = Number(side) || side;
    for (const selection of app.plan.selections) {
      if (selection.gesture === "control" || selection.gesture === "legend" || !selection.kept) continue;
      if (app.model.isAsStarted(selection.name)) continue;
      const held = app.model.engine.state(selection.name);
      state[keyOf(selection.name)] =
        held === undefined ? null : plainState(held, (axis) => selection.words[axis]?.kind ?? "number");
    }
    for (const [name, control] of this.controls) {
      const value = control.plain();
      if (value !== undefined) state[keyOf(name)] = value;
    }
    for (const [piece, { zoom, view, fit }] of app.reader.allLooks()) {
      if (view) state[`${piece}.zoom`] = view;
      else if (zoom) state[`${piece}.zoom`] = plainState(zoom, (axis) => this.kindOn(piece, axis));
      if (fit) state[`${piece}.fit`] = true;
    }
    for (const [area, { shown }] of app.tabs) if (shown > 0) state[area] = this.tabName(area, shown);
    for (const [piece, off] of app.reader.allOff()) state[`${piece}.legend`] = [...off];
    for (const [piece, table] of app.reader.allTables())
      for (const key of TABLE_STATE)
        if (table[key]) state[`${piece}.${key}`] = key === "page" ? Number(table[key]) : table[key];
    return state;
  }

  private kindOn(piece: string, axis: string): Kind {
    const plan = this.app.model.piece(piece)?.plan;
    return (plan?.type === "chart" && (axis === "x" || axis === "y") ? plan.axes[axis]?.kind : undefined) ?? "number";
  }

  /** `x:1..2|y:3..4` for axes, `at:LON,LAT,TIMES` for a map. */
  private zoomText(piece: string, { zoom = {}, view }: LookedAt): string {
    if (view) return `at:${[view.lon, view.lat, view.scale].map((part) => Number(part.toPrecision(8))).join(",")}`;
    return Object.entries(zoom)
      .map(([axis, range]) => `${axis}:${writeRange(this.kindOn(piece, axis), range)}`)
      .join("|");
  }

  private readLook(piece: string, parts: ReadonlyMap<string, string>): LookedAt {
    const looked: LookedAt = parts.get(`${piece}.fit`) === "left" ? { fit: true } : {};
    const text = parts.get(`${piece}.zoom`);
    if (text === undefined) return looked;
    if (text.startsWith("at:")) {
      const [lon, lat, scale] = text.slice(3).split(",").map(Number);
      const isSound =
        [lon, lat, scale].every(Number.isFinite) && Math.abs(lat as number) <= 90 && (scale as number) >= 1;
      return isSound ? { ...looked, view: { lon: lon as number, lat: lat as number, scale: scale as number } } : looked;
    }
    const zoom: NonNullable<LookedAt["zoom"]> = {};
    for (const part of text.split("|")) {
      const axis = part.slice(0, 1);
      if ((axis !== "x" && axis !== "y") || part[1] !== ":") continue;
      const range = readRange(this.kindOn(piece, axis), part.slice(2));
      if (range && range[0] < range[1]) zoom[axis] = range;
    }
    return Object.keys(zoom).length ? { ...looked, zoom } : looked;
  }

  /** Names of what the tabs of an area open: of pieces, or of areas in it. */
  private tabNames(area: string): string[] {
    const find = (item: PageItem): SharedPlace | undefined => {
      if ("piece" in item) return undefined;
      return item.area === area ? item : item.items.map(find).find((found) => found !== undefined);
    };
    const items = this.app.plan.pages.flatMap(({ areas }) => areas.map(itemOf));
    const own = items.map(find).find((found) => found !== undefined);
    return (own?.items ?? []).map((item) => ("piece" in item ? item.piece : item.area));
  }

  private tabName(area: string, at: number): string {
    return this.tabNames(area)[at] ?? "";
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

  /** Goes to a state as an address says it, one step in the reader's history. */
  open(address: string) {
    this.read(address);
    // What it says is not the address yet: that is written as after any gesture.
    this.written = "";
    this.app.settle();
  }

  /** Takes over what an address says; parts that cannot be read are left out one by one. */
  read(hash = location.hash) {
    const { app } = this;
    const parts = readAddress(hash);
    this.written = hash.replace(/^#/, "");
    app.tell("");
    app.side?.read(parts.get("side"));
    const page = parts.get("page");
    const wanted = page === undefined ? 0 : app.plan.pages.findIndex(({ name }) => name === decodePart(page));
    for (const selection of app.plan.selections) {
      if (selection.gesture === "control" || selection.gesture === "legend") continue;
      const text = parts.get(keyOf(selection.name));
      if (text === undefined) {
        app.select(selection.name, app.model.startOf(selection.name));
        continue;
      }
      const columnKind = (name: string) => app.model.engine.tableOf(selection.table).columns.get(name)?.kind;
      const state = text === NONE ? undefined : readSelection(selection, text, this.seal, columnKind);
      if (/(?:^|\|)rows:/.test(text) && !state?.rows)
        app.tell("rows picked in another build of this report were dropped");
      app.select(
        selection.name,
        state?.rows && !this.hasRows(selection.table, state)
          ? undefined
          : state && app.model.wholePeriods(selection, state),
      );
    }
    for (const [name, control] of this.controls) control.read(parts.get(keyOf(name)));
    for (const [area, tabs] of app.tabs) {
      const part = parts.get(area);
      const at = part === undefined ? 0 : this.tabNames(area).indexOf(decodePart(part) ?? "");
      tabs.show(Math.max(0, at));
    }
    for (const piece of app.plan.pieces) {
      const off = parts.get(`${piece.name}.legend`);
      app.switchOff(piece.name, off === undefined ? [] : readNames(off));
      app.reader.look(piece.name, this.readLook(piece.name, parts));
      const table = TABLE_STATE.map((key) => {
        const part = parts.get(`${piece.name}.${key}`);
        return [key, part === undefined ? undefined : decodePart(part)] as const;
      });
      app.reader.arrange(piece.name, Object.fromEntries(table));
    }
    app.touchAll();
    app.model.settle();
    app.showPage(Math.max(0, wanted));
    app.cameInSight();
  }

  private hasRows(table: string, state: SelectionState): boolean {
    const { rowCount } = this.app.model.engine.tableOf(table);
    return (state.rows ?? []).every((row) => row < rowCount);
  }
}

function plainState(state: SelectionState, kindOf: (axis: string) => string): Record<string, unknown> {
  const plain: Record<string, unknown> = {};
  for (const axis of ["x", "y"] as const) {
    const range = state[axis];
    if (range) plain[axis] = range.map((end) => plainEnd(kindOf(axis), end));
  }
  if (state.keys) plain.keys = state.keys;
  if (state.outline)
    plain.outline = state.outline.map(([x, y]) => [plainEnd(kindOf("x"), x), plainEnd(kindOf("y"), y)]);
  if (state.rows) plain.rows = state.rows;
  return plain;
}
