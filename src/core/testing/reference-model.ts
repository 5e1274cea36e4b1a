/**
 * A plain, slow interpreter of small reports for tests: rows as objects, steps one row at a time, and
 * selections carried along by the rows that each row was made of. It shares nothing with the engine.
 */

import { densities, smoothed } from "./reference-curves";

export type Value = number | string | null;
export type Values = Readonly<Record<string, Value>>;

/** A row, what makes it the same row in another making of its table, and the rows that it was made of. */
export interface Row {
  values: Values;
  id: string;
  /** By table: the ids of the rows there that went into it, its own among them once the table is done. */
  of: Readonly<Record<string, ReadonlySet<string>>>;
  /** By table: the values that it had when the table was done, as long as no step has put rows together since. */
  was?: Readonly<Record<string, Values>>;
}

/** What a reader can set: a bound, and how many rows. */
export interface Settings {
  least: number;
  many: number;
}

/** One step, and what of the sheet's text says it. */
export type Step =
  | { do: "keep"; column: string; above: number | "least" }
  | { do: "crowd"; by: string; rows: number }
  | { do: "double"; column: string; name: string }
  | { do: "fill"; column: string }
  | { do: "group"; by: string; column: string }
  | { do: "unique"; by: string }
  | { do: "top"; column: string; rows: number | "many" }
  | { do: "running"; column: string; name: string }
  | { do: "unpivot" }
  /** Long, and wide again: a column for each of `v` and `w`, with its sum. */
  | { do: "spread"; by: string }
  | { do: "words"; of: string }
  /** Curves through `v`, along `w` or of how densely it lies; nothing goes up from their places. */
  | { do: "smooth"; by: string; span: number }
  | { do: "density"; by: string };

export const isCurve = ({ do: what }: Step): boolean => what === "smooth" || what === "density";

const isMerging = (step: Step): boolean =>
  step.do === "group" || step.do === "unique" || step.do === "spread" || step.do === "words" || isCurve(step);

/** The step as lines of a sheet. */
export function writeStep(step: Step): string[] {
  if (step.do === "top") return [`sort: ["-${step.column}"]`, `first: ${step.rows === "many" ? "$many" : step.rows}`];
  if (step.do === "crowd") return [`{keep: count() >= ${step.rows}, within: [${step.by}]}`];
  if (step.do === "spread")
    return [oneLine({ do: "unpivot" }), `pivot: {by: [${step.by}], name: which, value: sum(v)}`];
  if (step.do === "words") return [`words: {of: ${step.of}}`, "add: {v: count}"];
  if (step.do === "density") return [`density: {of: v, kernel: triangular, by: [${step.by}]}`, "add: {v: density}"];
  return [oneLine(step)];
}

function oneLine(step: Exclude<Step, { do: "top" | "crowd" | "spread" | "words" | "density" }>): string {
  switch (step.do) {
    case "keep":
      return `keep: "${step.column} > ${step.above === "least" ? "$least" : step.above}"`;
    case "double":
      return `add: {${step.name}: "${step.column} * 2 - 1"}`;
    case "fill":
      return `fill: {${step.column}: 0}`;
    case "running":
      return `add: {${step.name}: "running_total(${step.column})"}`;
    case "group":
      return `group: {by: ${step.by}, get: {v: "sum(${step.column})", n: count(), least: "min(${step.column})", mid: "median(${step.column})", kinds: "distinct(k)"}}`;
    case "unique":
      return `unique: [${step.by}]`;
    case "unpivot":
      return "unpivot: {columns: [v, w], name: which, value: v}";
    case "smooth":
      return `smooth: {x: w, y: v, span: ${step.span}, by: [${step.by}]}`;
  }
}

const numbers = (rows: readonly Row[], column: string): number[] =>
  rows.map(({ values }) => values[column]).filter((value): value is number => typeof value === "number");

/** Values of rows are hundredths, which add up exactly as whole numbers; those of curves are not. */
function sum(values: readonly number[]): number {
  const areHundredths = values.every((value) => Math.abs(value * 100 - Math.round(value * 100)) < 1e-7);
  const hundredths = values.reduce(
    (total, value) => total + (areHundredths ? Math.round(value * 100) : value * 100),
    0,
  );
  return hundredths / 100;
}

function median(values: readonly number[]): Value {
  if (values.length === 0) return null;
  const sorted = [...values].sort((a, b) => a - b);
  const at = (sorted.length - 1) / 2;
  return ((sorted[Math.floor(at)] as number) + (sorted[Math.ceil(at)] as number)) / 2;
}

/** Aggregates by their names, over rows. */
export const AGGREGATES: Readonly<Record<string, (rows: readonly Row[]) => Value>> = {
  "sum(v)": (rows) => sum(numbers(rows, "v")),
  "count()": (rows) => rows.length,
  "mean(v)": (rows) => (numbers(rows, "v").length ? sum(numbers(rows, "v")) / numbers(rows, "v").length : null),
  "max(v)": (rows) => (numbers(rows, "v").length ? Math.max(...numbers(rows, "v")) : null),
  "median(v)": (rows) => median(numbers(rows, "v")),
  "distinct(v)": (rows) => new Set(numbers(rows, "v")).size,
  "first(v)": (rows) => numbers(rows, "v")[0] ?? null,
};

/** What several rows were made of, table by table. */
function together(rows: readonly Row[]): Row["of"] {
  const of: Record<string, Set<string>> = {};
  for (const row of rows)
    for (const [table, ids] of Object.entries(row.of)) {
      const own = of[table] ?? new Set();
      of[table] = own;
      for (const id of ids) own.add(id);
    }
  return of;
}

/** Rows by the value of a column, in the order in which the values come. */
export function groupsOf(rows: readonly Row[], by: string): Map<Value, Row[]> {
  const groups = new Map<Value, Row[]>();
  for (const row of rows) {
    const key = row.values[by] ?? null;
    groups.set(key, [...(groups.get(key) ?? []), row]);
  }
  return groups;
}

/** The same row with other values. */
const withValue = (row: Row, name: string, value: Value): Row => ({ ...row, values: { ...row.values, [name]: value } });

type RunStep<Do extends Step["do"]> = (rows: readonly Row[], step: Step & { do: Do }, settings: Settings) => Row[];

/** The groups of a step as rows, each made of the rows of one. */
const merged = (rows: readonly Row[], by: string, values: (own: readonly Row[], key: Value) => Row["values"]): Row[] =>
  [...groupsOf(rows, by)].map(([key, own]) => ({ values: values(own, key), id: `${by} ${key}`, of: together(own) }));

/** Every step of the language that these reports have, as its words say it. */
const STEPS: { [Do in Step["do"]]: RunStep<Do> } = {
  keep: (rows, step, settings) =>
    rows.filter(({ values }) => {
      const value = values[step.column];
      return typeof value === "number" && value > (step.above === "least" ? settings.least : step.above);
    }),
  crowd: (rows, step) => {
    const groups = groupsOf(rows, step.by);
    return rows.filter(({ values }) => (groups.get(values[step.by] ?? null)?.length ?? 0) >= step.rows);
  },
  double: (rows, step) =>
    rows.map((row) => {
      const value = row.values[step.column];
      return withValue(row, step.name, typeof value === "number" ? value * 2 - 1 : null);
    }),
  fill: (rows, step) => rows.map((row) => withValue(row, step.column, row.values[step.column] ?? 0)),
  running: (rows, step) => {
    let total = 0;
    return rows.map((row) => {
      const value = row.values[step.column];
      if (typeof value === "number") total = sum([total, value]);
      return withValue(row, step.name, total);
    });
  },
  group: (rows, step) =>
    merged(rows, step.by, (own, key) => {
      const known = numbers(own, step.column);
      const kinds = new Set(own.map(({ values }) => values.k ?? null).filter((kind) => kind !== null));
      return {
        [step.by]: key,
        v: sum(known),
        n: own.length,
        least: known.length ? Math.min(...known) : null,
        mid: median(known),
        kinds: kinds.size,
      };
    }),
  unique: (rows, step) => merged(rows, step.by, (own) => (own[0] as Row).values),
  spread: (rows, step) =>
    merged(rows, step.by, (own, key) => ({
      [step.by]: key,
      v: sum(numbers(own, "v")),
      w: sum(numbers(own, "w")),
    })),
  words: (rows, step) => {
    // Each text of these tables is one word.
    const known = rows.filter(({ values }) => typeof values[step.of] === "string");
    return [...groupsOf(known, step.of)]
      .map(([word, own]) => ({
        values: { word, count: own.length, v: own.length },
        id: `word ${word}`,
        of: together(own),
      }))
      .sort((a, b) => b.values.v - a.values.v || (String(a.values.word) < String(b.values.word) ? -1 : 1));
  },
  unpivot: (rows) =>
    rows.flatMap(({ values: { v, w, ...rest }, id, of, was }) =>
      Object.entries({ v, w }).map(([which, value]) => ({
        values: { ...rest, which, v: value ?? null },
        id: `${id} ${which}`,
        of,
        ...(was ? { was } : {}),
      })),
    ),
  smooth: (rows, step) =>
    curves(rows, step.by, (own) =>
      smoothed(
        own.map(({ values }) => values),
        step.span,
      ),
    ),
  density: (rows, step) => curves(rows, step.by, (own) => densities(numbers(own, "v"))),
  top: (rows, step, settings) =>
    [...rows]
      .sort((a, b) => {
        const [x, y] = [a.values[step.column] ?? null, b.values[step.column] ?? null];
        if (x === null || y === null) return Number(x === null) - Number(y === null);
        return Number(y) - Number(x);
      })
      .slice(0, step.rows === "many" ? settings.many : step.rows),
};

const runStep = (rows: readonly Row[], step: Step, settings: Settings): Row[] =>
  (STEPS[step.do] as RunStep<Step["do"]>)(rows, step, settings);

/** The places of the curve of every group, as rows. */
function curves(rows: readonly Row[], by: string, curve: (own: readonly Row[]) => [w: number, v: number][]): Row[] {
  return [...groupsOf(rows, by)].flatMap(([key, own]) =>
    curve(own).map(([w, v], at) => ({ values: { [by]: key, w, v }, id: `${key} ${at}`, of: {} })),
  );
}

/** A table: the root, or made from another by steps. */
export interface Made {
  name: string;
  from?: string;
  steps: readonly Step[];
}

/** What is selected: by whom over which table, and which of its rows that holds. */
export interface Selected {
  table: string;
  holds: (values: Values) => boolean;
}

/** A report as it stands: the rows of its root, the look-up table beside it, its tables, and what is set. */
export interface World {
  root: readonly Row[];
  /** Rows of the table that the root stacks; rows of the root say in `of.e` which they are. */
  stacked: readonly Row[];
  /** Rows of the look-up table; rows of the root say in `of.u` which they have found. */
  looked: readonly Row[];
  /** Rows of the table that the look-up table has looked up in turn; rows say in `of.w` which they have found. */
  far: readonly Row[];
  tables: ReadonlyMap<string, Made>;
  settings: Settings;
}

/** The steps from the root down to a table, each with the table that it belongs to. */
function pathTo(tables: World["tables"], name: string): { table: string; step: Step }[] {
  const made = tables.get(name) as Made;
  const above = made.from === undefined ? [] : pathTo(tables, made.from);
  return [...above, ...made.steps.map((step) => ({ table: name, step }))];
}

const lineOf = (tables: World["tables"], name: string): string[] => {
  const { from } = tables.get(name) as Made;
  return from === undefined ? [name] : [...lineOf(tables, from), name];
};

/** Makes a table, leaving out rows where somebody asks for it: just above a step, or at the end. */
function make({ root, tables, settings }: World, name: string, leave: (at: number, rows: Row[]) => Row[]): Row[] {
  const path = pathTo(tables, name);
  const done = (table: string, row: Row): Row => ({
    ...row,
    of: { ...row.of, [table]: new Set([row.id]) },
    was: { ...row.was, [table]: row.values },
  });
  let rows = [...root];
  const line = lineOf(tables, name);
  let at = 0;
  for (const table of line) {
    for (; path[at]?.table === table; at++)
      rows = runStep(leave(at, rows), (path[at] as { step: Step }).step, settings);
    rows = rows.map((row) => done(table, row));
  }
  return leave(path.length, rows);
}

/** The rows of a table with no selection on. */
export function allRows(world: World, name: string): Row[] {
  return isBeside(name) ? [...besideOf(world, name)] : make(world, name, (_, rows) => rows);
}

/** Tables beside the root: what its rows looked up, what those looked up, and what it stacks. */
type Beside = "u" | "w" | "e";
const isBeside = (name: string): name is Beside => name === "u" || name === "w" || name === "e";
const besideOf = ({ looked, far, stacked }: World, name: Beside) => ({ u: looked, w: far, e: stacked })[name];

/**
 * The rows of a table that pass some selections. Each enters where it can be told lowest: at the end, or
 * right above the first merging step between the nearest table that both are made from and this one.
 */
export function rowsLeft(world: World, name: string, selections: readonly Selected[]): Row[] {
  const { tables } = world;
  const picked = ({ table, holds }: Selected) => allRows(world, table).filter(({ values }) => holds(values));
  /** Ids of rows of a table that went into the picked rows, or that found one of them. */
  const idsIn = (selection: Selected, shared: string): ReadonlySet<string> => {
    const { table } = selection;
    if (!isBeside(table)) return together(picked(selection))[shared] ?? new Set();
    const found = new Set(picked(selection).map(({ id }) => id));
    // A pick in a part of a stack says nothing of rows that come from elsewhere.
    const isIn = (own: ReadonlySet<string> | undefined) =>
      own?.size ? [...own].some((id) => found.has(id)) : table === "e";
    return new Set(allRows(world, shared).flatMap(({ id, of }) => (isIn(of[table]) ? [id] : [])));
  };
  /** Rows of a table beside the root that went into what is picked, or are picked themselves. */
  const beside = (own: Beside) =>
    besideOf(world, own).filter((row) =>
      selections.every((one) => {
        if (one.table === own) return one.holds(row.values);
        // What was looked up knows of what it looked up itself, and goes with what it found.
        if (own === "u" && one.table === "w") return picked(one).some(({ id }) => row.of.w?.has(id));
        if (own === "w" && one.table === "u") return together(picked(one)).w?.has(row.id);
        return behind(one)[own]?.has(row.id);
      }),
    );
  /** What the rows of the root that a selection comes to were made of. */
  const behind = (one: Selected): Row["of"] =>
    isBeside(one.table) ? together(rowsLeft(world, "t", [one])) : together(picked(one));
  if (isBeside(name)) return beside(name);
  const line = lineOf(tables, name);
  const path = pathTo(tables, name);
  const entries = selections.map((selection) => {
    const { table, holds } = selection;
    // Of its own table a row is picked as it is with nothing selected, and one that is not there then as it is now.
    const base = new Map(isBeside(table) ? [] : allRows(world, table).map((row) => [row.id, row]));
    const isHeld = ({ id, values }: { id: string; values: Values }) => holds(base.get(id)?.values ?? values);
    if (table === name) return { at: path.length, passes: isHeld };
    const source = isBeside(table) ? ["t"] : lineOf(tables, table);
    const shared = [...line].reverse().find((one) => source.includes(one)) as string;
    const ids = idsIn(selection, shared);
    const begin = path.findLastIndex((one) => lineOf(tables, shared).includes(one.table)) + 1;
    const merge = path.findIndex(({ step }, at) => at >= begin && isMerging(step));
    return {
      at: merge < 0 ? path.length : merge,
      passes: ({ of, was }: Row) =>
        [...(of[shared] ?? [])].some((id) =>
          shared === table ? isHeld({ id, values: was?.[shared] ?? {} }) : ids.has(id),
        ),
    };
  });
  return make(world, name, (at, rows) =>
    entries.filter((entry) => entry.at === at).reduce((left, { passes }) => left.filter(passes), rows),
  );
}
