import fc from "fast-check";
import {
  AGGREGATES,
  allRows,
  isCurve,
  type Made,
  type Row,
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
  /** The rows of the table that the look-up table joins in turn, by `g`. */
  far: { name: string; h: string }[];
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
  | { on: "far"; h: string }
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
const far = fc.record({ name: fc.constantFrom("m", "n", "o"), h: fc.constantFrom("p", "q") });

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
export const isCurved = ({ steps: own }: Made) => own.some(isCurve);

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
  fc.record({ on: fc.constant("far" as const), h: fc.constantFrom("p", "q") }),
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
  far: fc.array(far, { minLength: 1, maxLength: 3 }),
  tables,
  measures: fc.array(fc.constantFrom(...Object.keys(AGGREGATES)), { minLength: 3, maxLength: 3 }),
  gestures: fc.array(gesture, { minLength: 1, maxLength: 6 }),
});

/** The aggregate that the bars of a table show; how many different values a curve has is a matter of rounding. */
export function measureOf(one: Case, place: number): string {
  const measure = one.measures[place] as string;
  return measure === "distinct(v)" && isCurved(one.tables[place] as Made) ? "count()" : measure;
}

/** The column by whose values the bars of a table stand. */
export const keyOf = ({ tables: made }: Case, name: string): string => keysOfTable(made, name)[0] as string;

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
  w:
    columns: {name: text, h: text}
    rows: |
      name,h
${lines(one.far.map(({ name, h }) => [name, h]))}  u:
    columns: {code: text, g: text, z: number}
    rows: |
      code,g,z
${lines(one.looked.map(({ code, g, z }) => [code, g, z]))}    steps:
      - join: {table: w, on: {g: name}, get: [h]}
  e:
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
  far: {from: w, draw: bars, x: h, y: count()}
  stacked: {from: e, draw: bars, x: k, y: sum(w)}
links:
${one.tables.map((own) => (isCurved(own) ? "" : `  - click on bars_${own.name} -> filter all\n`)).join("")}  - brush x on points -> filter all
  - brush x on months -> filter all
  - click on looked -> filter all
  - click on far -> filter all
  - click on stacked -> filter all
`;
}

/** The report of a case before anybody has touched it. */
export function worldOf(one: Case): World {
  const far_: Row[] = one.far.map((values, at) => ({ values, id: `w${at}`, of: {} }));
  const looked_: Row[] = one.looked.map((values, at) => {
    const found = far_.find((row_) => row_.values.name === values.g);
    return {
      values: { ...values, h: found?.values.h ?? null },
      id: String(at),
      of: { w: new Set(found ? [found.id] : []) },
    };
  });
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
          of: { ...row_.of, u: new Set(found ? [found.id] : []), w: found?.of.w ?? new Set() },
        },
      ];
    },
  );
  return {
    root,
    stacked,
    looked: looked_,
    far: far_,
    tables: new Map(one.tables.map((table) => [table.name, table])),
    settings: START,
  };
}

/** True where a table is spread that has no rows: it has no columns then, and no sheet can speak of them. */
export const spreadsNothing = (one: Case): boolean =>
  one.tables.some(
    ({ name, steps: own }) => own.some((step) => step.do === "spread") && allRows(worldOf(one), name).length === 0,
  );
