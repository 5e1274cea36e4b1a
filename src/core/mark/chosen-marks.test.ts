import { describe, expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { Discs } from "../scene/shapes/discs";
import type { Outlines } from "../scene/shapes/outlines";
import type { Shape } from "../scene/shapes/shape";
import { modelOf } from "../testing/shown";

/** Four kinds in two groups over some months; the measures of each kind lie apart. */
const ROWS = Array.from({ length: 48 }, (_, n) => {
  const kind = n % 4;
  return `${"abcd"[kind]},${n % 3 ? "u" : "v"},2024-0${1 + (n % 7)}-03,${10 * kind + (n % 9)},${n % 11},${50 + (n % 5)},${n % 6}`;
});
const TABLE = `  t:\n    rows: |\n      k,g,d,v,w,lat,lon\n${ROWS.map((row) => `      ${row}\n`).join("")}`;

const MARKS = {
  points: "draw: points, x: v, y: w, color: k",
  symbols: "draw: points, x: v, y: w, symbol: k",
  bars: "draw: bars, x: g, y: sum(v), color: k",
  line: "draw: line, x: by_month(d), y: mean(v), color: k",
  area: "draw: area, x: by_month(d), y: sum(v), color: k",
  rules: "draw: rules, x: v, color: k",
  labels: "draw: labels, x: mean(v), y: mean(w), label: k, color: k",
  track: "draw: track, x: v, y: w, along: d, series: k, color: k",
  heatmap: "draw: heatmap, x: k, y: g, color: count()",
  boxes: "draw: boxes, x: g, y: v, color: k",
  slices: "draw: slices, color: k, value: count()",
  bubbles: "draw: bubbles, label: k, size: count(), color: k",
  words: "draw: words, label: k, size: count(), color: k",
  smooth: "draw: smooth, x: v, y: w, color: k",
  density: "draw: density, x: v, color: k",
  map: "draw: points, lon: lon, lat: lat, color: k",
};

const sheet = (charts: string, links: string) => `still: 1
report: R
tables:
${TABLE}charts:
${charts}  source: {from: t, draw: bars, x: k, y: count()}
links: [${links}]
`;

/** What a chart draws, panel by panel, when a kind is chosen by a selection. */
function drawn(text: string, chart: string, selection: string, kind: string | undefined): readonly Shape[][] {
  const model = modelOf(text);
  if (kind) model.engine.select(selection, { keys: [{ k: kind }] });
  const input = model.chartInput(chart, 300, 200, new Set());
  if (!input) throw new Error(`there is no chart ${chart}`);
  return drawChart(input).scene.panels.map(({ shapes }) => shapes);
}

describe.each(Object.entries(MARKS))("%s", (name, spec) => {
  test.each(["filter", "fade", "highlight"])("have their paints under %s", (effect) => {
    const text = sheet(`  ${name}: {from: t, ${spec}}\n`, `click on source -> ${effect} ${name}`);
    const shapes = drawn(text, name, "source", "c").flat();
    expect(shapes.some(({ ids }) => ids.length > 0)).toBe(true);
    for (const shape of shapes)
      for (let mark = 0; mark < shape.ids.length; mark++) expect(shape.paintAt(mark)).toEqual(expect.any(String));
  });
});

describe("the chart's own pick", () => {
  const own = (name: keyof typeof MARKS) =>
    drawn(sheet(`  ${name}: {from: t, ${MARKS[name]}}\n`, `click on ${name} by k -> filter source`), name, name, "c");
  test("leaves whiskers and medians of other boxes as faint as their boxes", () => {
    const shapes = own("boxes").flat();
    expect(shapes.map(({ constructor: { name } }) => name)).toEqual([
      ..."Segments Segments Rects Discs Segments".split(" "),
    ]);
    for (const shape of shapes.filter(({ ids }) => ids.length > 1))
      expect([...shape.ids.keys()].filter((mark) => !shape.isFaint(mark))).toHaveLength(2);
  });
  test("takes a box for picked where one of its rows is, whichever stands first", () => {
    const text = sheet(`  boxes: {from: t, draw: boxes, x: g, y: v}\n`, "brush y on boxes -> filter source");
    const model = modelOf(text);
    const faint = (y: [number, number]) => {
      model.engine.select("boxes", { y });
      const input = model.chartInput("boxes", 300, 200, new Set());
      const shapes = input ? drawChart(input).scene.panels.flatMap((panel) => panel.shapes) : [];
      const [whiskers] = shapes as [Shape];
      return [...whiskers.ids.keys()].map((mark) => whiskers.isFaint(mark));
    };
    expect(faint([36, 39])).toEqual([false, false]);
    expect(faint([37, 39])).toEqual([false, true]);
    expect(faint([90, 99])).toEqual([true, true]);
  });
  test("is that of the brushed layer, also in layers that measure something else", () => {
    const layers = "layers: [{draw: points, y: w}, {draw: points, y: lat}]";
    const model = modelOf(sheet(`  two: {from: t, x: v, ${layers}}\n`, "brush y on two -> filter source"));
    model.engine.select("two", { y: [4, 6] });
    const input = model.chartInput("two", 300, 200, new Set());
    const shapes = input ? drawChart(input).scene.panels.flatMap((panel) => panel.shapes) : [];
    const picked = shapes.map((shape) => [...shape.ids].filter((_, mark) => !shape.isFaint(mark)));
    expect(picked[0]?.length).toBeGreaterThan(0);
    expect(picked[1]).toEqual(picked[0]);
  });
  test("leaves names of faint bubbles to be read on the ground", () => {
    const [, names] = own("bubbles").flat() as [Shape, Shape];
    expect([...names.ids.keys()].map((mark) => names.paintAt(mark))).toEqual(["ink", "ink", "sheet", "ink"]);
  });
});

describe("what lays its marks out by itself keeps the layout of all rows", () => {
  const faded = (name: keyof typeof MARKS, kind: string | undefined) =>
    drawn(
      sheet(`  ${name}: {from: t, ${MARKS[name]}}\n`, `click on source -> fade ${name}`),
      name,
      "source",
      kind,
    ).flat();
  test("slices", () => {
    const [all] = faded("slices", undefined) as [Outlines];
    const [under, over] = faded("slices", "c") as [Outlines, Outlines];
    expect(over.ids.length).toBe(1);
    expect(over.middle(0)).toEqual(all.middle(2));
    expect(under.middle(3)).toEqual(all.middle(3));
  });
  test("a part of a slice begins where the slice does, and is as wide as it is", () => {
    const text = sheet(`  slices: {from: t, ${MARKS.slices}}\n`, "click on source by g -> fade slices");
    const model = modelOf(text);
    model.engine.select("source", { keys: [{ g: "v" }] });
    const input = model.chartInput("slices", 300, 200, new Set());
    const shapes = input ? drawChart(input).scene.panels.flatMap((panel) => panel.shapes) : [];
    const [under, over] = shapes as [Outlines, Outlines];
    const second = (shape: Outlines) => shape.rings[1]?.[0] as Float64Array;
    expect([...second(over).slice(0, 2)]).toEqual([...second(under).slice(0, 2)]);
    expect(second(over).length).toBeLessThan(second(under).length);
  });
  test("bubbles, each panel its own", () => {
    const text = sheet("  bubbles: {from: t, draw: bubbles, label: k, size: count(), panels: k}\n", "");
    for (const shapes of drawn(text, "bubbles", "source", undefined)) {
      const [discs] = shapes.filter((shape) => shape instanceof Discs);
      expect(discs?.ids.length).toBe(1);
      // Alone in its panel, a bubble stands in its middle and takes all the room there is.
      expect(discs?.radiusAt(0)).toBeGreaterThan(20);
    }
  });
});
