import { expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { legendItems } from "../chart/legend";
import type { Box } from "../scene/scene";
import { Segments } from "../scene/shapes/segments";
import type { Shape } from "../scene/shapes/shape";
import { modelOf } from "../testing/shown";

const model = modelOf(`still: 1
report: R
tables:
  t: {rows: "a,b,c,d,n\\n1,1,5,4,80\\n2,3,4,1,20\\n3,2,1,5,\\n4,4,2,2,-5\\n5,5,3,1,0.1"}
charts:
  ways: {from: t, draw: rules, x: a, y: b, x_to: c, y_to: d, size: n}
  even: {from: t, draw: rules, x: a, y: b, x_to: c, y_to: d, size: 3}
`);

function segments(chart: string): Segments {
  const input = model.chartInput(chart, 400, 300, new Set());
  const shapes = input ? drawChart(input).scene.panels.flatMap((panel) => panel.shapes) : [];
  return shapes.find((shape) => shape instanceof Segments) as Segments;
}

/** The widths of all strokes of a drawing, as SVG and as a pen has them. */
function strokes(drawing: Segments): { svg: number[]; pen: number[] } {
  const svg = [...drawing.svg("light").matchAll(/stroke-width="([\d.]+)"/g)].map(([, width]) => Number(width));
  const pen: number[] = [];
  let traced = 0;
  const context = {
    lineWidth: 1,
    beginPath: () => undefined,
    moveTo: () => undefined,
    lineTo: () => {
      traced += 1;
    },
    stroke() {
      for (; traced > 0; traced--) pen.push(this.lineWidth);
    },
  };
  drawing.draw(context as unknown as CanvasRenderingContext2D, "light");
  return { svg, pen };
}

test("rules are as wide as a formula says, in proportion; what measures nothing is not drawn", () => {
  const { svg, pen } = strokes(segments("ways"));
  expect(svg).toEqual([9, 2.25, 0, 0.5]);
  expect(pen).toEqual([9, 2.25, 0.5]);
  expect(strokes(segments("even"))).toEqual({ svg: [3, 3, 3, 3, 3], pen: [3, 3, 3, 3, 3] });
});

test("their legend has strokes of round values", () => {
  const items = legendItems(model.legendKeys("ways"), "light");
  expect(items.map(({ before, after }) => [before, after])).toEqual([
    ["n", "10"],
    [undefined, "20"],
    [undefined, "50"],
  ]);
  const widths = items.map(({ picture }) => Number(/stroke-width="([\d.]+)"/.exec(picture)?.[1]));
  expect(widths[2]).toBeCloseTo((50 / 80) * 9, 1);
  expect(widths[1]).toBeCloseTo((20 / 80) * 9, 1);
  expect(model.legendKeys("even")).toEqual({});
});

test("a map of ways shows both ends of each", () => {
  const map = modelOf(`still: 1
report: R
tables: {t: {rows: "lon,lat,lon_to,lat_to\\n1,50,4,59\\n2,51,9,52"}}
charts: {ways: {from: t, draw: rules, lon: lon, lat: lat, lon_to: lon_to, lat_to: lat_to}}
`);
  const input = map.chartInput("ways", 400, 300, new Set());
  const { plot, shapes } = (input && drawChart(input).scene.panels[0]) as { plot: Box; shapes: Shape[] };
  const { x1, y1, x2, y2 } = (shapes[0] as Segments).parts;
  for (const x of [...x1, ...x2]) expect(x > plot.x && x < plot.x + plot.width).toBe(true);
  for (const y of [...y1, ...y2]) expect(y > plot.y && y < plot.y + plot.height).toBe(true);
});
