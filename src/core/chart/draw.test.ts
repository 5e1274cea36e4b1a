import { describe, expect, test } from "vitest";
import { Model } from "../model/model";
import { categoryScale, continuousScale } from "../scale/scales";
import { Discs } from "../scene/shapes/discs";
import { Lines } from "../scene/shapes/lines";
import { Rects } from "../scene/shapes/rects";
import { compileText, sheetOver } from "../testing/compile-text";
import { shapeIn } from "../testing/drawn";
import { axisDomain } from "./domain";
import { drawChart, type Panel } from "./draw";
import type { AxisPlan } from "./plan";
import { chartRows } from "./rows";

const CSV = `k,c,v,d
a,x,1,2024-01-10
a,y,2,2024-01-20
b,x,5,2024-03-01
b,x,-2,2024-03-02
c,,4,2024-04-09
,y,3,2024-04-10`;

function drawn(
  chart: string,
  setup: (model: Model) => void = () => undefined,
  off: (string | null)[] = [],
  links = "",
) {
  const compiled = compileText(
    sheetOver(CSV, `charts:\n  one: ${chart}\n  two: {from: calls, draw: points, x: v, y: v}\n${links}`),
  );
  expect(compiled.findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
  const model = new Model(compiled.plan, compiled.tables);
  setup(model);
  const input = model.chartInput("one", 400, 200, new Set(off));
  if (!input) throw new Error("no chart");
  const result = drawChart(input);
  const rows = chartRows(input, result);
  const { x, y } = result.panels[0] as Panel;
  return { ...result, x, y, rows, input, chart: result };
}

test("categories of an axis are those of the rows that the chart keeps, also where rows are not grouped", () => {
  const { scene } = drawn("{from: calls, draw: bars, keep: v > 2, y: k, x: v, x_to: v + 1}").chart;
  const words = scene.texts.map(({ text }) => text);
  expect(words).toEqual(expect.arrayContaining(["b", "c", "missing"]));
  expect(words).not.toContain("a");
});

test("rows on one bar are counted among those that the chart keeps; spans may share a bar", () => {
  const problems = (chart: string) =>
    compileText(sheetOver(CSV, `charts:\n  one: ${chart}\n`)).findings.map(({ code }) => code);
  expect(problems("{from: calls, draw: bars, x: k, y: v}")).toContain("several-rows");
  expect(problems("{from: calls, draw: bars, x: k, y: v, keep: v > 2}")).not.toContain("several-rows");
  expect(problems("{from: calls, draw: bars, x: k, y: v, keep: v < 5}")).toContain("several-rows");
  expect(problems("{from: calls, draw: bars, x: k, y: v, y_to: v + 1}")).not.toContain("several-rows");
  expect(problems("{from: calls, draw: bars, x: k, y: v, color: v}")).toContain("several-rows");
  expect(problems("{from: calls, draw: bars, x: k, y: v, color: v, stacking: beside}")).not.toContain("several-rows");
  expect(problems(`{from: calls, draw: bars, x: k, y: v, color: 'text(v, "d")'}`)).toEqual([]);
  expect(problems("{from: calls, draw: bars, x: k, y: v, color: k}")).toContain("several-rows");
  expect(problems("{from: calls, draw: bars, x: k, y: v, panels: v}")).not.toContain("several-rows");
});

describe("bars", () => {
  test("of raw rows stand beside one another in their colours", () => {
    const { chart } = drawn(`{from: calls, draw: bars, keep: v > -2, x: k, y: v, color: 'text(v, "d")'}`);
    const { x, width } = shapeIn(chart, Rects);
    const order = Array.from(x, (_, bar) => bar).sort((a, b) => (x[a] as number) - (x[b] as number));
    expect(order.length).toBe(5);
    for (const [at, bar] of order.slice(1).entries()) {
      const before = order[at] as number;
      expect(x[bar]).toBeGreaterThanOrEqual((x[before] as number) + (width[before] as number) - 1e-9);
    }
  });

  test("of spans have all the room of their place, whatever their colours", () => {
    const { chart } = drawn(`{from: calls, draw: bars, y: k, x: v, x_to: v + 1, color: c}`);
    const plain = drawn(`{from: calls, draw: bars, y: k, x: v, x_to: v + 1}`).chart;
    const heights = (one: typeof chart) => Array.from(shapeIn(one, Rects).height, Math.round);
    expect(heights(chart)).toEqual(heights(plain));
    expect(new Set(heights(chart)).size).toBe(1);
  });

  test("stand along categories in order, missing last, and begin at zero", () => {
    const { rows, chart, y } = drawn("{from: calls, draw: bars, x: k, y: count()}");
    expect(rows).toEqual([
      { x: "a", y: 2 },
      { x: "b", y: 2 },
      { x: "c", y: 1 },
      { x: null, y: 1 },
    ]);
    expect(y?.domain[0]).toBe(0);
    const marks = shapeIn(chart, Rects);
    expect(marks.height[0]).toBeCloseTo((marks.height[2] as number) * 2, 6);
    expect([...marks.x]).toEqual([...marks.x].sort((a, b) => a - b));
  });
  test("lie down when the measure is on x, sorted by it", () => {
    const { rows, chart, y } = drawn("{from: calls, draw: bars, y: k, x: sum(v), sort: {y: -sum(v)}}");
    expect(rows.map(({ y: name }) => name)).toEqual(["c", "a", "b", null]);
    expect(y?.type).toBe("category");
    const marks = shapeIn(chart, Rects);
    expect(marks.y[0]).toBeLessThan(marks.y[1] as number);
  });
  test("stack where they sum, below zero apart from above", () => {
    const { chart, rows } = drawn("{from: calls, draw: bars, x: k, y: sum(v), color: c}");
    expect(rows).toContainEqual({ x: "b", y: 3, color: "x" });
    const marks = shapeIn(chart, Rects);
    const first = rows.findIndex(({ x, color }) => x === "a" && color === "x");
    const second = rows.findIndex(({ x, color }) => x === "a" && color === "y");
    expect((marks.y[second] as number) + (marks.height[second] as number)).toBeCloseTo(marks.y[first] as number, 6);
  });
  test("stand beside each other where they do not sum", () => {
    const { chart } = drawn("{from: calls, draw: bars, x: k, y: mean(v), color: c}");
    const marks = shapeIn(chart, Rects);
    expect(marks.x[0]).not.toBe(marks.x[1]);
    expect(marks.y[0] as number).toBeGreaterThan(marks.y[1] as number);
  });
  test("empty periods are zero for counts and gaps for means", () => {
    expect(drawn("{from: calls, draw: bars, x: by_month(d), y: count()}").rows).toEqual([
      { x: "2024-01-01", y: 2 },
      { x: "2024-02-01", y: 0 },
      { x: "2024-03-01", y: 2 },
      { x: "2024-04-01", y: 2 },
    ]);
    expect(drawn("{from: calls, draw: bars, x: by_month(d), y: mean(v)}").rows.map(({ x }) => x)).toEqual([
      "2024-01-01",
      "2024-03-01",
      "2024-04-01",
    ]);
  });
  test("a bin is its start", () => {
    expect(drawn('{from: calls, draw: bars, x: "bin(v, 7)", y: count()}').rows.map(({ x, y }) => [x, y])).toEqual([
      [-2, 1],
      [-1, 0],
      [0, 0],
      [1, 1],
      [2, 1],
      [3, 1],
      [4, 2],
    ]);
  });
});

describe("a legend that takes entries away and refits", () => {
  const domainOf = (draw: string, off: (string | null)[], refit: boolean) =>
    drawn(`{from: calls, ${draw}, color: c, legend: {press: remove, refit: ${refit}}}`, undefined, off).y?.domain;
  test("closes the axis on what is left, of groups and of raw rows", () => {
    for (const draw of ["draw: points, x: d, y: v", "draw: bars, x: d, y: mean(v)"]) {
      expect(domainOf(draw, ["x"], false)?.[0]).toBeLessThanOrEqual(-2);
      expect(domainOf(draw, ["x"], true)?.[0]).toBeGreaterThanOrEqual(0);
    }
  });
});

describe("axes of bins and periods", () => {
  const date = (seconds: number | undefined) => new Date((seconds ?? Number.NaN) * 1000).toISOString().slice(0, 10);
  const months = (more: string, setup?: (model: Model) => void) => {
    const links = "controls:\n  k: {pick: k, from: calls}\nlinks: [brush x on two as far -> filter one]\n";
    const chart = `{from: calls, draw: line, x: by_month(d), y: count()${more}}`;
    const { x, rows } = drawn(chart, setup, [], links);
    return { ends: x?.domain.map(date), rows: rows.map((row) => `${row.x} ${row.y}`) };
  };
  const all = ["2024-01-01 2", "2024-02-01 0", "2024-03-01 2", "2024-04-01 2"];
  const pick =
    (...names: string[]) =>
    (model: Model) =>
      model.engine.select("k", { keys: names.map((k) => ({ k })) });
  test("hold all stretches, empty ones as zero", () => {
    expect(months("")).toEqual({ ends: ["2024-01-01", "2024-05-01"], rows: all });
  });
  test("close on what controls leave; what lies outside is neither drawn nor zero", () => {
    expect(months("", pick("b"))).toEqual({ ends: ["2024-03-01", "2024-04-01"], rows: ["2024-03-01 2"] });
    expect(months("", pick("a", "b"))).toEqual({ ends: ["2024-01-01", "2024-04-01"], rows: all.slice(0, 3) });
    const stays = months(", axes: {x: {range: all}}", pick("b"));
    expect(stays.ends).toEqual(["2024-01-01", "2024-05-01"]);
    expect(stays.rows).toHaveLength(4);
    // Nor does an axis close whose ends are given: what lies between them is zero.
    expect(months(", axes: {x: {range: [1704067200, 1717200000]}}", pick("b")).rows).toHaveLength(4);
  });
  test("stay under a brush, which leaves zeros", () => {
    const brushed = months("", (model) => model.engine.select("far", { x: [4.5, 6] }));
    expect(brushed.ends).toEqual(["2024-01-01", "2024-05-01"]);
    expect(brushed.rows).toEqual(["2024-01-01 0", "2024-02-01 0", "2024-03-01 1", "2024-04-01 0"]);
  });
  test("are written in the middle of periods that bars fill, where there is room", () => {
    const texts = (chart: string) => {
      const { x, y } = drawn(chart);
      return (chart.includes("y: by_") ? y : x)?.ticks.map(({ text }) => text);
    };
    expect(texts("{from: calls, draw: bars, x: by_month(d), y: count()}")).toEqual(["Jan 2024", "Feb", "Mar", "Apr"]);
    expect(texts("{from: calls, draw: bars, y: by_quarter(d), x: count()}")).toEqual(["Q1 2024", "Q2"]);
    expect(texts("{from: calls, draw: bars, x: by_year(d), y: count()}")).toEqual(["2024"]);
    // Lines stand at the beginnings, and of days there are too many to be written each.
    expect(texts("{from: calls, draw: line, x: by_month(d), y: count()}")).not.toContain("Jan 2024");
    expect(texts("{from: calls, draw: bars, x: by_day(d), y: count()}")?.length).toBeLessThan(10);
    const { x } = drawn("{from: calls, draw: bars, x: by_month(d), y: count()}");
    const [first, second] = x?.ticks ?? [];
    expect(date(x?.invert(first?.place ?? 0))).toBe("2024-01-16");
    expect(date(x?.invert(second?.place ?? 0))).toBe("2024-02-15");
  });
  test("hold what the chart keeps and no more", () => {
    expect(months(", keep: v > 2")).toEqual({
      ends: ["2024-03-01", "2024-05-01"],
      rows: ["2024-03-01 1", "2024-04-01 2"],
    });
  });
});

describe("lines and points", () => {
  const LINES = `k,at,v
first,1,1
first,2,2
second,1,5
second,2,6`;
  const linesOf = (csv: string, series: string) => {
    const chart = `charts:\n  one: {from: calls, draw: line, x: at, y: sum(v), series: ${series}}\n`;
    const { plan, tables } = compileText(sheetOver(csv, chart));
    const input = new Model(plan, tables).chartInput("one", 400, 200, new Set());
    if (!input) throw new Error("no chart");
    const marks = shapeIn(drawChart(input), Lines);
    return { starts: [...marks.starts], up: [...marks.y].map((y, _, all) => y < Math.max(...all) - 50) };
  };
  test("series of numbers are lines of their own, however near the numbers", () => {
    const { starts } = linesOf(LINES.replaceAll("first", "0.2").replaceAll("second", "0.7"), "k");
    expect(starts).toEqual([0, 2, 4]);
  });
  test("series of texts stand in the order of their texts, whichever came first", () => {
    const [head, a, b, c, d] = LINES.split("\n");
    const turned = [head, c, d, a, b].join("\n");
    expect(linesOf(turned, "k")).toEqual(linesOf(LINES, "k"));
    expect(linesOf(LINES, "k").up).toEqual([false, false, true, true]);
  });
  test("a line runs along x, one a colour, with its gaps", () => {
    const { chart, rows } = drawn("{from: calls, draw: line, x: by_month(d), y: sum(v), color: c}");
    const marks = shapeIn(chart, Lines);
    expect(marks.starts).toHaveLength(4);
    expect(rows.filter(({ color }) => color === "x").map(({ x, y }) => [x, y])).toEqual([
      ["2024-01-01", 1],
      ["2024-02-01", 0],
      ["2024-03-01", 3],
      ["2024-04-01", 0],
    ]);
  });
  test("points without a value are counted out, and a log axis takes what is above zero", () => {
    const { chart } = drawn("{from: calls, draw: points, x: v, y: v, axes: {x: {scale: log}}}");
    const marks = shapeIn(chart, Discs);
    expect(marks.ids).toHaveLength(5);
    expect([...marks.x].every(Number.isFinite)).toBe(true);
  });
  test("layers name themselves in rows", () => {
    const { rows } = drawn(
      "{from: calls, x: by_month(d), y: count(), layers: [{draw: line}, {draw: points, name: dots}]}",
    );
    expect(new Set(rows.map(({ layer }) => layer))).toEqual(new Set([0, "dots"]));
  });
});

describe("what is selected", () => {
  const links = "links:\n  - brush x on two -> filter one\n";
  test("controls close a measure axis, brushes leave it", () => {
    const chart = "{from: calls, draw: bars, x: k, y: sum(v) * sum(v)}";
    const all = drawn(chart, undefined, [], links).y?.domain;
    const brushed = drawn(chart, (model) => model.engine.select("two", { x: [0, 1.5] }), [], links);
    expect(brushed.y?.domain).toEqual(all);
    expect(brushed.rows).toEqual([{ x: "a", y: 1 }]);
    const picked = drawn(
      chart,
      (model) => model.engine.select("k", { keys: [{ k: "b" }] }),
      [],
      `${links}controls:\n  k: {pick: k, from: calls}\n`,
    );
    expect(picked.y?.domain[1]).toBeLessThan(all?.[1] as number);
  });
  test("a faded legend entry stays, and says so", () => {
    const { rows } = drawn("{from: calls, draw: bars, x: k, y: count(), color: c, legend: {press: fade}}", undefined, [
      "x",
    ]);
    expect(rows.filter(({ faded }) => faded).map(({ color }) => color)).toEqual(
      rows.filter(({ color }) => color === "x").map(() => "x"),
    );
    expect(rows.some(({ color, faded }) => color === "y" && faded === undefined)).toBe(true);
  });
  test("a removed legend entry leaves, and the axis closes", () => {
    const chart = "{from: calls, draw: bars, x: k, y: count(), color: c}";
    const { rows, y } = drawn(chart, undefined, ["x", null]);
    expect(rows).toEqual([
      { x: "a", y: 1, color: "y" },
      { x: null, y: 1, color: "y" },
    ]);
    expect(y?.domain[1]).toBeLessThan(drawn(chart).y?.domain[1] as number);
  });
  test("fade draws all faintly and the selected part over it", () => {
    const { scene } = drawn(
      "{from: calls, draw: bars, x: k, y: count()}",
      (model) => model.engine.select("two", { x: [0, 1.5] }),
      [],
      "links:\n  - brush x on two -> fade 0.3 one\n",
    );
    expect(scene.panels[0]?.shapes.map(({ opacity, ids }) => [opacity, ids.length])).toEqual([
      [0.3, 4],
      [1, 1],
    ]);
  });
  test("nothing left says so", () => {
    const { scene } = drawn(
      "{from: calls, draw: bars, x: k, y: count(), empty: Nobody came}",
      (model) => model.engine.select("two", { x: [50, 60] }),
      [],
      links,
    );
    expect(scene.message).toBe("Nobody came");
  });
});

describe("scales", () => {
  test("places and values are each other's inverse", () => {
    for (const scale of ["linear", "log", "time"] as const) {
      const made = continuousScale({
        kind: scale === "time" ? "date" : "number",
        scale,
        domain: [2, 5000],
        range: [10, 310],
        nice: false,
        tickCount: 5,
      });
      expect(made.invert(made.place(77))).toBeCloseTo(77, 8);
      expect(made.place(2)).toBeCloseTo(10, 8);
    }
  });
  test("ticks are round and written with just the decimals they need", () => {
    const texts = (low: number, high: number) =>
      continuousScale({
        kind: "number",
        scale: "linear",
        domain: [low, high],
        range: [0, 300],
        nice: true,
        tickCount: 4,
      }).ticks.map(({ text }) => text);
    expect(texts(0, 1)).toEqual(["0.0", "0.2", "0.4", "0.6", "0.8", "1.0"]);
    expect(texts(0, 20000)).toEqual(["0", "5,000", "10,000", "15,000", "20,000"]);
    const clock = continuousScale({
      kind: "duration",
      scale: "linear",
      domain: [0, 7200],
      range: [0, 300],
      nice: true,
      tickCount: 4,
    });
    expect(clock.ticks.map(({ text }) => text)).toEqual(["0:00:00", "0:30:00", "1:00:00", "1:30:00", "2:00:00"]);
  });
  test("counts have whole ticks, however few there are", () => {
    const texts = (high: number) =>
      continuousScale({
        kind: "number",
        scale: "linear",
        domain: [0, high],
        range: [0, 300],
        nice: true,
        whole: true,
        tickCount: 6,
      }).ticks.map(({ text }) => text);
    expect(texts(1)).toEqual(["0", "1"]);
    expect(texts(2)).toEqual(["0", "1", "2"]);
    expect(texts(2500)).toEqual(["0", "500", "1,000", "1,500", "2,000", "2,500"]);
  });
  test.each(["linear", "log"])("a %s axis stands even where controls leave nothing", (scale) => {
    const { y, scene } = drawn(
      `{from: calls, draw: points, x: v, y: v, axes: {y: {scale: ${scale}}}}`,
      (model) => model.engine.select("k", { keys: [] }),
      [],
      "controls:\n  k: {pick: k, from: calls}\n",
    );
    expect(y?.domain.every(Number.isFinite)).toBe(true);
    expect(scene.message).toBe("No rows pass");
  });
  test("categories lie in equal bands", () => {
    const scale = categoryScale(["a", "b", "c", "d"], [0, 200]);
    expect(scale.place(1)).toBe(75);
    expect(scale.invert(199)).toBe(3);
  });
  test("one value alone still has an axis", () => {
    const scale = continuousScale({
      kind: "number",
      scale: "linear",
      domain: [5, 5],
      range: [0, 100],
      nice: true,
      tickCount: 4,
    });
    expect(Number.isFinite(scale.place(5))).toBe(true);
    expect(scale.domain[0]).toBeLessThan(scale.domain[1]);
  });
});

describe("a layer with a scale of its own", () => {
  const layers = (more: string, over = "") =>
    `{from: calls, x: k, ${over}layers: [{draw: bars, y: count()}, {draw: points, y: sum(v), axes: {y: {side: right}}${more}}]}`;
  const paintsIn = (chart: string) => {
    const { panels, scene } = drawn(chart);
    const { texts, axisLines } = scene;
    const marks = panels[0]?.layers.map(({ shapes }) => shapes[0]?.paints[0]);
    const words = texts.filter(({ x, anchor }) => x > 380 || (anchor === "end" && x === 400));
    return { marks, words: new Set(words.map(({ paint }) => paint)), lines: axisLines.map(({ paint }) => paint) };
  };
  test("has a colour of its own, in which its axis stands", () => {
    const { marks, words, lines } = paintsIn(layers(""));
    expect(marks).toEqual(["quay:0", "quay:1"]);
    expect([...words]).toEqual(["inked:quay:1"]);
    expect(lines).toContain("quay:1");
  });
  test("has the colour that is said", () => {
    const { marks, words } = paintsIn(layers(', color: "#a83a2c"'));
    expect(marks?.[1]).toBe("#a83a2c");
    expect([...words]).toEqual(["inked:#a83a2c"]);
  });
  test("beside colours of categories is as dark as words, as each of those means something", () => {
    const { marks } = paintsIn(layers("").replace("count()}", "count(), color: c}"));
    expect(marks?.[1]).toBe("ink");
  });
  test("whose marks have several colours has a quiet axis", () => {
    const { words } = paintsIn(layers(", color: c"));
    expect([...words]).toEqual(["quiet"]);
  });
});

test("a layer without colours beside one of categories is as dark as words, wherever its scale stands", () => {
  const own = "x: d, y: v, layers: [{draw: points, color: c}, {draw: rules, y: 2}]";
  const { panels } = drawn(`{from: calls, ${own}}`);
  expect(panels[0]?.layers[1]?.shapes[0]?.paints).toEqual(["ink"]);
  const plain = drawn(`{from: calls, ${own.replace(", color: c", "")}}`).panels[0]?.layers[1]?.shapes[0]?.paints;
  expect(plain).toEqual(["quay:0"]);
});

test("an axis has the words of the plainest of its layers, and of the first among those", () => {
  const title = (layers: string) => drawn(`{from: calls, y: k, layers: [${layers}]}`).input.plan.axes.x?.title;
  expect(title("{draw: rules, x: mean(v) - 1, x_to: mean(v) + 1, y: k}, {draw: points, x: mean(v)}")).toBe("Mean v");
  expect(title("{draw: points, x: mean(v)}, {draw: points, x: sum(v)}")).toBe("Mean v");
});

test("a stream has no ticks on how far it reaches from its middle, unless they are asked for", () => {
  const chart = "from: calls, draw: area, x: by_month(d), y: sum(abs(v)), color: c, stacking: stream";
  expect(drawn(`{${chart}}`).y?.ticks).toEqual([]);
  expect(drawn(`{${chart}}`).x?.ticks.length).toBeGreaterThan(0);
  // Its line is that of the other axis, not one through its middle.
  const { scene, panels } = drawn(`{${chart}}`);
  expect(scene.axisLines[0]?.y1).toBeCloseTo((panels[0]?.plot.y ?? 0) + (panels[0]?.plot.height ?? 0), -0.5);
  expect(drawn(`{${chart}, axes: {y: {ticks: 3}}}`).y?.ticks.length).toBeGreaterThan(0);
});

describe("an axis that panels share", () => {
  const topOf = (chart: string) => drawn(`{from: calls, ${chart}}`).y?.domain[1] ?? Number.NaN;
  test("holds what stands on one another in one of them, not what would in all", () => {
    // The panel of b holds 7 at x; those of a and b together 8.
    expect(topOf("draw: bars, x: c, y: sum(abs(v)), color: c, panels: k")).toBe(7.5);
    expect(topOf("draw: bars, x: c, y: sum(abs(v)), color: c")).toBe(10);
    expect(topOf("draw: bars, x: c, y: sum(abs(v)), color: c, stacking: percent, panels: k")).toBe(1);
  });
  test("holds the highest curve of any of them", () => {
    const { panels, scene } = drawn("{from: calls, draw: density, x: v, panels: c}");
    expect(panels.length).toBe(3);
    for (const { plot, layers } of panels)
      for (const shape of layers.flatMap(({ shapes }) => shapes))
        if (shape instanceof Lines) expect(Math.min(...shape.y)).toBeGreaterThanOrEqual(plot.y - 1e-6);
    expect(scene.message).toBeUndefined();
  });
});

test.each([
  ["{from: calls, draw: bars, x: k, y: max(v) + 100, axes: {y: {from_zero: false}}}", [102, 105]],
  ["{from: calls, draw: area, x: d, y: sum(v) + 100, axes: {y: {from_zero: false}}}", [97, 105]],
  ["{from: calls, draw: bars, x: k, y: max(v) - 100, axes: {y: {from_zero: false}}}", [-98, -95]],
] as const)(
  "lengths leave zero out where the sheet wants it so, with room for the shortest: %s",
  (chart, [least, most]) => {
    const [low = 0, high = 0] = drawn(chart).y?.domain ?? [];
    expect(low).toBeLessThanOrEqual(least);
    expect(high).toBeGreaterThanOrEqual(most);
    // The end that is nearer to zero lies beyond the shortest, and far from zero.
    const near = least > 0 ? least - low : high - most;
    expect(near).toBeGreaterThan(0);
    expect(near).toBeLessThan(10);
  },
);

test("a line on a second scale beside bars begins where its values begin", () => {
  const { input } = drawn(
    "{from: calls, x: k, layers: [{draw: bars, y: max(v)}, {draw: line, y: max(v) + 100, axes: {y: {side: right}}}]}",
  );
  expect(axisDomain(input, "y2", input.plan.axes.y2 as AxisPlan)).toEqual([102, 105]);
  expect(axisDomain(input, "y", input.plan.axes.y as AxisPlan)).toEqual([0, 5]);
});
