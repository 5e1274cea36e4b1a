import { leadingLayer } from "../core/chart/leading";
import type { PlainRow } from "../core/chart/plain-row";
import { codeOfValue } from "../core/link/predicate";
import type { Key, SelectionPlan, SelectionState } from "../core/link/selection";
import { plainValue } from "../core/query/categories";
import type { Column, Scalar } from "../core/table/column";
import { textNumber } from "./address";
import type { App } from "./app";
import type { ControlView } from "./controls/control-view";
import type { StateKeeper } from "./state";

/** What `select` takes: intervals on axes, or keys with any columns of the source. */
export interface Selecting {
  x?: [number | string, number | string] | number | string;
  y?: [number | string, number | string];
  keys?: Record<string, string | number | boolean | null>[];
  /** The corners of an outline, as values on both axes. */
  outline?: [number | string, number | string][];
}

/** `window.stillHarbor`: for those who embed a dashboard, and for tests. */
export interface StillHarbor {
  /** Kept when every piece of the page is drawn and answers gestures. */
  ready: Promise<void>;
  rows: (piece: string) => PlainRow[];
  counts: () => Record<string, { left: number; all: number }>;
  state: () => Record<string, unknown>;
  set: (control: string, value: unknown) => Promise<void>;
  select: (selection: string, what: Selecting) => Promise<void>;
  clear: (name?: string) => Promise<void>;
  /** Presses a button of the page. */
  press: (button: string) => Promise<void>;
  /**
   * Puts rows in the place of a table's own, one object each, where the sheet says `style: {open: true}`: columns by
   * the names that they have in its file, days and times as ISO text, spans as seconds.
   */
  put: (table: string, rows: readonly object[]) => Promise<void>;
}

function known<T>(map: ReadonlyMap<string, T>, name: string, what: string): T {
  const found = map.get(name);
  if (found === undefined)
    throw new RangeError(
      `there is no ${what} "${name}"; there are ${[...map.keys()].filter((key) => !key.startsWith("#")).join(", ")}`,
    );
  return found;
}

/** The functions behind `window.stillHarbor`, once the dashboard runs. */
export type Api = Omit<StillHarbor, "ready" | "put">;

/** A range on an axis of a selection, from its two ends as a script gives them. */
function rangeOn(plan: SelectionPlan, axis: "x" | "y", range: readonly unknown[]): [number, number] {
  if (!plan.axes[axis]) throw new RangeError(`the selection "${plan.name}" has no ${axis}`);
  const kind = plan.words[axis]?.kind ?? "number";
  const [low, high] = range.map((end) =>
    typeof end === "number" && kind !== "date" && kind !== "datetime" ? end : textNumber(kind, String(end)),
  ) as [number, number];
  if (low <= high) return [low, high];
  throw new RangeError(`${JSON.stringify(range)} are not two ends on ${axis} of "${plan.name}"`);
}

/** Keys that a script picks, widened as a click widens them. */
function keysOf(app: App, plan: SelectionPlan, keys: NonNullable<Selecting["keys"]>): Key[] {
  const { columns } = app.model.engine.tableOf(plan.table);
  for (const column of keys.flatMap((key) => Object.keys(key)))
    if (!Object.hasOwn(plan.keys, column) && !columns.has(column))
      throw new RangeError(`"${column}" is no column of ${plan.table} in this file`);
  return plan.by.length ? widened(app, plan.table, plan.by, keys) : (keys as Key[]);
}

/** What a script asks of a selection, if that is something that a selection can hold. */
function soundly(what: unknown): Selecting {
  const isMap = (value: unknown): value is object =>
    typeof value === "object" && value !== null && !Array.isArray(value);
  const { keys, outline }: { keys?: unknown; outline?: unknown } = isMap(what) ? what : {};
  const isSound =
    isMap(what) &&
    (keys === undefined || (Array.isArray(keys) && keys.every((key) => isMap(key) && Object.keys(key).length > 0))) &&
    (outline === undefined || (Array.isArray(outline) && outline.every(Array.isArray)));
  if (!isSound) throw new RangeError(SELECTABLE);
  return what;
}

const SELECTABLE = "select takes {x: [from, to]}, {y: …} or {keys: [{column: value}]}";

/** The state that a script asks of a selection. */
function selecting(app: App, plan: SelectionPlan, what: Selecting): SelectionState {
  const state: SelectionState = {};
  for (const axis of ["x", "y"] as const) {
    const given = what[axis];
    if (given === undefined) continue;
    if (!Array.isArray(given)) {
      state.keys = [nearestKey(app, plan, axis, given)];
      continue;
    }
    state[axis] = rangeOn(plan, axis, given);
    const piece = plan.ons ? app.model.piece(plan.source)?.plan : undefined;
    const on = piece?.type === "chart" ? leadingLayer(piece).query.channels[axis]?.text : undefined;
    if (on !== undefined) state.on = { ...state.on, [axis]: on };
  }
  if (what.outline) state.outline = outlineOf(plan, what.outline);
  if (plan.byMarks && (state.x || state.y)) return { keys: app.model.keysWithin(plan, state) };
  if (what.keys) state.keys = keysOf(app, plan, what.keys);
  if (!state.x && !state.y && !state.keys && !state.outline) throw new RangeError(SELECTABLE);
  return app.model.wholePeriods(plan, state);
}

export function makeApi(app: App, controls: ReadonlyMap<string, ControlView>, keeper: StateKeeper): Api {
  const finish = () => {
    app.settle();
    app.flush();
  };
  return {
    rows: (piece) => {
      const view = known(app.views, piece, "piece");
      if (!view.rows) throw new RangeError(`"${piece}" is a control and shows no rows`);
      return view.rows();
    },
    counts: () => app.model.counts(),
    state: () => keeper.object(),
    set: async (name, value) => {
      const control = known(controls, name, "control");
      const problem = app.doAsReader(() => control.set(value));
      if (problem !== undefined) throw new RangeError(problem);
      finish();
    },
    select: async (name, what) => {
      const plan = known(app.model.selections, name, "selection");
      const state = selecting(app, plan, soundly(what));
      if (plan.gesture === "legend") app.leaveEntries(plan, state);
      else app.select(name, state);
      finish();
    },
    press: async (name) => {
      const view = known(controls, name, "control");
      if (!("press" in view) || typeof view.press !== "function") throw new RangeError(`"${name}" is no button`);
      view.press();
      finish();
    },
    clear: async (name) => {
      if (name === undefined) app.clearAll();
      else {
        if (app.model.selections.has(name)) app.clear(name);
        else {
          known(controls, name, "selection or control");
          app.reset([name]);
        }
      }
      app.flush();
    },
  };
}

/** The corners of an outline as numbers. */
function outlineOf(
  { name, outline, words }: SelectionPlan,
  corners: NonNullable<Selecting["outline"]>,
): [number, number][] {
  if (!outline) throw new RangeError(`"${name}" holds no outline`);
  if (corners.length < 3) throw new RangeError("an outline has three corners at least");
  return corners.map((corner) => {
    const [x, y] = (["x", "y"] as const).map((axis, at) =>
      valueOn(words[axis]?.kind ?? "number", corner[at] as string),
    );
    if (!Number.isFinite(x) || !Number.isFinite(y)) throw new RangeError(`${JSON.stringify(corner)} is no place`);
    return [x as number, y as number];
  });
}

/** A number as a script writes it: dates are ISO text. */
const valueOn = (kind: string, value: number | string): number =>
  typeof value === "number" && kind !== "date" && kind !== "datetime" ? value : textNumber(kind, String(value));

/** What `hover x` holds at a value: the rows at the nearest one. */
function nearestKey(
  app: App,
  { name, gesture, keys, words, source }: SelectionPlan,
  axis: "x" | "y",
  value: number | string,
): Key {
  const text = Object.keys(keys)[0];
  const words_ = text === undefined ? undefined : words[text];
  if (gesture !== "hover x" || text === undefined || !words_ || axis !== "x")
    throw new RangeError(`"${name}" takes ends of a range on ${axis}`);
  if (words_.kind === "text" || words_.kind === "boolean") return { [text]: value };
  const wanted = valueOn(words_.kind, value);
  const view = app.views.get(source);
  const known = (view?.rows?.() ?? []).map((row) => row.x).filter((x) => x !== null && x !== undefined);
  let best: Scalar | undefined;
  for (const x of known as Scalar[]) {
    const distance = Math.abs(valueOn(words_.kind, x as number | string) - wanted);
    if (best === undefined || distance < Math.abs(valueOn(words_.kind, best as number | string) - wanted)) best = x;
  }
  if (best === undefined) throw new RangeError(`nothing is drawn in "${source}" to be hovered`);
  return { [text]: best };
}

/** True if a row holds a value, by the number of it in the column's own kind; two zeros are one. */
function isValue(column: Column, row: number, code: number): boolean {
  if (column.kind === "text") return column.codes[row] === code;
  const value = column.values[row] as number;
  return value === code || (value !== value && code !== code);
}

/** The values of `by` in the rows that the keys hold. */
function widened(app: App, tableName: string, by: readonly string[], keys: NonNullable<Selecting["keys"]>): Key[] {
  const table = app.model.engine.tableOf(tableName);
  const found = new Map<string, Key>();
  for (const key of keys) {
    if (Object.keys(key).length === by.length && by.every((name) => Object.hasOwn(key, name))) {
      found.set(JSON.stringify(key), key);
      continue;
    }
    const tests = Object.entries(key).map(([name, value]) => {
      const column = table.columns.get(name);
      const code = column && codeOfValue(column, value);
      return (row: number) => column !== undefined && code !== undefined && isValue(column, row, code);
    });
    for (let row = 0; row < table.rowCount; row++) {
      if (!tests.every((test) => test(row))) continue;
      const wide: Key = Object.fromEntries(
        by.map((name) => [
          name,
          plainValue(table.columns.get(name) as NonNullable<ReturnType<typeof table.columns.get>>, row),
        ]),
      );
      found.set(JSON.stringify(wide), wide);
    }
  }
  return [...found.values()];
}
