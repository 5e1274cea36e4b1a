import { describe, expect, test } from "vitest";
import { buildDashboard } from "../dashboard/build";
import { CompileCache } from "./cache";
import { compile } from "./compile";

const CSV = new TextEncoder().encode("k,v\na,1\nb,2\na,3\n");
const SHEET = `still: 1
report: R
tables:
  t:
    read: a.csv
    columns: {k: {order: [b, a]}}
    steps:
      - keep: v > $least
      - sort: k
controls: {least: {set: 0, range: [0, 9]}}
charts:
  a: {from: t, draw: table, columns: [k, v]}
`;

const compiled = (text: string, cache: CompileCache) => compile({ text, fileName: "x", readFile: () => CSV, cache });

describe("compiling again while an author writes", () => {
  test("gives the same file as compiling afresh", () => {
    const cache = new CompileCache();
    const build = (text: string, own?: CompileCache) =>
      buildDashboard(
        { text, fileName: "x", readFile: () => CSV, ...(own ? { cache: own } : {}) },
        { viewer: () => "0" },
      ).html;
    const texts = [
      SHEET,
      SHEET.replace("report: R", "report: S"),
      SHEET.replace("v > $least", "v > $least + 1"),
      SHEET.replace("[b, a]", "[a, b]"),
      SHEET.replace("set: 0", "set: 2"),
      SHEET,
    ];
    for (const text of texts) expect(build(text, cache) === build(text)).toBe(true);
  });
  test("does not read or run again what stayed as it was", () => {
    const cache = new CompileCache();
    const column = (text: string) => compiled(text, cache).tables.get("t/source")?.columns.get("v");
    expect(column(SHEET)).toBe(column(SHEET.replace("columns: [k, v]", "columns: [v, k]")));
    expect(column(SHEET)).not.toBe(compiled(SHEET, new CompileCache()).tables.get("t/source")?.columns.get("v"));
  });
  test("runs steps again when a setting that they read starts elsewhere", () => {
    const cache = new CompileCache();
    const left = (text: string) => compiled(text, cache).accounts[0]?.rowCount;
    expect([left(SHEET), left(SHEET.replace("set: 0", "set: 1")), left(SHEET)]).toEqual([3, 2, 3]);
  });
  test("sorts again when the order of values changes", () => {
    const cache = new CompileCache();
    const first = (text: string) => compiled(text, cache).plan.tables.map(({ orders }) => orders.k?.[0]);
    expect(first(SHEET)).toEqual(["b", "b"]);
    expect(first(SHEET.replace("[b, a]", "[a, b]"))).toEqual(["a", "a"]);
  });
});
