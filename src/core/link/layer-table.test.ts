import { describe, expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import type { LayerInput } from "../chart/inputs";
import { chartRows } from "../chart/rows";
import { Model } from "../model/model";
import { LayerValues } from "../query/values";
import { compileText } from "../testing/compile-text";
import { modelOf } from "../testing/shown";
import { behindMark } from "./behind";
import { OPEN_HIGH, type SelectionPlan } from "./selection";

/** Rides as lines, and towns, grouped from them, as points over them. */
const SHEET = `still: 1
report: R
tables:
  rides:
    rows: |
      town,to,x1,y1,x2,y2,n
      a,b,1,1,2,2,5
      b,c,2,2,3,1,7
      a,c,1,1,3,1,9
      c,a,3,1,1,1,2
  towns:
    from: rides
    steps:
      - group: {by: [town, x1 as x, y1 as y], get: {n: sum(n)}}
charts:
  map:
    from: rides
    layers:
      - {draw: rules, x: x1, y: y1, x_to: x2, y_to: y2, name: lines}
      - {from: towns, draw: points, x: x, y: y, name: towns}
  list: {from: rides, draw: bars, y: to, x: sum(n)}
links:
  - click on map.towns -> filter all
  - click on map.lines by town as ways -> filter list
`;

const compiled = compileText(SHEET);
const model = new Model(compiled.plan, compiled.tables);
const selection = (name: string) => model.plan.selections.find((one) => one.name === name) as SelectionPlan;
const input = () => {
  const own = model.chartInput("map", 400, 200, new Set());
  if (!own) throw new Error("no chart");
  return own;
};
const valuesOf = (layer: number) => {
  const { all, current } = input().layers[layer] as ReturnType<typeof input>["layers"][number];
  return new LayerValues(current, all);
};
const list = () => {
  const own = model.chartInput("list", 400, 200, new Set());
  return own ? chartRows(own, drawChart(own)).map(({ x, y }) => [y, x]) : [];
};

test("a gesture on a layer with a table of its own picks that table's rows", () => {
  expect(compiled.findings.filter(({ severity }) => severity === "error")).toEqual([]);
  expect(selection("map")).toMatchObject({ table: "towns", by: ["town", "x", "y"] });
  const behind = behindMark(model.engine, selection("map"), valuesOf(1), 0);
  expect(behind).toEqual({ keys: [{ town: "a", x: 1, y: 1 }] });
  model.engine.select("map", behind as { keys: [] });
  expect(list()).toEqual([
    ["b", 5],
    ["c", 9],
  ]);
  // The lines are no towns: of them nothing is said.
  const { picked, current } = input().layers[0] as LayerInput;
  expect(picked?.(current, Int32Array.of(0, 1, 2, 3))).toEqual(Uint8Array.of(1, 1, 1, 1));
  model.engine.select("map", undefined);
});

test("marks of another table stand for none of the rows that a gesture picks, unless they have its columns", () => {
  expect(behindMark(model.engine, selection("map"), valuesOf(0), 2)).toBeUndefined();
  expect(behindMark(model.engine, selection("ways"), valuesOf(1), 1)).toEqual({ keys: [{ town: "b" }] });
  expect(behindMark(model.engine, selection("ways"), valuesOf(0), 3)).toEqual({ keys: [{ town: "c" }] });
});

const LIMITS = `still: 1
report: R
tables:
  t:
    rows: |
      k,m,v
      a,1,10
      b,1,20
      a,2,30
      b,2,50
  months:
    from: t
    steps:
      - group: {by: [m], get: {most: max(v)}}
  goals:
    rows: |
      m,goal
      1,15
      2,40
controls:
  k: {pick: k, from: t, as: checkboxes}
  goal: {pick: goal, from: goals, as: at_least}
charts:
  course:
    from: t
    x: m
    y: v
    layers:
      - {draw: points, name: values}
      - {from: months, draw: line, y: most, name: most}
      - {from: goals, draw: line, y: goal, name: goals}
      - {draw: rules, y: 25, name: limit}
  kinds: {from: t, draw: bars, x: k, y: count()}
links: [click on kinds -> highlight course]
`;

describe("layers with tables of their own", () => {
  const layered = modelOf(LIMITS);
  const course = () => {
    const own = layered.chartInput("course", 400, 200, new Set());
    if (!own) throw new Error("no chart");
    return { layers: own.layers, rows: chartRows(own, drawChart(own)) };
  };
  const heights = (layer: string) =>
    course()
      .rows.filter((row) => row.layer === layer)
      .map(({ y }) => y);

  test("follow what filters the rows that they are made of, and what filters their own", () => {
    expect([heights("values"), heights("most"), heights("goals")]).toEqual([
      [10, 20, 30, 50],
      [20, 50],
      [15, 40],
    ]);
    layered.engine.select("k", { keys: [{ k: "a" }] });
    expect([heights("values"), heights("most"), heights("goals")]).toEqual([
      [10, 30],
      [10, 30],
      [15, 40],
    ]);
    layered.engine.select("goal", { x: [20, OPEN_HIGH] });
    expect([heights("values"), heights("goals")]).toEqual([[10, 30], [40]]);
    for (const name of ["k", "goal"]) layered.engine.select(name, undefined);
  });
  test("are lit by what says something of them, and left as they are by all else", () => {
    layered.engine.select("kinds", { keys: [{ k: "a" }] });
    expect(course().layers.map(({ plan, accent }) => [plan.name, accent === true])).toEqual([
      ["values", true],
      ["most", true],
      ["goals", false],
      ["limit", false],
    ]);
    layered.engine.select("kinds", { keys: [{ k: "nobody" }] });
    // A limit that says nothing of rows stands, also where no row is meant.
    expect(course().rows.filter(({ layer }) => layer === "limit")).toHaveLength(1);
    expect(heights("goals")).toEqual([15, 40]);
    layered.engine.select("kinds", undefined);
  });
  test("are checked by their own rows, and cut to what is drawn where all of them are", () => {
    const text = `still: 1
report: R
tables:
  t: {rows: "shop,kind,n\\na,x,9\\nb,x,8\\nc,x,1\\na,y,1\\nb,y,1\\nc,y,5\\n"}
  best:
    from: t
    steps: [{group: {by: [shop], get: {m: sum(n)}}}, {sort: [-m]}, {first: 2}]
charts:
  two: {from: t, x: shop, layers: [{from: best, draw: bars, y: m}, {from: best, draw: points, y: m}]}
  kinds: {from: t, draw: bars, x: kind, y: sum(n)}
links: [click on kinds -> filter two]
`;
    const cut = modelOf(text);
    cut.engine.select("kinds", { keys: [{ kind: "y" }] });
    const own = cut.chartInput("two", 400, 200, new Set());
    if (!own) throw new Error("no chart");
    const drawn = drawChart(own);
    expect(chartRows(own, drawn).map(({ x, y, layer }) => [x, y, layer])).toEqual([
      ["c", 5, 0],
      ["a", 1, 0],
      ["c", 5, 1],
      ["a", 1, 1],
    ]);
    const words = drawn.scene.texts.map(({ text: said }) => said);
    expect([words.includes("a"), words.includes("b"), words.includes("c")]).toEqual([true, false, true]);
  });
});

test("a limit and a mean of all tell no rows from others, also where a gesture widens what was picked", () => {
  for (const link of ["click on bars -> filter list", "click on bars by k -> filter list"]) {
    const own = compileText(LIMITED.replace("LINK", link));
    const there = new Model(own.plan, own.tables);
    const picks = own.plan.selections[0] as SelectionPlan;
    const of = (layer: number) => {
      const found = there.chartInput("bars", 400, 200, new Set())?.layers[layer];
      if (!found) throw new Error("no layer");
      return behindMark(there.engine, picks, new LayerValues(found.current, found.all), 0);
    };
    expect(of(0)).toEqual({ keys: [{ k: "a" }] });
    expect([of(1), of(2)]).toEqual([undefined, undefined]);
  }
});

const LIMITED = `still: 1
report: R
tables:
  t: {rows: [{k: a, n: 1}, {k: b, n: 2}]}
charts:
  bars: {from: t, x: k, layers: [{draw: bars, y: sum(n)}, {draw: rules, y: 1.5}, {draw: rules, y: mean(n)}]}
  list: {from: t, draw: table}
links: [LINK]
`;
