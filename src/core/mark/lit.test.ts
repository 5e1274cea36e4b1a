import { expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { chartRows } from "../chart/rows";
import type { Model } from "../model/model";
import { Discs } from "../scene/shapes/discs";
import { modelOf } from "../testing/shown";

const SHEET = `still: 1
report: R
tables: {t: {rows: "k,a,b\\nu,1,3\\nv,2,5\\nw,4,9"}}
controls: {k: {pick: k, from: t, as: checkboxes, highlight: [dots]}}
charts: {dots: {from: t, draw: points, x: a, y: b, color: k, size: 30}}
`;

function drawnDots(model: Model) {
  const input = model.chartInput("dots", 300, 200, new Set());
  if (!input) throw new Error("no chart");
  const { scene, ...rest } = drawChart(input);
  const discs = scene.panels.flatMap(({ shapes }) => shapes).filter((shape) => shape instanceof Discs);
  return { discs, rows: chartRows(input, { scene, ...rest }) };
}

test("a lit point is drawn in the accent colour over a rim, which is no mark of its own", () => {
  const model = modelOf(SHEET);
  const drawn = () => drawnDots(model);
  expect(drawn().discs.map(({ ids }) => ids.length)).toEqual([3]);
  model.engine.select("k", { keys: [{ k: "v" }] });
  const { discs, rows } = drawn();
  expect(discs.map((shape) => [shape.ids.length, shape.paintAt(0)])).toEqual([
    [3, expect.stringContaining("quay")],
    [1, "ink"],
    [1, "brass"],
  ]);
  const [, rim, lit] = discs as [Discs, Discs, Discs];
  expect(rim.middle(0)).toEqual(lit.middle(0));
  expect(rim.radiusAt(0)).toBeGreaterThan(lit.radiusAt(0) + 1);
  expect(rows.map(({ color }) => color)).toEqual(["v"]);
});

test("what a chart's own brush leaves faint stays so under a highlight, which is drawn whole", () => {
  const list = "charts: {list: {from: t, draw: table, columns: [k]}, ";
  const model = modelOf(`${SHEET.replace("charts: {", list)}links:\n  - brush x on dots as near -> filter list\n`);
  const picked = () => drawnDots(model).discs.map((shape) => shape.picked && [...shape.picked]);
  model.engine.select("near", { x: [1, 3] });
  expect(picked()).toEqual([[1, 1, 0]]);
  model.engine.select("k", { keys: [{ k: "w" }] });
  expect(picked()).toEqual([[1, 1, 0], undefined, undefined]);
});
