import { describe, expect, test } from "vitest";
import { Model } from "../model/model";
import { compileText } from "../testing/compile-text";
import { drawChart } from "./draw";
import { legendRoom } from "./legend";
import { chartRows } from "./rows";

const SHEET = (chart: string) => `still: 1
report: R
tables:
  t:
    rows: |
      k,c,n
      a,x,1
      b,x,5
      c,y,9
      d,y,5
      e,x,2
      ,x,3
controls:
  many: {set: 2, as: stepper}
charts:
  one: ${chart}
  by: {from: t, draw: bars, x: c, y: count()}
  two: {from: t, draw: figure, value: sum(n)}
links:
  - click on by -> filter one
  - click on one -> filter two
`;

function modelOf(chart: string) {
  const compiled = compileText(SHEET(chart));
  const errors = compiled.findings.filter(({ severity }) => severity === "error");
  expect(errors.map(({ message }) => message)).toEqual([]);
  return new Model(compiled.plan, compiled.tables);
}

function rows(model: Model) {
  const input = model.chartInput("one", 400, 200, new Set());
  return input ? chartRows(input, drawChart(input)) : [];
}

const problem = (chart: string) =>
  compileText(SHEET(chart)).findings.find(({ severity }) => severity === "error")?.message;

describe("the first categories", () => {
  test("are those of the sort among the rows left, ties by the order of categories", () => {
    const model = modelOf("{from: t, draw: bars, y: k, x: sum(n), sort: {y: -sum(n)}, top: {y: 3}}");
    expect(rows(model)).toEqual([
      { x: 9, y: "c" },
      { x: 5, y: "b" },
      { x: 5, y: "d" },
    ]);
    model.engine.select("by", { keys: [{ c: "x" }] });
    expect(rows(model).map(({ y }) => y)).toEqual(["b", "e", null]);
  });
  test("leave all others in one last place, aggregated as they are", () => {
    const model = modelOf("{from: t, draw: bars, y: k, x: mean(n), sort: {y: -mean(n)}, top: {y: 2, rest: Other}}");
    expect(rows(model)).toEqual([
      { x: 9, y: "c" },
      { x: 5, y: "b" },
      { x: (1 + 5 + 2 + 3) / 4, y: "Other" },
    ]);
  });
  test("follow a setting, and without a sort the order of categories", () => {
    const model = modelOf("{from: t, draw: bars, x: k, y: sum(n), top: {x: $many}}");
    expect(rows(model).map(({ x }) => x)).toEqual(["a", "b"]);
    model.engine.setSetting("many", 1);
    expect(rows(model).map(({ x }) => x)).toEqual(["a"]);
  });
  test("are said where there are none", () => {
    expect(problem("{from: t, draw: bars, x: k, y: sum(n), top: {y: 2}}")).toContain("y holds a measure");
    expect(problem("{from: t, draw: bars, x: n, y: count(), top: {x: 2, rest: Other}}")).toContain(
      "cannot stand beside n",
    );
    expect(problem("{from: t, draw: bars, x: k, y: sum(n), top: {rest: Other}}")).toContain("how many come first");
  });
});

describe("what waits for a selection", () => {
  test("draws nothing until there is one, and says so", () => {
    const model = modelOf("{from: t, draw: bars, x: k, y: sum(n), wait_for: by, empty: Pick a bar}");
    const input = () => model.chartInput("one", 400, 200, new Set());
    const first = input();
    expect(first && drawChart(first).scene.message).toBe("Pick a bar");
    expect(rows(model)).toEqual([]);
    model.engine.select("by", { keys: [{ c: "y" }] });
    expect(rows(model)).toHaveLength(2);
    expect(problem("{from: t, draw: bars, x: k, y: sum(n), wait_for: nobody}")).toContain('"nobody" is no selection');
  });
});

describe("room around a plot", () => {
  test("is no less than the sheet says", () => {
    const model = modelOf("{from: t, draw: bars, x: k, y: sum(n), margin: {left: 90, right: 50, top: 40, bottom: 60}}");
    const input = model.chartInput("one", 400, 200, new Set());
    expect(input && drawChart(input).panels[0]?.plot).toEqual({ x: 90, y: 40, width: 260, height: 100 });
  });
  test("is taken by a legend where it stands", () => {
    const plan = (at: string) => modelOf(`{from: t, draw: bars, x: k, y: sum(n), color: c, legend: {at: ${at}}}`);
    const roomOf = (at: string) => {
      const model = plan(at);
      const piece = model.piece("one")?.plan;
      return piece?.type === "chart" ? legendRoom(piece, model.legendKeys("one"), 400) : undefined;
    };
    expect(roomOf("top")?.height).toBeGreaterThan(20);
    expect(roomOf("right")).toEqual({ width: 76, height: 0 });
    expect(roomOf("in_top_left")).toEqual({ width: 0, height: 0 });
    expect(roomOf("none")).toEqual({ width: 0, height: 0 });
  });
});
