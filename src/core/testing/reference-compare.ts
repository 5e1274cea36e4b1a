import { brushIndexer } from "../link/index/brush-index";
import { Model } from "../model/model";
import type { Plan } from "../plan/plan";
import { nameAt } from "../query/categories";
import { LayerValues } from "../query/values";
import { brushEdges } from "../scale/edges";
import { continuousScale } from "../scale/scales";
import { compileText } from "./compile-text";
import {
  type Case,
  type Gesture,
  isCurved,
  keyOf,
  measureOf,
  sheetOf,
  spreadsNothing,
  worldOf,
} from "./reference-cases";
import {
  AGGREGATES,
  allRows,
  groupsOf,
  type Made,
  type Row,
  rowsLeft,
  type Selected,
  type Value,
  type World,
} from "./reference-model";

/**
 * Says in words where the engine and the plain model differ; nothing where they agree.
 *
 * @param starts told of the plan before a dashboard of it begins
 */
export function difference(one: Case, starts?: (plan: Plan) => void): string | undefined {
  const { plan, tables: packed, findings } = compileText(sheetOf(one));
  const errors = findings.filter(({ severity }) => severity === "error");
  if (errors.length && !spreadsNothing(one)) return `not compiled: ${errors[0]?.message}`;
  if (errors.length) return undefined;
  starts?.(plan);
  const model = new Model(plan, packed);
  let world = worldOf(one);
  const selected = new Map<string, Selected>();
  for (const [at, gesture_] of [undefined, ...one.gestures].entries()) {
    if (gesture_?.on === "setting") {
      world = { ...world, settings: { ...world.settings, [gesture_.name]: gesture_.value } };
      model.engine.setSetting(gesture_.name, gesture_.value);
    } else if (gesture_) make(one, model, world, selected, gesture_);
    const left: Left = (name, ...except) =>
      rowsLeft(
        world,
        name,
        [...selected].filter(([selection]) => !except.includes(selection)).map(([, held]) => held),
      );
    const found = differenceNow(one, model, left);
    if (found) return `after ${at} gestures, ${found}`;
  }
  return undefined;
}

/** The rows of a table that pass all selections but some. */
type Left = (name: string, ...except: string[]) => Row[];

function differenceNow(one: Case, model: Model, left: Left): string | undefined {
  for (const [place, { name }] of one.tables.entries()) {
    const found = compareTable(one, model, name, place, (except) => left(name, except));
    if (found) return found;
  }
  const months = groupsOf(
    left("t", "months").map((row_) => ({ ...row_, values: { ...row_.values, month: monthOf(row_.values.d) } })),
    "month",
  );
  months.delete(null);
  // A control filters what descends from its table, not what its rows have looked up, nor what they were
  // stacked from; what stands in a stack and what is looked up there do not know of one another.
  return (
    compareBars(
      "months",
      shownBars(model, "months"),
      months,
      (rows) => AGGREGATES["sum(v)"]?.(valued(rows, "z")) ?? 0,
    ) ??
    compareBars(
      "looked",
      shownBars(model, "looked"),
      groupsOf(left("u", "looked", "pick", "stacked"), "g"),
      (rows) => rows.length,
    ) ??
    compareBars(
      "far",
      shownBars(model, "far"),
      groupsOf(left("w", "far", "pick", "stacked"), "h"),
      (rows) => rows.length,
    ) ??
    compareBars(
      "stacked",
      shownBars(model, "stacked"),
      groupsOf(left("e", "stacked", "pick", "looked", "far"), "k"),
      (rows) => AGGREGATES["sum(v)"]?.(valued(rows, "w")) ?? 0,
    )
  );
}

/** Rows whose value is that of another column. */
const valued = (rows: readonly Row[], name: string): Row[] =>
  rows.map((row_) => ({ ...row_, values: { v: row_.values[name] ?? null } }));

const monthOf = (date: Value | undefined): string | null =>
  typeof date === "string" ? `${date.slice(0, 7)}-01` : null;

/** What a gesture holds, in the model and as the plain words say it; nothing held lets go. */
interface Held {
  name: string;
  state: Parameters<Model["engine"]["select"]>[1];
  plain?: Selected;
}

type SelectingGesture = Exclude<Gesture, { on: "setting" }>;
type HoldOf<On extends SelectingGesture["on"]> = (
  gesture: SelectingGesture & { on: On },
  trial: { one: Case; model: Model; world: World; selected: ReadonlyMap<string, Selected> },
) => Held | undefined;

/** A choice of one value of a column. */
const oneOf = (name: string, table: string, column: string, value: Value): Held => ({
  name,
  state: { keys: [{ [column]: value }] },
  plain: { table, holds: (values) => (values[column] ?? null) === value },
});

/** What every gesture holds. */
const HOLDS: { [On in SelectingGesture["on"]]: HoldOf<On> } = {
  points: (gesture, { model }) => {
    const range = brushPoints(model, gesture);
    if (!range) return undefined;
    const [from, to] = range;
    const holds: Selected["holds"] = ({ v }) => typeof v === "number" && v >= from && v < to;
    return { name: "points", state: { x: range }, plain: { table: "t", holds } };
  },
  months: ({ from, months }) => {
    const [low, high] = [Date.UTC(1970, from, 1), Date.UTC(1970, from + months, 1)];
    const [first, end] = [isoDay(low), isoDay(high)];
    const holds: Selected["holds"] = ({ d }) => typeof d === "string" && d >= first && d < end;
    return { name: "months", state: { x: [low / 1000, high / 1000] }, plain: { table: "t", holds } };
  },
  control: ({ values }) => ({
    name: "pick",
    state: { keys: values.map((k) => ({ k })) },
    plain: { table: "t", holds: ({ k }) => values.includes(k as string) },
  }),
  looked: ({ g }) => oneOf("looked", "u", "g", g),
  far: ({ h }) => oneOf("far", "w", "h", h),
  stacked: ({ k }) => oneOf("stacked", "e", "k", k),
  clear: ({ which }, { selected }) => {
    const name = [...selected.keys()][which % Math.max(1, selected.size)];
    return name === undefined ? undefined : { name, state: undefined };
  },
  bars: ({ table: at, place }, { one, world }) => {
    const table = one.tables[at] as Made;
    if (isCurved(table)) return undefined;
    const { name } = table;
    const key = keyOf(one, name);
    const known = [...groupsOf(allRows(world, name), key).keys()];
    const wanted = known[place % Math.max(1, known.length)];
    return wanted === undefined ? undefined : oneOf(`bars_${name}`, name, key, wanted);
  },
};

const isoDay = (time: number) => new Date(time).toISOString().slice(0, 10);

/** Makes a gesture in both. */
function make(one: Case, model: Model, world: World, selected: Map<string, Selected>, gesture: SelectingGesture) {
  const hold = HOLDS[gesture.on] as HoldOf<SelectingGesture["on"]>;
  const held = hold(gesture, { one, model, world, selected });
  if (!held) return;
  model.engine.select(held.name, held.state);
  if (held.plain) selected.set(held.name, held.plain);
  else selected.delete(held.name);
}

/**
 * Takes the brush over points in hand; answers its ends, which stand on edges, or nothing where there is no
 * stretch.
 */
function brushPoints(
  model: Model,
  { low, high, warm }: Gesture & { on: "points" },
): [from: number, to: number] | undefined {
  const scale = continuousScale({
    kind: "number",
    scale: "linear",
    domain: [-60, 60],
    range: [0, 400],
    nice: false,
    tickCount: 5,
  });
  const edges = brushEdges(scale, "number");
  const [from, to] = [low, high].map((end) =>
    edges.reduce((best, edge) => (Math.abs(edge - end) < Math.abs(best - end) ? edge : best)),
  ) as [number, number];
  if (!(from < to)) return undefined;
  model.engine.activate("points", brushIndexer({ x: edges }));
  if (warm)
    for (const { name } of model.plan.pieces) for (const asked of model.askedBy(name)) while (model.engine.warm(asked));
  return [from, to];
}

/** @param slack what two numbers may differ by beside rounding */
const near = (a: Value, b: Value, slack: number): boolean =>
  a === b ||
  (typeof a === "number" &&
    typeof b === "number" &&
    Math.abs(a - b) <= slack + 1e-9 * Math.max(1, Math.abs(a), Math.abs(b)));

/** Curves through far values lose digits where these meet near ones. */
const slackOf = (one: Case, table: Made): number =>
  isCurved(table) ? 1e-7 * Math.max(1, ...one.rows.map(({ v }) => Math.abs(v ?? 0))) : 0;

/** Compares what the bars and the figure of a table show; its own pick does not filter the bars. */
function compareTable(
  one: Case,
  model: Model,
  name: string,
  place: number,
  left: (except: string) => Row[],
): string | undefined {
  const measure = measureOf(one, place);
  const bars = `bars_${name}`;
  const slack = slackOf(one, one.tables[place] as Made);
  const found = compareBars(
    `${measure} in ${bars}`,
    shownBars(model, bars),
    groupsOf(left(bars), keyOf(one, name)),
    (rows) => AGGREGATES[measure]?.(rows) ?? null,
    slack,
  );
  if (found) return found;
  const total = AGGREGATES["sum(v)"]?.(left("")) ?? null;
  const figure = model.plainAnswer(`figure_${name}`);
  const number = figure && new LayerValues(figure.answer, figure.all).numbers("value")?.[0];
  const said = number === undefined || Number.isNaN(number) ? null : number;
  return near(said, total, slack) ? undefined : `figure_${name} shows ${said}, and it is ${total}`;
}

function compareBars(
  what: string,
  shown: ReadonlyMap<Value, Value>,
  groups: ReadonlyMap<Value, Row[]>,
  measure: (rows: readonly Row[]) => Value,
  slack = 0,
): string | undefined {
  const wanted = new Map([...groups].map(([key, rows]) => [key, measure(rows)]));
  for (const key of new Set([...wanted.keys(), ...shown.keys()])) {
    const [a, b] = [shown.get(key), wanted.get(key)];
    if (a === undefined || b === undefined || !near(a, b, slack))
      return `${what}: ${key} is shown as ${a}, and it is ${b}`;
  }
  return undefined;
}

/** The bars of a chart that stand for some row: their values by their categories. */
function shownBars(model: Model, name: string): Map<Value, Value> {
  const layer = model.chartInput(name, 400, 300, new Set())?.layers[0];
  const shown = new Map<Value, Value>();
  if (!layer) return shown;
  const values = new LayerValues(layer.current, layer.all);
  const keys = values.get("x");
  const numbers = values.numbers("y");
  layer.current.counts.forEach((count, id) => {
    if (count === 0 || !keys || !numbers) return;
    const number = numbers[id] as number;
    shown.set(nameAt(keys, id), Number.isNaN(number) ? null : number);
  });
  return shown;
}
