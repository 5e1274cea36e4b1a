import { describe, expect, test } from "vitest";
import { Model } from "../../core/model/model";
import { compileFiles, compileText, sheetOver } from "../../core/testing/compile-text";
import type { App } from "../app";
import { Reader } from "../reader";
import { type ShownRows, shownRows } from "./columns";
import { workbook } from "./xlsx";

const CSV = `k,v,d,w
a,1.5,2024-01-10,0:10
b,,2024-01-20,1:00:00
<c>&,-3,,`;

/**
 * A data table as it is shown, without a page: what it needs of the running dashboard is its model and what the
 * reader has set.
 */
function shown(chart: string, table: { sort?: string; search?: string } = {}): ShownRows {
  const compiled = compileText(sheetOver(CSV, `charts:\n  one: ${chart}\n`));
  expect(compiled.findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
  const model = new Model(compiled.plan, compiled.tables);
  const reader = new Reader();
  reader.arrange("one", table);
  const app = { model, reader } as unknown as App;
  const plan = model.piece("one")?.plan;
  if (plan?.type !== "table") throw new Error("no data table");
  return shownRows(app, "one", plan, ({ column }, id) => (column.kind === "text" ? "" : String(column.values[id])));
}

describe("rows of a data table", () => {
  test("are searched in every column and sorted both ways", () => {
    expect([...shown("{from: calls, draw: table}").ids]).toEqual([0, 1, 2]);
    expect([...shown("{from: calls, draw: table}", { search: "B" }).ids]).toEqual([1]);
    expect([...shown("{from: calls, draw: table}", { search: "1.5" }).ids]).toEqual([0]);
    expect([...shown("{from: calls, draw: table}", { sort: "v" }).ids]).toEqual([2, 0, 1]);
    expect([...shown("{from: calls, draw: table}", { sort: "-v" }).ids]).toEqual([0, 2, 1]);
  });
  test("know the ends of columns whose cells are drawn by value", () => {
    const { columns } = shown("{from: calls, draw: table, cells: {v: {bar: true}}}");
    expect(columns.map(({ key, extent }) => [key, extent])).toEqual([
      ["k", undefined],
      ["v", [-3, 1.5]],
      ["d", undefined],
      ["w", undefined],
    ]);
  });
  test("say what cannot be drawn", () => {
    const problem = (cells: string) =>
      compileText(sheetOver(CSV, `charts:\n  one: {from: calls, draw: table, cells: ${cells}}\n`)).findings[0]?.message;
    expect(problem("{k: {bar: true}}")).toContain("k holds text");
    expect(problem("{vv: {bar: true}}")).toContain("did you mean v?");
  });
});

describe("a spreadsheet", () => {
  test("is read back as it was, kinds and markup too", async () => {
    const { columns, ids } = shown("{from: calls, draw: table}");
    const write = async () => new Uint8Array(await (await workbook("one", columns, ids)).arrayBuffer());
    const bytes = await write();
    expect(await write()).toEqual(bytes);
    const back = await compileFiles("still: 1\nreport: R\ntables:\n  t: {read: one.xlsx}\n", { "one.xlsx": bytes });
    const table = back.stages.get("t")?.tables[0];
    const column = (name: string) => table?.columns.get(name);
    expect([...(table?.columns.keys() ?? [])]).toEqual(["k", "v", "d", "w"]);
    const k = column("k");
    expect(k?.kind === "text" && [...k.codes].map((code) => k.dictionary[code])).toEqual(["a", "b", "<c>&"]);
    const v = column("v");
    expect(v?.kind === "number" && [...v.values]).toEqual([1.5, Number.NaN, -3]);
    expect(column("d")?.kind).toBe("date");
  });
});
