import { describe, expect, test } from "vitest";
import { markCount } from "../scene/scene";
import { Discs } from "../scene/shapes/discs";
import { Lines } from "../scene/shapes/lines";
import { Segments } from "../scene/shapes/segments";
import type { Shape } from "../scene/shapes/shape";
import { modelOf } from "../testing/shown";
import { drawChart } from "./draw";
import type { ChartInput } from "./inputs";
import { rowsOfChart } from "./rows";

const MAP = "map: {projection: orthographic, scale_bar: true}";

/** Places on the equator 80 degrees from one another, and ways between each and the next. */
const SHEET = `still: 1
report: R
tables:
  t:
    rows: |
      at,lon,lat,lon_to,lat_to
      1,-70,0,10,0
      2,10,0,90,0
      3,90,0,170,0
      4,170,0,-70,0
charts:
  dots: {from: t, draw: points, lon: lon, lat: lat, ${MAP}}
  ways: {from: t, draw: rules, lon: lon, lat: lat, lon_to: lon_to, lat_to: lat_to, ${MAP}}
  track: {from: t, draw: track, lon: lon, lat: lat, along: at, ${MAP}}
`;

function drawn(chart: string, view?: ChartInput["view"]) {
  const input = modelOf(SHEET).chartInput(chart, 400, 300, new Set(), view ? { view } : {});
  if (!input) throw new Error("no chart");
  const drawing = drawChart(input);
  const shape = <T extends Shape>(kind: new (...args: never[]) => T) =>
    drawing.scene.panels[0]?.shapes.find((own) => own instanceof kind) as T;
  return { drawing, shape, rows: rowsOfChart(input) };
}

const inside = (pixels: ArrayLike<number>) => Array.from(pixels, (pixel) => pixel >= 0 && pixel <= 400);

describe("a globe", () => {
  const east = { lon: 10, lat: 0, scale: 1 };

  test("shows what lies on its near side, and says all rows", () => {
    const { shape, rows, drawing } = drawn("dots", east);
    expect(inside(shape(Discs).x)).toEqual([true, true, true, false]);
    expect(rows).toHaveLength(4);
    expect(markCount(drawing.scene)).toBe(4);
  });

  test("is turned to what is looked at", () => {
    const { shape, drawing } = drawn("dots", { lon: 90, lat: 0, scale: 1 });
    expect(inside(shape(Discs).x)).toEqual([false, true, true, true]);
    const { plot } = drawing.scene.panels[0] as { plot: { x: number; width: number } };
    expect(shape(Discs).x[2]).toBeCloseTo(plot.x + plot.width / 2, 6);
  });

  test("is whole where it cannot show all rows, with its edge and a scale bar", () => {
    const { drawing } = drawn("dots");
    const edge = drawing.scene.under?.[0]?.path ?? "";
    const pixels = [...edge.matchAll(/[ML](-?[\d.]+) (-?[\d.]+)/g)].map(([, x, y]) => [Number(x), Number(y)]);
    expect(pixels.length).toBeGreaterThan(20);
    const [tops, lefts] = [pixels.map(([, y]) => y as number), pixels.map(([x]) => x as number)];
    expect(Math.min(...tops)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...tops)).toBeLessThanOrEqual(300);
    expect(Math.max(...lefts) - Math.min(...lefts)).toBeCloseTo(Math.max(...tops) - Math.min(...tops), 0);
    expect(drawing.scene.texts.some(({ text }) => / km$/.test(text))).toBe(true);
  });

  test("hides ways of which one end lies behind it", () => {
    const { shape } = drawn("ways", east);
    expect(inside(shape(Segments).parts.x1)).toEqual([true, true, false, false]);
    expect(inside(shape(Segments).parts.x2)).toEqual([true, true, false, false]);
  });

  test("breaks tracks off at its edge", () => {
    const { shape } = drawn("track", east);
    expect(inside(shape(Lines).x)).toEqual([true, true, true, false]);
    expect([...shape(Lines).starts]).toEqual([0, 3, 4]);
  });
});

test("a scale bar has the lengths of the middle where the corner lies beside the earth", () => {
  const map = "map: {projection: equal_earth, scale_bar: true}";
  const model = modelOf(SHEET.replaceAll(MAP, map));
  const barOf = (width: number, height: number) => {
    const input = model.chartInput("dots", width, height, new Set());
    const { texts, axisLines } = (input && drawChart(input))?.scene ?? { texts: [], axisLines: [] };
    const [line] = axisLines.filter(({ y1, y2 }) => y1 === y2);
    return { says: texts.find(({ text }) => / (km|m)$/.test(text))?.text, pixels: line && line.x2 - line.x1 };
  };
  // Places of this map reach over most of the equator, so that a quarter of its width is some thousands of km.
  expect(barOf(360, 600)).toEqual({ says: "5,000 km", pixels: expect.closeTo(barOf(360, 601).pixels as number, 0) });
  expect(barOf(360, 600).pixels).toBeGreaterThan(20);
});
