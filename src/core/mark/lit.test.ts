import { expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { chartRows } from "../chart/rows";
import { Discs } from "../scene/shapes/discs";
import { modelOf } from "../testing/shown";

const SHEET = `still: 1
report: R
tables: {t: {rows: "k,a,b\\nu,1,3\\nv,2,5\\nw,4,9"}}
controls: {k: {pick: k, from: t, as: checkboxes, highlight: [dots]}}
charts: {dots: {from: t, draw: points, x: a, y: b, color: k, size: 30}}
`;

test("a lit point is drawn in the accent colour over a rim, which is no mark of its own", () => {
  const model = modelOf(SHEET);
  const drawn = () => {
    const input = model.chartInput("dots", 300, 200, new Set());
    if (!input) throw new Error("no chart");
    const { scene, ...rest } = drawChart(input);
    const discs = scene.panels.flatMap(({ shapes }) => shapes).filter((shape) => shape instanceof Discs);
    return { discs, rows: chartRows(input, { scene, ...rest }) };
  };
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
