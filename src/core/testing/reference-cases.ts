import fc from "fast-check";
import { Model } from "../model/model";
import { nameAt } from "../query/categories";
import { LayerValues } from "../query/values";
import { brushEdges } from "../scale/edges";
import { continuousScale } from "../scale/scales";
import { compileText } from "./compile-text";
import {
  AGGREGATES,
  allRows,
  groupsOf,
  type Made,
  type Row,
  rowsLeft,
  type Selected,
  type Step,
  type Value,
  writeStep,
} from "./reference-model";

/** A small report, and what a reader does in it, one after the other. */
export interface Case {
  rows: { k: string | null; c: string | null; v: number | null; w: number }[];
  tables: Made[];
  /** The aggregate that the bars of each table show. */
  measures: string[];
  gestures: Gesture[];
}

export type Gesture =
  | { on: "bars"; table: number; place: number }
  | { on: "points"; low: number; high: number }
  | { on: "control"; value: string | null }
  | { on: "clear"; which: number };

const kind = fc.constantFrom("a", "b", "c", "d", null);
const decimals = fc.integer({ min: -5000, max: 5000 }).map((value) => value / 100);
const value = fc.oneof(
  { weight: 6, arbitrary: decimals },
  { weight: 1, arbitrary: fc.constant(null) },
  { weight: 1, arbitrary: fc.constantFrom(1e9, -1e9, 0, 123456.75) },
);
const row = fc.record({ k: kind, c: fc.constantFrom("x", "y", null), v: value, w: fc.integer({ min: 0, max: 100 }) });

/** Steps that can follow one another: each knows which columns are left. */
const steps = (keys: readonly string[]): fc.Arbitrary<Step[]> =>
  fc.array(fc.tuple(fc.nat(5), fc.nat(3), decimals), { maxLength: 3 }).map((drawn) => {
    let left = [...keys];
    const made: Step[] = [];
    for (const [which, at, number] of drawn) {
      const by = left[at % left.length] as string;
      if (which === 0) made.push({ do: "keep", column: "v", above: number });
      else if (which === 1) made.push({ do: "double", column: "v", name: "v" });
      else if (which === 2 && left.includes("k")) {
        made.push({ do: "group", by, column: "v" });
        left = [by];
      } else if (which === 3) made.push({ do: "unique", by });
      else if (which === 4) made.push({ do: "top", column: "v", rows: 1 + at });
      else if (which === 5) made.push({ do: "running", column: "v", name: "r" });
    }
    return made;
  });

const keysAfter = (keys: readonly string[], made: readonly Step[]): string[] =>
  made.reduce<string[]>((left, step) => (step.do === "group" ? [step.by] : left), [...keys]);

const tables: fc.Arbitrary<Made[]> = steps(["k", "c"]).chain((first) => {
  const keysOfA = keysAfter(["k", "c"], first);
  return fc.boolean().chain((onA) =>
    steps(onA ? keysOfA : ["k", "c"]).map((second): Made[] => [
      { name: "t", steps: [] },
      { name: "a", from: "t", steps: first },
      { name: "b", from: onA ? "a" : "t", steps: second },
    ]),
  );
});

const gesture: fc.Arbitrary<Gesture> = fc.oneof(
  fc.record({ on: fc.constant("bars" as const), table: fc.nat(2), place: fc.nat(4) }),
  fc
    .tuple(decimals, decimals)
    .map(([x, y]): Gesture => ({ on: "points", low: Math.min(x, y), high: Math.max(x, y) + 0.01 })),
  fc.record({ on: fc.constant("control" as const), value: kind }),
  fc.record({ on: fc.constant("clear" as const), which: fc.nat(4) }),
);

export const cases: fc.Arbitrary<Case> = fc.record({
  rows: fc.array(row, { minLength: 1, maxLength: 25 }),
  tables,
  measures: fc.array(fc.constantFrom(...Object.keys(AGGREGATES)), { minLength: 3, maxLength: 3 }),
  gestures: fc.array(gesture, { minLength: 1, maxLength: 6 }),
});

/** The column by whose values the bars of a table stand. */
function keyOf({ tables: made }: Case, name: string): string {
  const own = made.find((one) => one.name === name) as Made;
  const above = own.from === undefined ? ["k", "c"] : [keyOf({ tables: made } as Case, own.from), "k", "c"];
  const keys = own.from === undefined ? above : keysAfter(keysOfTable(made, own.from), own.steps);
  return keys[0] as string;
}

function keysOfTable(made: readonly Made[], name: string): string[] {
  const own = made.find((one) => one.name === name) as Made;
  return own.from === undefined ? ["k", "c"] : keysAfter(keysOfTable(made, own.from), own.steps);
}

/** The sheet of a case. */
export function sheetOf(one: Case): string {
  const cell = (cell_: Value) => (cell_ === null ? "" : String(cell_));
  const rows = one.rows.map(({ k, c, v, w }) => `      ${[k, c, v, w].map(cell).join(",")}\n`).join("");
  const made = one.tables
    .filter(({ from }) => from !== undefined)
    .map(({ name, from, steps: own }) => {
      const lines = own.flatMap(writeStep).map((line) => `      - ${line}\n`);
      return `  ${name}:\n    from: ${from}\n${lines.length ? `    steps:\n${lines.join("")}` : ""}`;
    });
  const names = one.tables.map(({ name }) => name);
  const charts = names.map(
    (name, at) =>
      `  bars_${name}: {from: ${name}, draw: bars, x: ${keyOf(one, name)}, y: "${one.measures[at]}"}\n  figure_${name}: {from: ${name}, draw: figure, value: sum(v)}\n`,
  );
  return `still: 1
report: Case
tables:
  t:
    columns: {k: text, c: text, v: number, w: number}
    rows: |
      k,c,v,w
${rows}${made.join("")}controls:
  pick: {pick: k, from: t}
charts:
${charts.join("")}  points: {from: t, draw: points, x: v, y: w}
links:
${names.map((name) => `  - click on bars_${name} -> filter all\n`).join("")}  - brush x on points -> filter all
`;
}

const rootOf = ({ rows }: Case): Row[] => rows.map((values, at) => ({ values, from: new Set([at]) }));

/** Says in words where the engine and the plain model differ; nothing where they agree. */
export function difference(one: Case): string | undefined {
  const { plan, tables: packed, findings } = compileText(sheetOf(one));
  const errors = findings.filter(({ severity }) => severity === "error");
  if (errors.length) return `not compiled: ${errors[0]?.message}`;
  const model = new Model(plan, packed);
  const made = new Map(one.tables.map((table) => [table.name, table]));
  const root = rootOf(one);
  const selected = new Map<string, Selected>();
  for (const [at, gesture_] of [undefined, ...one.gestures].entries()) {
    if (gesture_) make(one, model, made, root, selected, gesture_);
    for (const [place, { name }] of one.tables.entries()) {
      const found = compareTable(one, model, name, place, (except) =>
        rowsLeft(
          root,
          made,
          name,
          [...selected].filter(([selection]) => selection !== except).map(([, held]) => held),
        ),
      );
      if (found) return `after ${at} gestures, ${found}`;
    }
  }
  return undefined;
}

/** Makes a gesture in both. */
function make(
  one: Case,
  model: Model,
  made: ReadonlyMap<string, Made>,
  root: readonly Row[],
  selected: Map<string, Selected>,
  gesture_: Gesture,
) {
  const hold = (name: string, state: Parameters<typeof model.engine.select>[1], held?: Selected) => {
    model.engine.select(name, state);
    if (held) selected.set(name, held);
    else selected.delete(name);
  };
  if (gesture_.on === "points") {
    const { low, high } = gesture_;
    const scale = continuousScale({
      kind: "number",
      scale: "linear",
      domain: [-60, 60],
      range: [0, 400],
      nice: false,
      tickCount: 5,
    });
    const edges = brushEdges(scale, "number");
    const ends = [low, high].map((end) =>
      edges.reduce((best, edge) => (Math.abs(edge - end) < Math.abs(best - end) ? edge : best)),
    );
    const [from, to] = ends as [number, number];
    if (!(from < to)) return;
    model.engine.activate("points", { x: edges });
    // Every second brush moves before its tables are made.
    if (gesture_.low % 2 === 0)
      for (const { name } of model.plan.pieces)
        for (const asked of model.askedBy(name)) while (model.engine.warm(asked));
    const holds: Selected["holds"] = ({ v }) => typeof v === "number" && v >= from && v < to;
    hold("points", { x: [from, to] }, { table: "t", holds });
  } else if (gesture_.on === "control") {
    const wanted = gesture_.value;
    hold("pick", { keys: [{ k: wanted }] }, { table: "t", holds: ({ k }) => (k ?? null) === wanted });
  } else if (gesture_.on === "clear") {
    const names = [...selected.keys()];
    const name = names[gesture_.which % Math.max(1, names.length)];
    if (name !== undefined) hold(name, undefined);
  } else {
    const { name } = one.tables[gesture_.table] as Made;
    const key = keyOf(one, name);
    const known = [...groupsOf(allRows(root, made, name), key).keys()];
    const wanted = known[gesture_.place % Math.max(1, known.length)];
    if (wanted === undefined) return;
    hold(
      `bars_${name}`,
      { keys: [{ [key]: wanted }] },
      { table: name, holds: (values) => (values[key] ?? null) === wanted },
    );
  }
}

const near = (a: Value, b: Value): boolean =>
  a === b ||
  (typeof a === "number" && typeof b === "number" && Math.abs(a - b) <= 1e-9 * Math.max(1, Math.abs(a), Math.abs(b)));

/** Compares what the bars and the figure of a table show; its own pick does not filter the bars. */
function compareTable(
  one: Case,
  model: Model,
  name: string,
  place: number,
  left: (except: string) => Row[],
): string | undefined {
  const measure = one.measures[place] as string;
  const wanted = new Map(
    [...groupsOf(left(`bars_${name}`), keyOf(one, name))].map(([key, rows]) => [
      key,
      AGGREGATES[measure]?.(rows) ?? null,
    ]),
  );
  const shown = shownBars(model, `bars_${name}`);
  for (const key of new Set([...wanted.keys(), ...shown.keys()])) {
    const [a, b] = [shown.get(key), wanted.get(key)];
    if (a === undefined || b === undefined || !near(a, b))
      return `bars_${name} show ${measure} of ${key} as ${a}, and it is ${b}`;
  }
  const total = AGGREGATES["sum(v)"]?.(left("")) ?? null;
  const found = model.plainAnswer(`figure_${name}`);
  const number = found && new LayerValues(found.answer, found.all).numbers("value")?.[0];
  const said = number === undefined || Number.isNaN(number) ? null : number;
  return near(said, total) ? undefined : `figure_${name} shows ${said}, and it is ${total}`;
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
