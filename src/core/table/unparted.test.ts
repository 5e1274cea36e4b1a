import { expect, test } from "vitest";
import type { ChartPlan, DataTablePlan } from "../chart/plan";
import { aligned } from "../query/aligned";
import { writeAt } from "../query/write";
import { compileText, sheetOver } from "../testing/compile-text";

const CSV = "year,n,part\n1990,1990,1.5\n2020,20000,0.25\n,3,2";

test("a column of whole numbers that are all years has no thousands, and others have", () => {
  const { plan } = compileText(
    sheetOver(CSV, "charts: {t: {from: calls, draw: table}, c: {from: calls, draw: points, x: year, y: n}}\n"),
  );
  const [table, chart] = plan.pieces.map((piece) => piece.plan) as [DataTablePlan, ChartPlan];
  expect(Object.values(table.query.channels).map(({ format }) => format)).toEqual(["d", undefined, undefined]);
  expect([chart.axes.x?.columnFormat, chart.axes.y?.columnFormat]).toEqual(["d", undefined]);
  const { plan: summed } = compileText(
    sheetOver(CSV, "charts: {t: {from: calls, draw: table, columns: [sum(year), max(year)]}}\n"),
  );
  const formats = summed.pieces
    .flatMap((piece) => Object.values((piece.plan as DataTablePlan).query.channels))
    .map(({ format }) => format);
  expect(formats).toEqual([undefined, "d"]);
});

test("numbers that name things have no thousands, and what is counted of them has", () => {
  const csv = "order_no,paid,order_total\n20190001,1200,1000\n20190002,3100,2500\n20190003,4,7.5\n";
  const columns = "[order_no, paid, order_total, distinct(order_no)]";
  const { plan } = compileText(sheetOver(csv, `charts: {t: {from: calls, draw: table, columns: ${columns}}}\n`));
  const [table] = plan.pieces.map((piece) => piece.plan) as [DataTablePlan];
  expect(Object.values(table.query.channels).map(({ format }) => format)).toEqual([
    "d",
    undefined,
    undefined,
    undefined,
  ]);
});

test("numbers of a data table have as many decimals as one of them needs, unless a format is said", () => {
  const { plan, tables } = compileText(sheetOver(CSV, "charts: {t: {from: calls, draw: table}}\n"));
  const part = tables.get("calls")?.columns.get("part");
  const channel = plan.pieces.flatMap((piece) => Object.values((piece.plan as DataTablePlan).query.channels))[2];
  if (!part || !channel) throw new Error("no column");
  const texts = (format?: string) => {
    const own = aligned(format ? { ...channel, format } : channel, part);
    return [0, 1, 2].map((row) => writeAt(own, part, row));
  };
  expect(texts()).toEqual(["1.50", "0.25", "2.00"]);
  expect(texts(".1f")).toEqual(["1.5", "0.3", "2.0"]);
});
