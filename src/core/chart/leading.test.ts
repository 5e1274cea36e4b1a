import { describe, expect, test } from "vitest";
import type { SelectionPlan } from "../link/selection";
import { accountOf } from "../look/accounting";
import { Model } from "../model/model";
import { compileText } from "../testing/compile-text";
import { drawChart } from "./draw";
import { chartRows } from "./rows";

/** A rule lies under points, and one under bars: what is drawn first is not what the charts are about. */
const SHEET = `still: 1
report: R
tables:
  t:
    rows: "k,a,b\\nu,1,3\\nv,2,5\\nw,4,9\\nu,2,3\\nv,3,5\\nw,4,7\\n"
charts:
  dots: {from: t, x: a, y: b, layers: [{draw: rules, y: 4}, {draw: points}]}
  bars: {from: t, y: k, sort: {y: -sum(b)}, top: {y: 2}, layers: [{draw: rules, x: 6}, {draw: bars, x: sum(b)}]}
  total: {from: t, draw: figure, value: sum(b)}
links:
  - brush xy on dots -> filter all
  - click on bars -> filter all
`;

describe("the layer that a chart is about, under which a rule was drawn first", () => {
  const compiled = compileText(SHEET);
  const model = new Model(compiled.plan, compiled.tables);
  const rowsOf = (name: string) => {
    const input = model.chartInput(name, 400, 200, new Set());
    return input ? chartRows(input, drawChart(input)).filter(({ layer }) => layer === 1) : [];
  };

  test("takes gestures and is sorted", () => {
    expect(compiled.findings.filter(({ severity }) => severity !== "advice")).toEqual([]);
    expect(compiled.plan.pieces.map(({ plan }) => plan.type === "chart" && plan.leading)).toEqual([1, 1, false]);
    expect(rowsOf("bars").map(({ x, y }) => [y, x])).toEqual([
      ["w", 16],
      ["v", 10],
    ]);
    model.engine.select("dots", { x: [0, 3], y: [0, 4] });
    expect(rowsOf("bars").map(({ x, y }) => [y, x])).toEqual([["u", 6]]);
    model.engine.select("dots", undefined);
    model.engine.select("bars", { keys: [{ k: "v" }] });
    expect(rowsOf("dots").map(({ x, y }) => [x, y])).toEqual([
      [2, 5],
      [3, 5],
    ]);
    model.engine.select("bars", undefined);
  });
  test("is the one whose rows are counted", () => {
    expect(accountOf(compiled, model, "dots").at(-1)).toMatchObject({ count: 6, what: "points drawn" });
  });
});

test("a range over periods is moved out to whole ones under a rule too", () => {
  const { plan, tables } = compileText(`still: 1
report: R
tables: {t: {rows: "d,n\\n2026-01-05,3\\n2026-02-07,5\\n2026-04-02,1\\n"}}
charts:
  c: {from: t, layers: [{draw: rules, y: 2}, {draw: bars, x: by_month(d), y: sum(n)}]}
  d: {from: t, draw: figure, value: sum(n)}
links: [brush x on c -> filter all]
`);
  const at = (text: string) => Date.parse(text) / 1000;
  const selection = plan.selections[0] as SelectionPlan;
  const range: [number, number] = [at("2026-01-20"), at("2026-02-03")];
  expect(new Model(plan, tables).wholePeriods(selection, { x: range }).x).toEqual([at("2026-01-01"), at("2026-03-01")]);
});

test("a chart is about its own table, whatever else is drawn first", () => {
  const { plan, findings } = compileText(`still: 1
report: R
tables:
  t: {rows: "m,n\\n1,3\\n2,5\\n"}
  goals: {rows: "month,goal\\n1,4\\n2,4\\n"}
charts:
  c: {from: t, layers: [{from: goals, draw: line, x: month, y: goal}, {draw: bars, x: m, y: sum(n)}]}
  d: {from: t, draw: figure, value: sum(n)}
links: [click on c -> filter all]
`);
  expect(findings.filter(({ severity }) => severity !== "advice")).toEqual([]);
  expect(plan.selections[0]).toMatchObject({ table: "t", effects: [{ effect: "filter", target: "d" }] });
});

test("segments that would run aslant are told with the place that they lack", () => {
  const chart = (layer: string) =>
    compileText(`still: 1
report: R
tables: {t: {rows: "k,a,b\\nu,1,3\\nv,2,5\\n"}}
charts:
  c: {from: t, y: k, layers: [${layer}, {draw: points, x: b}]}
`).findings.filter(({ code }) => code === "rules-aslant");
  const [told] = chart("{draw: rules, x: a, x_to: b}");
  expect(told?.message).toBe("rules from x to x_to without y run from one edge of the plot to the other, aslant");
  expect(told?.fix?.title).toBe("add y: k");
  expect(told?.fix?.edits.map(({ text }) => text)).toEqual([", y: k"]);
  expect(chart("{draw: rules, x: a, x_to: b, y: k}")).toEqual([]);
  expect(chart("{draw: bars, x: a, x_to: b}")).toEqual([]);
});
