import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { Origin, Step } from "../steps/step";
import { textColumn } from "../table/column";
import { emptyTable, makeTable } from "../table/table";
import { makeTableBySteps, passDown, passUp } from "./lineage";
import { codeOfValue, FormulaColumns, inclusiveEnd, selectionPass } from "./predicate";
import type { SelectionPlan } from "./selection";

const column = (name: string) => ({ type: "column", name }) as const;

/** A table of numbers `v` with keys `k`, and steps over it. */
const tables = fc.array(fc.record({ v: fc.integer({ min: 0, max: 9 }), k: fc.constantFrom("a", "b", "c") }), {
  minLength: 1,
  maxLength: 25,
});
const steps: Step[] = [
  {
    do: "keep",
    test: { type: "binary", operator: ">", left: column("v"), right: { type: "number", value: 2 } },
    within: [],
    order: [],
  },
  { do: "sort", keys: [{ by: column("v"), descending: true }] },
  { do: "add", columns: [{ name: "w", formula: column("v") }], within: [], order: [] },
  { do: "first", rows: { type: "number", value: 12 }, within: [] },
];

function tableOf(rows: { v: number; k: string }[]) {
  return makeTable(rows.length, [
    ["id", { kind: "number", values: Float64Array.from(rows.keys()) }],
    ["v", { kind: "number", values: Float64Array.from(rows, ({ v }) => v) }],
    [
      "k",
      textColumn(
        rows.map(({ k }) => k),
        rows.length,
      ),
    ],
  ]);
}

describe("provenance", () => {
  test("carries a choice down and up through steps that keep rows, by the very rows", () => {
    fc.assert(
      fc.property(tables, fc.func(fc.boolean()), (rows, choose) => {
        const from = tableOf(rows);
        const { table, origins } = makeTableBySteps(from, steps, { setting: () => null, table: () => emptyTable });
        const ids = table.columns.get("id");
        if (!ids || ids.kind === "text") throw new Error("no ids");
        const chosen = Uint8Array.from(rows, (_, row) => (choose(row) ? 1 : 0));
        const below = passDown(chosen, origins);
        expect([...below]).toEqual([...ids.values].map((id) => chosen[id]));
        const above = passUp(below, origins, rows.length);
        expect([...above]).toEqual(rows.map((_, row) => (chosen[row] && ids.values.includes(row) ? 1 : 0)));
      }),
    );
  });
  test("a merged row stands for all the rows merged into it", () => {
    fc.assert(
      fc.property(tables, fc.constantFrom("a", "b", "c"), (rows, wanted) => {
        const group: Step = { do: "group", by: [{ name: "k", formula: column("k") }], get: [] };
        const { table, origins } = makeTableBySteps(tableOf(rows), [group], {
          setting: () => null,
          table: () => emptyTable,
        });
        const keys = table.columns.get("k");
        if (keys?.kind !== "text") throw new Error("no keys");
        const pass = Uint8Array.from(keys.codes, (code) => (keys.dictionary[code] === wanted ? 1 : 0));
        expect([...passUp(pass, origins, rows.length)]).toEqual(rows.map(({ k }) => (k === wanted ? 1 : 0)));
      }),
    );
  });
  test("rows that fail are taken out just above the first merging step", () => {
    const rows = [
      { v: 3, k: "a" },
      { v: 9, k: "a" },
      { v: 4, k: "b" },
      { v: 1, k: "c" },
    ];
    const merging: Step[] = [
      ...steps.slice(0, 1),
      {
        do: "group",
        by: [{ name: "k", formula: column("k") }],
        get: [{ name: "total", formula: { type: "call", name: "sum", arguments: [column("v")] } }],
      },
    ];
    const { table } = makeTableBySteps(tableOf(rows), merging, { setting: () => null, table: () => emptyTable }, [
      { pass: Uint8Array.of(1, 0, 1, 1) },
      { pass: Uint8Array.of(1, 1, 1, 1) },
    ]);
    const total = table.columns.get("total");
    expect(total?.kind === "text" ? [] : [...(total?.values ?? [])]).toEqual([3, 4]);
  });
  test("unchanged rows need nothing", () => {
    const same: Origin[] = [{ type: "same" }, { type: "same" }];
    const pass = Uint8Array.of(1, 0);
    expect(passDown(pass, same)).toBe(pass);
    expect(passUp(pass, same, 2)).toBe(pass);
  });
});

describe("predicates", () => {
  const table = makeTable(4, [
    ["t", textColumn(["a", "b", null, "a"], 4)],
    ["n", { kind: "number", values: Float64Array.of(1, 2, 3, Number.NaN) }],
    ["d", { kind: "datetime", values: Float64Array.of(0, 3600, 86400, 90000) }],
    ["f", { kind: "boolean", values: Float64Array.of(1, 0, 1, Number.NaN) }],
  ]);
  const plan = (more: Partial<SelectionPlan>): SelectionPlan => ({
    name: "s",
    source: "s",
    gesture: "click",
    kept: true,
    table: "t",
    axes: { x: column("n") },
    keys: { t: column("t") },
    by: [],
    effects: [],
    words: {},
    ...more,
  });
  const pass = (state: Parameters<typeof selectionPass>[1], more: Partial<SelectionPlan> = {}) => [
    ...selectionPass(plan(more), state, new FormulaColumns(table, () => null)),
  ];
  test("ranges hold their lower end and not their upper; missing fails", () => {
    expect(pass({ x: [1, 3] })).toEqual([1, 1, 0, 0]);
    expect(pass({ x: [1, 3] }, { inclusive: true })).toEqual([1, 1, 1, 0]);
  });
  test("a day that ends a range is held whole", () => {
    expect(pass({ x: [0, 0] }, { axes: { x: column("d") }, inclusive: true })).toEqual([1, 1, 0, 0]);
    expect(inclusiveEnd("datetime", 3600)).toBeGreaterThan(3600);
    expect(inclusiveEnd("datetime", 3600)).toBeLessThan(3601);
    expect(inclusiveEnd("date", 0)).toBe(86400);
  });
  test("keys are alternatives, their columns must all hold, missing is a key", () => {
    expect(pass({ keys: [{ t: "a" }] })).toEqual([1, 0, 0, 1]);
    expect(pass({ keys: [{ t: "a" }, { t: null }] })).toEqual([1, 0, 1, 1]);
    expect(pass({ keys: [{ t: "a", n: 1 }] })).toEqual([1, 0, 0, 0]);
    expect(pass({ keys: [{ n: null }] })).toEqual([0, 0, 0, 1]);
    expect(pass({ keys: [{ f: true }] })).toEqual([1, 0, 1, 0]);
    expect(pass({ keys: [{ n: [2, 4] }] })).toEqual([0, 1, 1, 0]);
    expect(pass({ keys: [] })).toEqual([0, 0, 0, 0]);
    expect(pass({ keys: [{ t: "nobody" }] })).toEqual([0, 0, 0, 0]);
  });
  test("rows by number, and all parts together", () => {
    expect(pass({ rows: [0, 3, 99] })).toEqual([1, 0, 0, 1]);
    expect(pass({ x: [1, 2], keys: [{ t: "a" }], rows: [0, 1] })).toEqual([1, 0, 0, 0]);
  });
  test("by widens to the rows with the same values", () => {
    expect(pass({ x: [1, 2] }, { by: ["t"] })).toEqual([1, 0, 0, 1]);
  });
  test("values are known in the column's own kind", () => {
    const of = (name: string) => table.columns.get(name) as NonNullable<ReturnType<typeof table.columns.get>>;
    expect(codeOfValue(of("t"), "b")).toBe(1);
    expect(codeOfValue(of("t"), "z")).toBeUndefined();
    expect(codeOfValue(of("n"), "2")).toBe(2);
    expect(codeOfValue(of("n"), "two")).toBeUndefined();
    expect(codeOfValue(of("d"), "1970-01-02")).toBe(86400);
    expect(codeOfValue(of("d"), "1970-01-01T01:00:00")).toBe(3600);
    expect(codeOfValue(of("d"), "someday")).toBeUndefined();
    expect(codeOfValue(of("f"), "true")).toBe(1);
    expect(codeOfValue(of("n"), null)).toBeNaN();
  });
});
