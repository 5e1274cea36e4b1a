import fc from "fast-check";
import { brushIndexer } from "../link/index/brush-index";
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
  isCurve,
  type Made,
  type Row,
  rowsLeft,
  type Selected,
  type Settings,
  type Step,
  type Value,
  type World,
  writeStep,
} from "./reference-model";

/** A small report, and what a reader does in it, one after the other. */
export interface Case {
  rows: { k: string | null; c: string | null; v: number | null; w: number; d: string | null }[];
  /** Rows of a table beside the root, which the root stacks under its own. */
  stacked: Case["rows"];
  /** The rows of the look-up table that the root joins by `k`, and whether rows that find none go on. */
  looked: { code: string; g: string; z: number | null }[];
  unmatched: "keep" | "drop";
  tables: Made[];
  /** The aggregate that the bars of each table show. */
  measures: string[];
  gestures: Gesture[];
}

export type Gesture =
  | { on: "bars"; table: number; place: number }
  | { on: "points"; low: number; high: number; warm: boolean }
  | { on: "months"; from: number; months: number }
  | { on: "control"; values: (string | null)[] }
  | { on: "looked"; g: string }
  | { on: "stacked"; k: string | null }
  | { on: "setting"; name: keyof Settings; value: number }
  | { on: "clear"; which: number };

const kind = fc.constantFrom("a", "b", "c", "d", null);
const decimals = fc.integer({ min: -5000, max: 5000 }).map((value) => value / 100);
const value = fc.oneof(
  { weight: 6, arbitrary: decimals },
  { weight: 1, arbitrary: fc.constant(null) },
  { weight: 1, arbitrary: fc.constantFrom(1e9, -1e9, 0, 123456.75) },
);
/** Days from 1967 to 1972: on both sides of where time is counted from. */
const day = fc.integer({ min: -1000, max: 1000 }).map((days) => new Date(days * 864e5).toISOString().slice(0, 10));
const row = fc.record({
  k: kind,
  c: fc.constantFrom("x", "y", null),
  v: value,
  w: fc.integer({ min: 0, max: 100 }),
  d: fc.option(day, { freq: 8 }),
});
const looked = fc.record({
  code: fc.constantFrom("a", "b", "c"),
  g: fc.constantFrom("m", "n"),
  z: fc.option(decimals, { freq: 6 }),
});

/** Steps that can follow one another: each knows which columns are left. */
const steps = (keys: readonly string[]): fc.Arbitrary<Step[]> =>
  fc.array(fc.tuple(fc.nat(12), fc.nat(3), decimals), { maxLength: 3 }).map((drawn) => {
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
      else if (which === 6) made.push({ do: "keep", column: "v", above: "least" });
      else if (which === 7) made.push({ do: "top", column: "v", rows: "many" });
      else if (which === 8) made.push({ do: "fill", column: "v" });
      else if (which === 9) made.push({ do: "crowd", by, rows: 1 + at });
      else if (which === 10 && left.length === 2 && left.includes("k") && left.includes("c")) {
        made.push({ do: "unpivot" });
        left = ["which", ...left.filter((key) => key !== "c")];
      } else if (which === 11 && left.length === 2 && left.includes("k") && left.includes("c")) {
        made.push({ do: "spread", by });
        left = [by];
      } else if (which === 12 && by !== "which" && by !== "word") {
        made.push({ do: "words", of: by });
        left = ["word"];
      }
    }
    return made;
  });

function keysAfterStep(left: string[], step: Step): string[] {
  if (step.do === "group" || step.do === "spread") return [step.by];
  if (step.do === "words") return ["word"];
  return step.do === "unpivot" ? ["which", ...left.filter((key) => key !== "c")] : left;
}

const keysAfter = (keys: readonly string[], made: readonly Step[]): string[] => made.reduce(keysAfterStep, [...keys]);

const tables: fc.Arbitrary<Made[]> = steps(["k", "c"]).chain((first) => {
  const keysOfA = keysAfter(["k", "c"], first);
  return fc.boolean().chain((onA) =>
    fc.tuple(steps(onA ? keysOfA : ["k", "c"]), curve).map(([second, last]): Made[] => [
      { name: "t", steps: [] },
      { name: "a", from: "t", steps: first },
      {
        name: "b",
        from: onA ? "a" : "t",
        steps: hasPairs([...(onA ? first : []), ...second]) ? [...second, ...last] : second,
      },
    ]),
  );
});

/** Tables that end in curves: a fifth of those that can. */
const curve: fc.Arbitrary<Step[]> = fc.oneof(
  { weight: 8, arbitrary: fc.constant<Step[]>([]) },
  {
    weight: 1,
    arbitrary: fc
      .record({
        do: fc.constant("smooth" as const),
        by: fc.constantFrom("k", "c"),
        span: fc.constantFrom(0.3, 0.7, 1),
      })
      .map((step) => [step]),
  },
  { weight: 1, arbitrary: fc.constantFrom("k", "c").map((by): Step[] => [{ do: "density", by }]) },
);

/** True where rows still have both of their numbers, and both of their keys. */
const hasPairs = (made: readonly Step[]) =>
  made.every(({ do: what }) => what !== "group" && what !== "unpivot" && what !== "spread" && what !== "words");

/** True for a table whose rows are places of curves, of which none can be picked. */
const isCurved = ({ steps: own }: Made) => own.some(isCurve);

const gesture: fc.Arbitrary<Gesture> = fc.oneof(
  fc.record({ on: fc.constant("bars" as const), table: fc.nat(2), place: fc.nat(4) }),
  fc
    .tuple(decimals, decimals, fc.boolean())
    .map(([x, y, warm]): Gesture => ({ on: "points", low: Math.min(x, y), high: Math.max(x, y) + 0.01, warm })),
  fc.record({
    on: fc.constant("months" as const),
    from: fc.integer({ min: -30, max: 30 }),
    months: fc.integer({ min: 1, max: 20 }),
  }),
  fc.record({ on: fc.constant("control" as const), values: fc.uniqueArray(kind, { minLength: 1, maxLength: 3 }) }),
  fc.record({ on: fc.constant("looked" as const), g: fc.constantFrom("m", "n") }),
  fc.record({ on: fc.constant("stacked" as const), k: kind }),
  fc.record({ on: fc.constant("setting" as const), name: fc.constant("least" as const), value: decimals }),
  fc.record({
    on: fc.constant("setting" as const),
    name: fc.constant("many" as const),
    value: fc.integer({ min: 1, max: 4 }),
  }),
  fc.record({ on: fc.constant("clear" as const), which: fc.nat(4) }),
);

export const cases: fc.Arbitrary<Case> = fc.record({
  rows: fc.array(row, { minLength: 1, maxLength: 25 }),
  stacked: fc.array(row, { maxLength: 6 }),
  looked: fc.array(looked, { minLength: 1, maxLength: 4 }),
  unmatched: fc.constantFrom("keep" as const, "drop" as const),
  tables,
  measures: fc.array(fc.constantFrom(...Object.keys(AGGREGATES)), { minLength: 3, maxLength: 3 }),
  gestures: fc.array(gesture, { minLength: 1, maxLength: 6 }),
});

/** The aggregate that the bars of a table show; how many different values a curve has is a matter of rounding. */
function measureOf(one: Case, place: number): string {
  const measure = one.measures[place] as string;
  return measure === "distinct(v)" && isCurved(one.tables[place] as Made) ? "count()" : measure;
}

/** The column by whose values the bars of a table stand. */
const keyOf = ({ tables: made }: Case, name: string): string => keysOfTable(made, name)[0] as string;

function keysOfTable(made: readonly Made[], name: string): string[] {
  const own = made.find((one) => one.name === name) as Made;
  const last = own.steps.at(-1);
  if (last?.do === "smooth" || last?.do === "density") return [last.by];
  return own.from === undefined ? ["k", "c"] : keysAfter(keysOfTable(made, own.from), own.steps);
}

const START: Settings = { least: -3, many: 2 };

/** The sheet of a case. */
export function sheetOf(one: Case): string {
  const cell = (cell_: Value) => (cell_ === null ? "" : String(cell_));
  const lines = (rows: readonly Value[][]) => rows.map((row_) => `      ${row_.map(cell).join(",")}\n`).join("");
  const made = one.tables
    .filter(({ from }) => from !== undefined)
    .map(({ name, from, steps: own }) => {
      const written = own.flatMap(writeStep).map((line) => `      - ${line}\n`);
      return `  ${name}:\n    from: ${from}\n${written.length ? `    steps:\n${written.join("")}` : ""}`;
    });
  const names = one.tables.map(({ name }) => name);
  const charts = names.map(
    (name, at) =>
      `  bars_${name}: {from: ${name}, draw: bars, x: ${keyOf(one, name)}, y: "${measureOf(one, at)}"}\n  figure_${name}: {from: ${name}, draw: figure, value: sum(v)}\n`,
  );
  return `still: 1
report: Case
tables:
  u:
    columns: {code: text, g: text, z: number}
    rows: |
      code,g,z
${lines(one.looked.map(({ code, g, z }) => [code, g, z]))}  e:
    columns: {k: text, c: text, v: number, w: number, d: date}
    rows: |
      k,c,v,w,d
${lines(one.stacked.map(({ k, c, v, w, d }) => [k, c, v, w, d]))}  t:
    columns: {k: text, c: text, v: number, w: number, d: date}
    rows: |
      k,c,v,w,d
${lines(one.rows.map(({ k, c, v, w, d }) => [k, c, v, w, d]))}    steps:
      - stack: [e]
      - join: {table: u, on: {k: code}, get: [z], unmatched: ${one.unmatched}}
${made.join("")}controls:
  pick: {pick: k, from: t, as: checkboxes}
  least: {set: ${START.least}, as: slider, range: [-50, 50]}
  many: {set: ${START.many}, as: slider, range: [1, 4]}
charts:
${charts.join("")}  points: {from: t, draw: points, x: v, y: w}
  months: {from: t, draw: bars, x: by_month(d), y: sum(z)}
  looked: {from: u, draw: bars, x: g, y: count()}
  stacked: {from: e, draw: bars, x: k, y: sum(w)}
links:
${one.tables.map((own) => (isCurved(own) ? "" : `  - click on bars_${own.name} -> filter all\n`)).join("")}  - brush x on points -> filter all
  - brush x on months -> filter all
  - click on looked -> filter all
  - click on stacked -> filter all
`;
}

/** The report of a case before anybody has touched it. */
function worldOf(one: Case): World {
  const looked_: Row[] = one.looked.map((values, at) => ({ values, id: String(at), of: {} }));
  const stacked: Row[] = one.stacked.map((values, at) => ({ values, id: `e${at}`, of: {} }));
  const own = one.rows.map((values, at): Row => ({ values, id: String(at), of: {} }));
  const root = [...own, ...stacked.map((row_) => ({ ...row_, of: { e: new Set([row_.id]) } }))].flatMap(
    (row_): Row[] => {
      const found = looked_.find(({ values }) => values.code === row_.values.k);
      if (!found && one.unmatched === "drop") return [];
      return [
        {
          ...row_,
          values: { ...row_.values, z: found?.values.z ?? null },
          of: { ...row_.of, u: new Set(found ? [found.id] : []) },
        },
      ];
    },
  );
  return {
    root,
    stacked,
    looked: looked_,
    tables: new Map(one.tables.map((table) => [table.name, table])),
    settings: START,
  };
}

/** True where a table is spread that has no rows: it has no columns then, and no sheet can speak of them. */
export const spreadsNothing = (one: Case): boolean =>
  one.tables.some(
    ({ name, steps: own }) => own.some((step) => step.do === "spread") && allRows(worldOf(one), name).length === 0,
  );

/** Says in words where the engine and the plain model differ; nothing where they agree. */
export function difference(one: Case): string | undefined {
  const { plan, tables: packed, findings } = compileText(sheetOf(one));
  const errors = findings.filter(({ severity }) => severity === "error");
  if (errors.length && !spreadsNothing(one)) return `not compiled: ${errors[0]?.message}`;
  if (errors.length) return undefined;
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
      "stacked",
      shownBars(model, "stacked"),
      groupsOf(left("e", "stacked", "pick", "looked"), "k"),
      (rows) => AGGREGATES["sum(v)"]?.(valued(rows, "w")) ?? 0,
    )
  );
}

/** Rows whose value is that of another column. */
const valued = (rows: readonly Row[], name: string): Row[] =>
  rows.map((row_) => ({ ...row_, values: { v: row_.values[name] ?? null } }));

const monthOf = (date: Value | undefined): string | null =>
  typeof date === "string" ? `${date.slice(0, 7)}-01` : null;

/** Makes a gesture in both. */
function make(
  one: Case,
  model: Model,
  world: World,
  selected: Map<string, Selected>,
  gesture_: Exclude<Gesture, { on: "setting" }>,
) {
  const hold = (name: string, state: Parameters<typeof model.engine.select>[1], held?: Selected) => {
    model.engine.select(name, state);
    if (held) selected.set(name, held);
    else selected.delete(name);
  };
  if (gesture_.on === "points") {
    const range = brushPoints(model, gesture_);
    if (!range) return;
    const [from, to] = range;
    const holds: Selected["holds"] = ({ v }) => typeof v === "number" && v >= from && v < to;
    hold("points", { x: range }, { table: "t", holds });
  } else if (gesture_.on === "months") {
    const [from, to] = [gesture_.from, gesture_.from + gesture_.months].map((month) => Date.UTC(1970, month, 1)) as [
      number,
      number,
    ];
    const [low, high] = [from, to].map((time) => new Date(time).toISOString().slice(0, 10)) as [string, string];
    hold(
      "months",
      { x: [from / 1000, to / 1000] },
      {
        table: "t",
        holds: ({ d }) => typeof d === "string" && d >= low && d < high,
      },
    );
  } else if (gesture_.on === "control") {
    const { values } = gesture_;
    hold("pick", { keys: values.map((k) => ({ k })) }, { table: "t", holds: ({ k }) => values.includes(k as string) });
  } else if (gesture_.on === "looked") {
    const { g: wanted } = gesture_;
    hold("looked", { keys: [{ g: wanted }] }, { table: "u", holds: ({ g }) => g === wanted });
  } else if (gesture_.on === "stacked") {
    const { k: wanted } = gesture_;
    hold("stacked", { keys: [{ k: wanted }] }, { table: "e", holds: ({ k }) => (k ?? null) === wanted });
  } else if (gesture_.on === "clear") {
    const names = [...selected.keys()];
    const name = names[gesture_.which % Math.max(1, names.length)];
    if (name !== undefined) hold(name, undefined);
  } else {
    const table = one.tables[gesture_.table] as Made;
    if (isCurved(table)) return;
    const { name } = table;
    const key = keyOf(one, name);
    const known = [...groupsOf(allRows(world, name), key).keys()];
    const wanted = known[gesture_.place % Math.max(1, known.length)];
    if (wanted === undefined) return;
    hold(
      `bars_${name}`,
      { keys: [{ [key]: wanted }] },
      { table: name, holds: (values) => (values[key] ?? null) === wanted },
    );
  }
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
