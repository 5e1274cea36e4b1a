import { expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { chartRows } from "../chart/rows";
import { Model } from "../model/model";
import { LayerValues } from "../query/values";
import { compileText } from "../testing/compile-text";
import { behindMark } from "./behind";
import type { SelectionPlan } from "./selection";

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
  const { picked } = input().layers[0] as { picked?: (ids: Int32Array) => Uint8Array | undefined };
  expect(picked?.(Int32Array.of(0, 1, 2, 3))).toEqual(Uint8Array.of(1, 1, 1, 1));
  model.engine.select("map", undefined);
});

test("marks of another table stand for none of the rows that a gesture picks, unless they have its columns", () => {
  expect(behindMark(model.engine, selection("map"), valuesOf(0), 2)).toBeUndefined();
  expect(behindMark(model.engine, selection("ways"), valuesOf(1), 1)).toEqual({ keys: [{ town: "b" }] });
  expect(behindMark(model.engine, selection("ways"), valuesOf(0), 3)).toEqual({ keys: [{ town: "c" }] });
});
