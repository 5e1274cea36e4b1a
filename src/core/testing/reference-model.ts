/**
 * A plain, slow interpreter of small reports for tests: rows as objects, steps one row at a time, and
 * selections carried along by the rows that each row was made of. It shares nothing with the engine.
 */

export type Value = number | string | null;
export type Values = Readonly<Record<string, Value>>;

/** A row, and the rows of the root table that it was made of. */
export interface Row {
  values: Values;
  from: ReadonlySet<number>;
}

/** One step, and what of the sheet's text says it. */
export type Step =
  | { do: "keep"; column: string; above: number }
  | { do: "double"; column: string; name: string }
  | { do: "group"; by: string; column: string }
  | { do: "unique"; by: string }
  | { do: "top"; column: string; rows: number }
  | { do: "running"; column: string; name: string };

const isMerging = ({ do: what }: Step): boolean => what === "group" || what === "unique";

/** The step as lines of a sheet. */
export function writeStep(step: Step): string[] {
  if (step.do === "top") return [`sort: ["-${step.column}"]`, `first: ${step.rows}`];
  return [oneLine(step)];
}

function oneLine(step: Exclude<Step, { do: "top" }>): string {
  switch (step.do) {
    case "keep":
      return `keep: "${step.column} > ${step.above}"`;
    case "double":
      return `add: {${step.name}: "${step.column} * 2 - 1"}`;
    case "running":
      return `add: {${step.name}: "running_total(${step.column})"}`;
    case "group":
      return `group: {by: ${step.by}, get: {v: "sum(${step.column})", n: count(), least: "min(${step.column})", mid: "median(${step.column})", kinds: "distinct(k)"}}`;
    case "unique":
      return `unique: [${step.by}]`;
  }
}

const numbers = (rows: readonly Row[], column: string): number[] =>
  rows.map(({ values }) => values[column]).filter((value): value is number => typeof value === "number");

/** All values are hundredths, which add up exactly as whole numbers. */
const sum = (values: readonly number[]) => values.reduce((total, value) => total + Math.round(value * 100), 0) / 100;

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
};

const together = (rows: readonly Row[]): ReadonlySet<number> => new Set(rows.flatMap(({ from }) => [...from]));

/** Rows by the value of a column, in the order in which the values come. */
export function groupsOf(rows: readonly Row[], by: string): Map<Value, Row[]> {
  const groups = new Map<Value, Row[]>();
  for (const row of rows) {
    const key = row.values[by] ?? null;
    groups.set(key, [...(groups.get(key) ?? []), row]);
  }
  return groups;
}

function runStep(rows: readonly Row[], step: Step): Row[] {
  switch (step.do) {
    case "keep":
      return rows.filter(({ values }) => {
        const value = values[step.column];
        return typeof value === "number" && value > step.above;
      });
    case "double":
      return rows.map(({ values, from }) => {
        const value = values[step.column];
        return { values: { ...values, [step.name]: typeof value === "number" ? value * 2 - 1 : null }, from };
      });
    case "running": {
      let total = 0;
      return rows.map(({ values, from }) => {
        const value = values[step.column];
        if (typeof value === "number") total = sum([total, value]);
        return { values: { ...values, [step.name]: total }, from };
      });
    }
    case "group":
      return [...groupsOf(rows, step.by)].map(([key, own]) => {
        const known = numbers(own, step.column);
        const kinds = new Set(own.map(({ values }) => values.k ?? null).filter((kind) => kind !== null));
        return {
          values: {
            [step.by]: key,
            v: sum(known),
            n: own.length,
            least: known.length ? Math.min(...known) : null,
            mid: median(known),
            kinds: kinds.size,
          },
          from: together(own),
        };
      });
    case "unique":
      return [...groupsOf(rows, step.by).values()].map((own) => ({
        values: (own[0] as Row).values,
        from: together(own),
      }));
    case "top":
      return [...rows]
        .sort((a, b) => {
          const [x, y] = [a.values[step.column] ?? null, b.values[step.column] ?? null];
          if (x === null || y === null) return Number(x === null) - Number(y === null);
          return Number(y) - Number(x);
        })
        .slice(0, step.rows);
  }
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

/** The steps from the root down to a table, each with the table that it belongs to. */
function pathTo(tables: ReadonlyMap<string, Made>, name: string): { table: string; step: Step }[] {
  const made = tables.get(name) as Made;
  const above = made.from === undefined ? [] : pathTo(tables, made.from);
  return [...above, ...made.steps.map((step) => ({ table: name, step }))];
}

const lineOf = (tables: ReadonlyMap<string, Made>, name: string): string[] => {
  const { from } = tables.get(name) as Made;
  return from === undefined ? [name] : [...lineOf(tables, from), name];
};

/** The rows of a table with no selection on. */
export function allRows(root: readonly Row[], tables: ReadonlyMap<string, Made>, name: string): Row[] {
  return pathTo(tables, name).reduce<Row[]>((rows, { step }) => runStep(rows, step), [...root]);
}

/**
 * The rows of a table that pass some selections. Each enters where it can be told lowest: at the end, or
 * right above the first merging step between the nearest table that both are made from and this one.
 */
export function rowsLeft(
  root: readonly Row[],
  tables: ReadonlyMap<string, Made>,
  name: string,
  selections: readonly Selected[],
): Row[] {
  const line = lineOf(tables, name);
  const path = pathTo(tables, name);
  const entries = selections.map(({ table, holds }) => {
    const source = lineOf(tables, table);
    const shared = [...line].reverse().find((one) => source.includes(one)) as string;
    const picked = together(allRows(root, tables, table).filter(({ values }) => holds(values)));
    const begin = path.findLastIndex((one) => lineOf(tables, shared).includes(one.table)) + 1;
    const merge = path.findIndex(({ step }, at) => at >= begin && isMerging(step));
    // Of its own table a selection holds a row as it is with nothing selected, and one that is not there then as
    // it is now; of any other table, the rows that both are made of.
    const base = table === name ? allRows(root, tables, name) : [];
    const passes = ({ from, values }: Row) => {
      if (table !== name) return [...from].some((row) => picked.has(row));
      const own = base.filter((row) => [...row.from].some((one) => from.has(one)));
      return own.length ? own.some((row) => holds(row.values)) : holds(values);
    };
    return { at: merge < 0 ? path.length : merge, passes };
  });
  let rows = [...root];
  for (let at = 0; at <= path.length; at++) {
    for (const entry of entries) if (entry.at === at) rows = rows.filter(entry.passes);
    const next = path[at];
    if (next) rows = runStep(rows, next.step);
  }
  return rows;
}
