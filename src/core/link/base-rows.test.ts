import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { LayerInput } from "../chart/inputs";
import { Model } from "../model/model";
import { plainValue } from "../query/categories";
import type { Table } from "../table/table";
import { compileText } from "../testing/compile-text";

const ROWS = [
  { shop: "a", kind: "x", n: 9 },
  { shop: "b", kind: "x", n: 8 },
  { shop: "c", kind: "x", n: 1 },
  { shop: "a", kind: "y", n: 1 },
  { shop: "b", kind: "y", n: 1 },
  { shop: "c", kind: "y", n: 5 },
];

function modelOf(rows: readonly (typeof ROWS)[number][], steps: string): Model {
  const compiled = compileText(`still: 1
report: T
tables:
  t:
    rows: |
      shop,kind,n
${rows.map(({ shop, kind, n }) => `      ${shop},${kind},${n}`).join("\n")}
  shops:
    from: t
    steps: ${steps}
charts:
  kinds: {from: t, draw: bars, y: kind, x: sum(n)}
  totals: {from: shops, draw: points, x: n, y: shop}
  rows_of_t: {from: t, draw: table}
links:
  - click on kinds -> filter totals
  - click on totals -> filter rows_of_t
`);
  expect(compiled.findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
  return new Model(compiled.plan, compiled.tables);
}

const tableBehind = (model: Model, piece: string): Table =>
  (model.plainAnswer(piece) as NonNullable<ReturnType<Model["plainAnswer"]>>).answer.prepared.table;

function texts(table: Table, name: string): unknown[] {
  const column = table.columns.get(name);
  return column ? Array.from({ length: table.rowCount }, (_, row) => plainValue(column, row)) : [];
}

const GROUPED = "[{group: {by: [shop], get: {n: sum(n)}}}]";

describe("rows of a table that was run again", () => {
  test("are those that the same rows above were merged into", () => {
    const model = modelOf(ROWS, GROUPED);
    model.engine.select("kinds", { keys: [{ kind: "y" }] });
    expect(model.engine.baseRows(model.engine.tableOf("shops"))).toBeUndefined();
    const table = tableBehind(model, "totals");
    expect(texts(table, "n")).toEqual([1, 1, 5]);
    expect([...(model.engine.baseRows(table) as Int32Array)]).toEqual([0, 1, 2]);
  });

  test("are the same rows in whatever order and number they stand", () => {
    const sorted = "[{group: {by: [shop], get: {n: sum(n)}}}, {sort: -n}, {add: {twice: n * 2}}, {keep: n > 1}]";
    const shop = fc.constantFrom("a", "b", "c", "d");
    const row = fc.record({ shop, kind: fc.constantFrom("x", "y"), n: fc.integer({ min: 1, max: 5 }) });
    fc.assert(
      fc.property(fc.array(row, { minLength: 1, maxLength: 20 }), fc.constantFrom("x", "y"), (rows, kind) => {
        const model = modelOf([...rows, ...ROWS], sorted);
        const base = texts(model.engine.tableOf("shops"), "shop");
        model.engine.select("kinds", { keys: [{ kind }] });
        const table = tableBehind(model, "totals");
        const found = model.engine.baseRows(table) as Int32Array;
        expect([...found].map((at) => base[at])).toEqual(texts(table, "shop"));
        expect(new Set(found).size).toBe(table.rowCount);
      }),
      { numRuns: 60 },
    );
  });

  test("have none where a step after the merging one leaves others", () => {
    const model = modelOf(ROWS, "[{group: {by: [shop], get: {n: sum(n)}}}, {sort: -n}, {first: 2}]");
    model.engine.select("kinds", { keys: [{ kind: "y" }] });
    const table = tableBehind(model, "totals");
    expect(texts(table, "shop")).toEqual(["c", "a"]);
    expect([...(model.engine.baseRows(table) as Int32Array)]).toEqual([-1, 0]);
  });

  test("picked there, stand for the rows above that they stand for everywhere", () => {
    const model = modelOf(ROWS.slice(0, 2).concat(ROWS.slice(4)), GROUPED);
    model.engine.select("kinds", { keys: [{ kind: "y" }] });
    const table = tableBehind(model, "totals");
    const place = texts(table, "shop").indexOf("c");
    const picked = (model.engine.baseRows(table) as Int32Array)[place] as number;
    expect(place).not.toBe(picked);
    model.engine.select("totals", { rows: [picked] });
    const { answer } = model.plainAnswer("rows_of_t") as NonNullable<ReturnType<Model["plainAnswer"]>>;
    const shops = texts(answer.prepared.table, "shop").filter((_, row) => answer.counts[row]);
    expect(shops).toEqual(["c"]);
    const layer = model.chartInput("totals", 400, 300, new Set())?.layers[0] as LayerInput;
    expect([...(layer.picked?.(layer.current, Int32Array.from([0, 1])) ?? [])]).toEqual([0, 1]);
  });
});
