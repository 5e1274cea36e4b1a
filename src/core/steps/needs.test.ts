import { describe, expect, test } from "vitest";
import { valueAt } from "../table/column";
import type { Table } from "../table/table";
import { compileText } from "../testing/compile-text";
import { neededOfOther } from "./join";
import { columnsAfter, narrowedTo, neededBefore, runStep, tablesOfStep } from "./run";
import type { StepContext } from "./step";

const ROWS =
  "a,b,g,t,w\n1,10,x,2025-01-03,red fox\n2,,y,2025-01-01,red\n,30,x,2025-01-02,\n4,40,y,,the fox\n4,40,y,,the fox";

/** Every kind of step, written as an author would. */
const STEPS = [
  "keep: a > 1 and known(t)",
  "keep: count() > 2\n  within: [g]",
  "keep: row() = 1\n  within: [g]\n  order: -b",
  "add: {p: a + b, q: p * 2, a: b}",
  'add: {p: "previous(b)"}\n  within: [g]\n  order: t',
  "only: [b, g]",
  "drop: [w]",
  "rename: {a: c, g: h}",
  "unique: [g]",
  "unique: all",
  'group: {by: [g, "by_month(t) as m"], get: {n: count(), s: sum(b)}}',
  "sort: [-b, g]",
  "first: 2\n  within: [g]",
  "last: 3",
  "sample: {rows: 3, seed: 4}",
  "unpivot: {columns: [a, b], name: n, value: v}",
  "pivot: {by: g, name: w, value: sum(a)}",
  "join: {table: o, on: g, get: [deep]}",
  "join: {table: o, on: g, get: {far: deep}, unmatched: drop}",
  "stack: same",
  "fill: {b: a * 2, w: none}",
  "fill_forward: [a, b]\n  within: [g]\n  order: t",
  "smooth: {x: a, y: b, by: g}",
  "density: {of: b, by: g}",
  "words: {of: w, skip: english}",
];

const context = (tables: ReadonlyMap<string, Table>): StepContext => ({
  setting: () => null,
  table: (name) => tables.get(name) as Table,
});
const choose = (table: Table, names: ReadonlySet<string>): Table => ({
  ...table,
  columns: new Map([...table.columns].filter(([name]) => names.has(name))),
});
const plain = (table: Table, name: string) =>
  Array.from({ length: table.rowCount }, (_, row) =>
    valueAt(table.columns.get(name) as Parameters<typeof valueAt>[0], row),
  );

describe("what a step says of itself holds: over the columns it needs it gives what it gives over all", () => {
  test.each(STEPS)("%s", (text) => {
    const block = ROWS.split("\n")
      .map((line) => `      ${line}`)
      .join("\n");
    const compiled = compileText(
      `still: 1\nreport: T\ntables:\n  t:\n    rows: |\n${block}\n    steps:\n      - ${text.split("\n").join("\n      ")}\n  o: {rows: [{g: x, deep: 5}, {g: z, deep: 7}]}\n${text.startsWith("stack") ? `  same:\n    rows: |\n${block}\n` : ""}`,
    );
    expect(compiled.findings.filter(({ severity }) => severity === "error")).toEqual([]);
    const [before, after] = compiled.stages.get("t")?.tables ?? [];
    const step = compiled.steps.get("t")?.[0];
    if (!step || !before || !after) throw new Error("no step");
    const others = new Map([...compiled.stages].map(([name, { tables }]) => [name, tables.at(-1) as Table]));
    expect([...columnsAfter(step, new Set(before.columns.keys()))].sort()).toEqual([...after.columns.keys()].sort());
    for (const other of tablesOfStep(step)) expect(others.has(other)).toBe(true);
    for (const wanted of after.columns.keys()) {
      const needed = neededBefore(step, new Set([wanted]));
      const available = new Set([...before.columns.keys()].filter((name) => needed.has(name)));
      // Of a table that is looked up too, nothing is there but what is needed.
      const looked = new Map(
        step.do === "join"
          ? [[step.table, choose(others.get(step.table) as Table, new Set(neededOfOther(step, new Set([wanted]))))]]
          : others,
      );
      const columnsOf = (name: string) => new Set(looked.get(name)?.columns.keys());
      const narrow = narrowedTo(step, available, columnsOf);
      const result = runStep(narrow, choose(before, available), context(looked)).table;
      expect(result.rowCount).toBe(after.rowCount);
      expect(plain(result, wanted), wanted).toEqual(plain(after, wanted));
    }
  });
});
