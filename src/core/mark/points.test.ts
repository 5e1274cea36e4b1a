import { expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { Discs } from "../scene/shapes/discs";
import { modelOf } from "../testing/shown";

/** A crowd of 2,400 in two panels, of which one has few, and a list beside it. */
const model = modelOf(`still: 1
report: R
tables:
  t: {make: {rows: 2400}, steps: [{add: {k: 'if(row() > 2300, "b", "a")', x: row(), y: 'mod(row() * 7, 100)'}}]}
controls: {x: {pick: x, from: t, as: range}}
charts:
  dots: {from: t, draw: points, x: x, y: y, panels: k}
  bars: {from: t, draw: bars, x: k, y: count()}
links:
  - click on bars as picked -> fade dots
`);

/** The radii of all discs, of each panel those drawn faintly below first. */
function radii(): number[][] {
  const input = model.chartInput("dots", 600, 300, new Set());
  const panels = input ? drawChart(input).scene.panels : [];
  return panels.map(({ shapes }) => shapes.flatMap((shape) => (shape instanceof Discs ? [shape.radiusAt(0)] : [])));
}

test("points are as large in a panel of few as in one of many, and picked as they were before", () => {
  const [[many]] = radii() as [[number]];
  expect(radii()).toEqual([[many], [many]]);
  model.engine.select("picked", { keys: [{ k: "b" }] });
  expect(new Set(radii().flat())).toEqual(new Set([many]));
  model.engine.select("picked", undefined);
});

test("and larger where a filter leaves few", () => {
  const [[many]] = radii() as [[number]];
  model.engine.select("x", { x: [2000, 2400] });
  const [[few], [others]] = radii() as [[number], [number]];
  expect(few).toBeGreaterThan(many);
  expect(others).toBe(few);
  model.engine.select("x", undefined);
});
