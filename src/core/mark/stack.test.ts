import { describe, expect, test } from "vitest";
import { drawChart, type Panel } from "../chart/draw";
import type { LayerInput } from "../chart/inputs";
import { Model } from "../model/model";
import { LayerValues } from "../query/values";
import { Rects } from "../scene/shapes/rects";
import { compileText, sheetOver } from "../testing/compile-text";
import { shapeIn } from "../testing/drawn";
import { stackEnds } from "./stack";

const CSV = `k,c,v
a,x,2
a,y,3
a,z,-1
b,x,4
b,y,
c,z,-5`;

function stacked(chart: string) {
  const compiled = compileText(sheetOver(CSV, `charts:\n  one: ${chart}\n`));
  expect(compiled.ok).toBe(true);
  const input = new Model(compiled.plan, compiled.tables).chartInput("one", 300, 200, new Set());
  if (!input) throw new Error("no chart");
  const layer = input.layers[0] as LayerInput;
  const values = new LayerValues(layer.current, layer.all);
  const ids = Int32Array.from(layer.current.counts.keys());
  const { from, to } = stackEnds(input, values, ids);
  const [keys, colors] = [values.get("x"), values.get("color")];
  const name = (column: typeof keys, id: number) =>
    column?.kind === "text" ? (column.dictionary[column.codes[id] as number] ?? "missing") : "";
  const ends = Object.fromEntries([...ids].map((id, i) => [`${name(keys, id)}${name(colors, id)}`, [from[i], to[i]]]));
  return { ends, drawn: drawChart(input) };
}

const round = (ends: Record<string, (number | undefined)[]>) =>
  Object.fromEntries(
    Object.entries(ends).map(([key, pair]) => [key, pair.map((value) => Math.round((value ?? 0) * 1000) / 1000)]),
  );

describe("bars of several colours at one place", () => {
  test("lie on each other in the legend's order, below zero apart", () => {
    expect(stacked("{from: calls, draw: bars, x: k, y: sum(v), color: c}").ends).toEqual({
      ax: [0, 2],
      ay: [2, 5],
      az: [0, -1],
      bx: [0, 4],
      by: [4, 4],
      cz: [0, -5],
    });
  });
  test("lie along their ramp where colours are numbers, whichever came first, missing last", () => {
    const csv = "k,year,n\na,2021,1\na,2019,2\na,,8\na,2020,4";
    const { plan, tables } = compileText(
      sheetOver(csv, "charts:\n  one: {from: calls, draw: bars, x: k, y: sum(n), color: year}\n"),
    );
    const input = new Model(plan, tables).chartInput("one", 300, 200, new Set());
    const layer = input?.layers[0] as LayerInput;
    const values = new LayerValues(layer.current, layer.all);
    const ids = Int32Array.from(layer.current.counts.keys());
    const { from } = stackEnds(input as NonNullable<typeof input>, values, ids);
    const years = values.numbers("color");
    expect([...ids].map((id, i) => [years?.[id], from[i]])).toEqual([
      [2021, 6],
      [2019, 0],
      [Number.NaN, 7],
      [2020, 2],
    ]);
  });
  test("as parts of a whole fill it", () => {
    expect(round(stacked("{from: calls, draw: bars, x: k, y: sum(v), color: c, stacking: percent}").ends)).toEqual({
      ax: [0, 0.333],
      ay: [0.333, 0.833],
      az: [0, -0.167],
      bx: [0, 1],
      by: [1, 1],
      cz: [0, -1],
    });
  });
  test("off or beside, each begins at zero", () => {
    for (const stacking of ["off", "beside"])
      expect(stacked(`{from: calls, draw: bars, x: k, y: sum(v), color: c, stacking: ${stacking}}`).ends.ay).toEqual([
        0, 3,
      ]);
  });
  test("the axis holds every stack", () => {
    const { drawn } = stacked("{from: calls, draw: bars, x: k, y: sum(v), color: c}");
    expect(drawn.panels[0]?.y?.domain).toEqual([-5, 5]);
  });
});

describe("bars on the screen", () => {
  test("never have a negative width or height", () => {
    for (const stacking of ["sum", "off", "beside", "percent"]) {
      const { drawn } = stacked(`{from: calls, draw: bars, x: k, y: sum(v), color: c, stacking: ${stacking}}`);
      const marks = shapeIn(drawn, Rects);
      for (let i = 0; i < marks.ids.length; i++) {
        expect(marks.width[i]).toBeGreaterThanOrEqual(0);
        expect(marks.height[i]).toBeGreaterThanOrEqual(0);
      }
    }
  });
  test("on a log axis begin at its lower end", () => {
    const { drawn } = stacked("{from: calls, draw: bars, x: k, y: count(), axes: {y: {scale: log}}}");
    const marks = shapeIn(drawn, Rects);
    const { plot } = drawn.panels[0] as Panel;
    const bottom = plot.y + plot.height;
    for (let i = 0; i < marks.ids.length; i++)
      expect((marks.y[i] as number) + (marks.height[i] as number)).toBeCloseTo(bottom, 6);
    // The least of them can be seen.
    expect(Math.min(...marks.height)).toBeGreaterThan(2);
  });
});
