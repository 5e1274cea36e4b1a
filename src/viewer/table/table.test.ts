import { strFromU8, unzipSync } from "fflate";
import { describe, expect, test } from "vitest";
import { Model } from "../../core/model/model";
import { compileFiles, compileText, sheetOver } from "../../core/testing/compile-text";
import type { App } from "../app";
import { Reader } from "../reader";
import { cellFormat } from "./cell-formats";
import { type ShownColumn, type ShownRows, shownRows } from "./columns";
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
  test("draw cells by what controls leave, and not by what a gesture does", () => {
    const charts = `controls:
  k: {pick: k, from: calls, as: checkboxes}
charts:
  one: {from: calls, draw: table, columns: [k, v, w], cells: {v: {bar: true}}}
  two: {from: calls, draw: points, x: v, y: w}
links: [brush x on two -> filter one]
`;
    const compiled = compileText(sheetOver(CSV, charts));
    const model = new Model(compiled.plan, compiled.tables);
    const app = { model, reader: new Reader() } as unknown as App;
    const plan = model.piece("one")?.plan;
    if (plan?.type !== "table") throw new Error("no data table");
    const extent = () => shownRows(app, "one", plan, () => "").columns[1]?.extent;
    model.engine.select("two", { x: [1, 2] });
    expect(extent()).toEqual([-3, 1.5]);
    model.engine.select("k", { keys: [{ k: "a" }] });
    expect(extent()).toEqual([1.5, 1.5]);
    // Of nothing at all they are those of all rows.
    model.engine.select("k", { keys: [{ k: "nobody" }] });
    expect(extent()).toEqual([-3, 1.5]);
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
  test("writes its cells as the dashboard does, in columns wide enough", async () => {
    const { columns, ids } = shown("{from: calls, draw: table, columns: [v as n, v as m, d]}");
    const said = [",.1f", ".1%", "%b %Y"];
    const own = columns.map((column, at) => {
      const { format: _, ...channel } = column.channel;
      return { ...column, channel: { ...channel, ...(said[at] === undefined ? {} : { format: said[at] }) } };
    });
    expect(own.map(cellFormat)).toEqual(["#,##0.0", "0.0%", "mmm yyyy"]);
    const files = unzipSync(new Uint8Array(await (await workbook("one", own, ids)).arrayBuffer()));
    const text = (path: string) => strFromU8(files[path] as Uint8Array);
    const codes = [...text("xl/styles.xml").matchAll(/numFmtId="(\d+)" formatCode="([^"]*)"/g)].map(
      ([, , code]) => code,
    );
    expect(codes).toEqual(["#,##0.0", "0.0%", "mmm yyyy"]);
    const sheet = text("xl/worksheets/sheet1.xml");
    // 1.5 in the first two formats, and a day in its own.
    expect(sheet).toContain('<c s="2"><v>1.5</v></c><c s="3"><v>1.5</v></c><c s="4"><v>45301</v></c>');
    expect([...sheet.matchAll(/<col [^>]*width="(\d+)"/g)].map(([, width]) => Number(width))).toEqual([12, 12, 12]);
  });
  test.each([
    [",.0f", "#,##0"],
    ["d", "0"],
    [".2~f", "0.##"],
    ["+.1f", "+0.0;-0.0;0.0"],
    [".2e", "0.00E+00"],
    [".3~g", undefined],
    ["s", undefined],
  ])("a number in %s is %s", (format, code) => {
    const column = { channel: { format }, column: { kind: "number" } } as unknown as ShownColumn;
    expect(cellFormat(column)).toBe(code);
  });
  test("a date whose letters spreadsheets do not have is written as dates are there", () => {
    const of = (format: string) =>
      cellFormat({ channel: { format }, column: { kind: "date" } } as unknown as ShownColumn);
    expect(of("%-d %b %Y")).toBe("d mmm yyyy");
    expect(of("Week %U")).toBe("yyyy-mm-dd");
    expect(cellFormat({ channel: {}, column: { kind: "duration" } } as unknown as ShownColumn)).toBe("[h]:mm:ss");
  });
});
