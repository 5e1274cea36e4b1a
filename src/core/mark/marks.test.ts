import { describe, expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import type { ChartInput } from "../chart/inputs";
import { chartRows } from "../chart/rows";
import { Model } from "../model/model";
import { Areas } from "../scene/shapes/areas";
import { Discs } from "../scene/shapes/discs";
import { Lines } from "../scene/shapes/lines";
import { Outlines } from "../scene/shapes/outlines";
import { Rects } from "../scene/shapes/rects";
import { Segments } from "../scene/shapes/segments";
import { Words } from "../scene/shapes/words";
import { sceneSvg } from "../scene/svg";
import { compileText } from "../testing/compile-text";
import { layerIn, shapeIn } from "../testing/drawn";

const TABLES = `still: 1
report: T
tables:
  t:
    rows: |
      k,c,v,w,d
      a,x,1,2,2024-01-10
      a,y,3,4,2024-02-20
      b,x,5,6,2024-01-01
      b,y,7,9,2024-03-02
  places:
    rows: |
      name,lon,lat,n
      Merrow,-3,55,1
      Oxlow,-1,55,4
      Ness,-2,56,
`;

function drawn(chart: string, width = 400, height = 200) {
  const compiled = compileText(`${TABLES}charts:\n  one: ${chart}\n`);
  expect(compiled.findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
  const input = new Model(compiled.plan, compiled.tables).chartInput("one", width, height, new Set());
  if (!input) throw new Error("no chart");
  const result = drawChart(input);
  return { drawn: result, rows: chartRows(input, result), plot: result.panels[0]?.plot, panels: result.panels };
}

const problems = (chart: string) =>
  compileText(`${TABLES}charts:\n  one: ${chart}\n`)
    .findings.filter(({ severity }) => severity === "error")
    .map(({ code, message }) => `${code}: ${message}`);

const texts = (drawn_: ReturnType<typeof drawn>) => drawn_.drawn.scene.texts.map(({ text }) => text);

describe("lines", () => {
  const GAPS = `tables:
  g:
    rows: |
      n,side,v
      1,a,1
      2,a,
      3,a,3
      4,a,4
      1,b,5
      2,b,6
      3,b,7
`;
  const starts = (chart: string, side?: string) => {
    const controls = "controls:\n  even: {pick: n, from: g}\n";
    const compiled = compileText(`still: 1\nreport: T\n${GAPS}${controls}charts:\n  one: ${chart}\n`);
    const model = new Model(compiled.plan, compiled.tables);
    if (side) model.engine.select("even", { keys: side.split("").map((n) => ({ n: Number(n) })) });
    const input = model.chartInput("one", 400, 200, new Set());
    if (!input) throw new Error("no chart");
    return [...shapeIn(drawChart(input), Lines).starts];
  };
  test("break off where nothing is measured, each series by itself", () => {
    expect(starts("{from: g, draw: line, x: n, y: v, color: side}")).toEqual([0, 1, 3, 6]);
    expect(starts("{from: g, draw: line, x: n, y: mean(v), color: side}")).toEqual([0, 1, 3, 6]);
    expect(starts("{from: g, draw: line, x: n, y: sum(v), color: side}")).toEqual([0, 4, 7]);
  });
  test("go on over what was only filtered away", () => {
    expect(starts("{from: g, draw: line, x: n, y: v, color: side}", "14")).toEqual([0, 2, 3]);
    expect(starts("{from: g, draw: line, x: n, y: v, color: side}", "13")).toEqual([0, 1, 2, 4]);
  });
  test("over bars of months stand over their middles, alone at their starts", () => {
    const line = "{draw: line, y: max(v)}";
    const places = (layers: string) => {
      const one = drawn(`{from: t, x: by_month(d), layers: [${layers}]}`);
      const shape = one.panels[0]?.layers.at(-1)?.shapes[0] as Lines;
      return [shape.x[0] as number, one.plot?.x ?? 0] as const;
    };
    const [alone, left] = places(line);
    expect(alone).toBeCloseTo(left, 6);
    const [over, edge] = places(`{draw: bars, y: sum(v)}, ${line}`);
    expect(over).toBeGreaterThan(edge + 20);
  });
  test("end where the plot ends; points have room", () => {
    expect(drawn("{from: t, draw: line, x: v, y: w}").panels[0]?.x?.domain).toEqual([1, 7]);
    expect(drawn("{from: t, draw: points, x: v, y: w}").panels[0]?.x?.domain).toEqual([0, 8]);
  });
});

describe("bars beside one another", () => {
  const widths = (chart: string) => [...shapeIn(drawn(chart).drawn, Rects).width];
  test("share a place, unless each place has one colour alone", () => {
    const shared = widths("{from: t, draw: bars, x: k, y: mean(v), color: c}");
    const alone = widths("{from: t, draw: bars, x: c, y: mean(v), color: c}");
    expect(alone[0]).toBeGreaterThan((shared[0] as number) * 1.5);
    expect(alone[0]).toBe(widths("{from: t, draw: bars, x: c, y: mean(v)}")[0]);
  });
});

test("bars beside one another in a bin or period never lie on one another", () => {
  const bars = shapeIn(drawn("{from: t, draw: bars, x: by_month(d), y: mean(v), color: c}").drawn, Rects);
  const spans = [...bars.x].map((from, at) => [from, from + (bars.width[at] as number)] as const);
  expect(spans.length).toBeGreaterThan(2);
  const sorted = [...spans].sort(([a], [b]) => a - b);
  sorted.slice(1).forEach(([from], at) => {
    expect(from).toBeGreaterThanOrEqual((sorted[at] as readonly [number, number])[1]);
  });
});

describe("shaded points", () => {
  test("are as dark as rows lie there, and a picture of bounded size", () => {
    const rows = Array.from(
      { length: 500 },
      (_, at) => `      ${at < 400 ? 5 : at % 10},${at < 400 ? 5 : at % 7}`,
    ).join("\n");
    const sheet = `still: 1\nreport: T\ntables:\n  t:\n    rows: |\n      a,b\n${rows}\ncharts:\n  one: {from: t, draw: points, x: a, y: b, shade: density}\n`;
    const compiled = compileText(sheet);
    const input = new Model(compiled.plan, compiled.tables).chartInput("one", 400, 200, new Set());
    if (!input) throw new Error("no chart");
    const svg = shapeIn(drawChart(input), Discs).svg("light");
    const alphas = [...svg.matchAll(/fill-opacity="([\d.]+)"/g)].map(([, alpha]) => Number(alpha));
    expect(alphas).toHaveLength(70);
    expect(Math.max(...alphas)).toBe(1);
    expect(Math.min(...alphas)).toBeLessThan(0.5);
  });
});

describe("areas", () => {
  test("stack their colours where they sum, from zero", () => {
    const one = drawn("{from: t, draw: area, x: by_month(d), y: sum(v), color: c}");
    expect(one.rows).toContainEqual({ x: "2024-01-01", y: 6, color: "x" });
    expect(one.panels[0]?.y?.domain).toEqual([0, 7.5]);
    expect(shapeIn(one.drawn, Areas).svg("light").match(/<path/g)).toHaveLength(2);
  });
  test("as a stream lie as far above the middle as below", () => {
    expect(
      drawn("{from: t, draw: area, x: by_month(d), y: sum(v), color: c, stacking: stream}").panels[0]?.y?.domain,
    ).toEqual([-5, 5]);
  });
  test("between two edges begin at the lower one; a gradient fades to the ground", () => {
    const one = drawn("{from: t, draw: area, x: d, y: v, y_to: w, gradient: true}");
    expect(shapeIn(one.drawn, Areas).svg("light")).toContain('stop-opacity="0"');
    expect(one.rows[0]).toEqual({ x: "2024-01-01", y: 5, y_to: 6 });
  });
});

describe("bars from one value to another", () => {
  test("lie between both, and do not begin at zero", () => {
    const one = drawn("{from: t, draw: bars, y: k, x: min(v), x_to: max(v)}");
    expect(one.rows).toEqual([
      { x: 1, y: "a", x_to: 3 },
      { x: 5, y: "b", x_to: 7 },
    ]);
    const { x, width } = shapeIn(one.drawn, Rects);
    const scale = one.panels[0]?.x;
    expect(x[0]).toBeCloseTo(scale?.place(1) ?? 0, 6);
    expect(width[1]).toBeCloseTo((scale?.place(7) ?? 0) - (scale?.place(5) ?? 0), 6);
  });
  test("with no place across are bands over the whole plot", () => {
    const one = drawn("{from: t, draw: bars, x: v, x_to: w}");
    const { y, height } = shapeIn(one.drawn, Rects);
    expect([y[0], height[0]]).toEqual([one.plot?.y, one.plot?.height]);
  });
});

describe("rules", () => {
  test("of one place for all rows there is one", () => {
    const chart =
      "{from: t, x: v, y: w, layers: [{draw: points}, {draw: rules, y: 4, label: {says: least}}, {draw: bars, x: 1, x_to: 2, y: none}]}";
    const one = drawn(chart);
    const { parts: rule, ids } = shapeIn(one.drawn, Segments, 1);
    expect([ids.length, rule.y1[0]]).toEqual([1, rule.y2[0]]);
    // Constants are no keys.
    expect(one.rows.slice(-2)).toEqual([{ layer: 1 }, { layer: 2 }]);
    expect(sceneSvg(one.drawn.scene, "", "light").match(/>least</g)).toHaveLength(1);
    const coloured = drawn("{from: t, x: v, y: w, color: k, layers: [{draw: points}, {draw: rules, y: 4}]}");
    expect(shapeIn(coloured.drawn, Segments, 1).ids).toHaveLength(2);
  });
  test("of one place have the words of what the chart measures there", () => {
    const { plan } = compileText(
      `${TABLES.replace("    rows: |\n      k", "    columns: {w: {label: Weight, unit: kg}}\n    rows: |\n      k")}charts:\n  one: {from: t, x: v, y: w, layers: [{draw: points}, {draw: rules, y: 4}]}\n`,
    );
    const chart = plan.pieces[0]?.plan;
    expect(chart?.type === "chart" && chart.layers[1]?.query.channels.y).toMatchObject({ label: "Weight", unit: "kg" });
  });
  test("cross the plot, or go from one place to another, and say what they are", () => {
    const across = shapeIn(drawn("{from: t, draw: rules, y: v}").drawn, Segments).parts;
    expect(across.x2[0]).toBeGreaterThan((across.x1[0] as number) + 100);
    expect(across.y1[0]).toBe(across.y2[0]);
    const both = drawn("{from: t, draw: rules, x: v, y: w, x_to: v + 1, y_to: w + 1}");
    const { x1, x2 } = shapeIn(both.drawn, Segments).parts;
    expect((x2[0] as number) - (x1[0] as number)).toBeGreaterThan(1);
    const named = drawn("{from: t, draw: rules, x: v, label: {says: here}}");
    expect(sceneSvg(named.drawn.scene, "", "light")).toContain(">here</text>");
  });
  test("take no places over from their chart", () => {
    const one = drawn("{from: t, x: v, y: w, layers: [{draw: points}, {draw: rules, y: w, keep: w > 5}]}");
    const { x1, x2 } = shapeIn(one.drawn, Segments, 1).parts;
    expect([x1[0], x2[0]]).toEqual([one.plot?.x, (one.plot?.x ?? 0) + (one.plot?.width ?? 0)]);
  });
});

describe("heat maps", () => {
  test("have a cell for each pair that is there, in the colour of its value", () => {
    const one = drawn("{from: t, draw: heatmap, x: k, y: c, color: sum(v)}");
    expect(one.rows).toHaveLength(4);
    expect(one.rows).toContainEqual({ x: "b", y: "y", color: 7 });
    const { paints, color } = shapeIn(one.drawn, Rects);
    expect(paints[color[0] as number]).toBe("kelp:0");
    expect(paints[color[3] as number]).toBe("kelp:1");
  });
});

describe("boxes", () => {
  const CSV = [1, 2, 3, 4, 5, 6, 7, 8, 100].map((v) => `a,${v}`).join("\n      ");
  const SHEET = `still: 1\nreport: T\ntables:\n  t:\n    rows: |\n      k,v\n      ${CSV}\n      b,5\ncharts:\n  one: {from: t, draw: boxes, x: k, y: v}\n  two: {from: t, draw: figure, value: count()}\nlinks: [click on one -> filter two]\n`;
  test("are quartiles, whiskers within reach, and the rows beyond", () => {
    const { plan, tables } = compileText(SHEET);
    const input = new Model(plan, tables).chartInput("one", 400, 200, new Set());
    const rows = input ? chartRows(input, drawChart(input)) : [];
    // By hand: (n-1)p of nine values gives 3, 5 and 7; the reach is 1.5 times 4 from each.
    expect(rows).toEqual([
      { x: "a", low: 1, q1: 3, median: 5, q3: 7, high: 8 },
      { x: "b", low: 5, q1: 5, median: 5, q3: 5, high: 5 },
      { x: "a", y: 100, outlier: true },
    ]);
  });
  test("pick by their category, as their question is asked row by row", () => {
    const { plan } = compileText(SHEET);
    expect(Object.keys(plan.selections[0]?.keys ?? {})).toEqual(["k"]);
  });
});

describe("slices", () => {
  test("share the circle in proportion, and say so", () => {
    const one = drawn("{from: t, draw: slices, color: c, value: sum(v)}");
    expect(one.rows).toEqual([
      { color: "x", value: 6 },
      { color: "y", value: 10 },
    ]);
    expect(layerIn(one.drawn).lines?.(0, 0).at(-1)).toEqual({ label: "of all", text: "37.5 %" });
    const area = (ring: Float64Array) => {
      let twice = 0;
      for (let at = 0, before = ring.length - 2; at < ring.length; before = at, at += 2)
        twice +=
          (ring[before] as number) * (ring[at + 1] as number) - (ring[at] as number) * (ring[before + 1] as number);
      return Math.abs(twice / 2);
    };
    const [small, large] = shapeIn(one.drawn, Outlines).rings.map(([ring]) => area(ring as Float64Array));
    expect((small as number) / (large as number)).toBeCloseTo(6 / 10, 3);
  });
});

describe("bubbles and words", () => {
  test("bubbles have areas in proportion and lie apart", () => {
    const one = shapeIn(drawn("{from: t, draw: bubbles, label: k, size: sum(v)}").drawn, Discs);
    const [a, b] = [one.radiusAt(0), one.radiusAt(1)];
    expect(a ** 2 / b ** 2).toBeCloseTo(4 / 12, 6);
    expect(
      Math.hypot((one.x[0] as number) - (one.x[1] as number), (one.y[0] as number) - (one.y[1] as number)),
    ).toBeGreaterThanOrEqual(a + b - 1e-6);
  });
  test("words lie apart, the largest in the middle, in the same places for the same rows", () => {
    const make = () => shapeIn(drawn("{from: t, draw: words, label: 'concat(k, c)', size: sum(v)}").drawn, Words);
    const one = make();
    expect(one.parts.texts).toHaveLength(4);
    expect(make().svg("light")).toBe(one.svg("light"));
    const largest = one.parts.texts.indexOf("by");
    expect([one.parts.x[largest], one.parts.y[largest]]).toEqual([200, 100]);
    one.parts.texts.forEach((_, i) => {
      for (let j = 0; j < i; j++) {
        const { x, y } = one.middle(j);
        expect(one.distance(i, x, y)).toBeGreaterThan(0);
      }
    });
  });
});

describe("curves that are fitted", () => {
  test("a trend is the line of least squares, from end to end", () => {
    const one = drawn("{from: t, draw: trend, x: v, y: w}");
    // By hand: mean v 4, mean w 5.25, slope (2*3.25+1*1.25+1*0.75+... )
    const slope = (3 * 3.25 + 1 * 1.25 + 1 * 0.75 + 3 * 3.75) / 20;
    expect(one.rows).toEqual([
      { x: 1, y: expect.closeTo(5.25 - 3 * slope, 9) },
      { x: 7, y: expect.closeTo(5.25 + 3 * slope, 9) },
    ]);
  });
  test("a smooth follows its span, a density has an axis of its own", () => {
    expect(drawn("{from: t, draw: smooth, x: v, y: w, span: 1}").rows).toHaveLength(200);
    const one = drawn("{from: t, draw: density, x: v}");
    expect(texts(one)).toContain("Density");
    expect(one.rows[0]).toEqual({ x: expect.any(Number), y: expect.any(Number) });
  });
  test("follow a setting", () => {
    const sheet = `${TABLES}controls:\n  s: {set: 1, as: slider, range: [0.1, 1]}\ncharts:\n  one: {from: t, draw: density, x: v, adjust: $s}\n`;
    const { plan, tables, findings } = compileText(sheet);
    expect(findings.filter(({ severity }) => severity === "error")).toEqual([]);
    const model = new Model(plan, tables);
    const most = () => {
      const input = model.chartInput("one", 400, 200, new Set());
      return Math.max(...(input ? chartRows(input, drawChart(input)) : []).map(({ y }) => y as number));
    };
    const before = most();
    model.engine.setSetting("s", 0.5);
    expect(most()).toBeGreaterThan(before * 1.05);
  });
});

describe("points", () => {
  test("have symbols by category and areas by value", () => {
    const one = shapeIn(drawn("{from: t, draw: points, x: v, y: w, symbol: c, size: v}").drawn, Discs);
    expect([...(one.symbol ?? [])]).toEqual([0, 1, 0, 1]);
    expect(one.radiusAt(3) ** 2 / one.radiusAt(0) ** 2).toBeCloseTo(7, 6);
    expect(one.svg("light").match(/<circle/g)).toHaveLength(2);
  });
  test("say their labels, and lie above by a formula", () => {
    const one = drawn("{from: t, draw: points, x: v, y: w, label: k, above: -v}");
    expect(sceneSvg(one.drawn.scene, "", "light")).toContain(">b</text>");
    expect(one.rows.map(({ x }) => x)).toEqual([7, 5, 3, 1]);
  });
});

describe("maps", () => {
  test("show all their rows, north up, east to the right", () => {
    const one = drawn("{from: places, draw: points, lon: lon, lat: lat, map: {scale_bar: true}}");
    const { x, y } = shapeIn(one.drawn, Discs);
    expect(x[1]).toBeGreaterThan(x[0] as number);
    expect(y[2]).toBeLessThan(y[0] as number);
    for (const [at, place] of [...x].entries()) {
      expect(place).toBeGreaterThan(0);
      expect(place).toBeLessThan(400);
      expect(y[at]).toBeGreaterThan(0);
      expect(y[at]).toBeLessThan(200);
    }
    expect(texts(one).some((text) => / km$/.test(text))).toBe(true);
  });
  test.each(["mercator", "equal_earth", "albers", "orthographic"])("%s finds places again", (projection) => {
    const { panels } = drawn(`{from: places, draw: points, lon: lon, lat: lat, map: {projection: ${projection}}}`);
    const [px, py] = panels[0]?.project?.point(-2, 55) ?? [0, 0];
    const [lon, lat] = panels[0]?.project?.invert(px, py) ?? [0, 0];
    expect(lon).toBeCloseTo(-2, 6);
    expect(lat).toBeCloseTo(55, 6);
  });
  test("outlines lie under the marks", () => {
    expect(
      drawn("{from: places, draw: points, lon: lon, lat: lat, map: {under: [world]}}").drawn.scene.under,
    ).toHaveLength(1);
  });
});

test("categories of days and numbers are written in their column's format, and known by their names", () => {
  const { plan, tables, findings } = compileText(`still: 1
report: R
tables:
  t:
    rows: "day,size,n\\n2024-03-01,1234.5,1\\n2024-04-01,2000,2\\n,,3\\n"
    columns: {size: {format: ",.0f"}}
  months:
    from: t
    steps: [{group: {by: [by_month(day) as month, size], get: {n: sum(n)}}}]
charts:
  a: {from: months, draw: heatmap, x: month, y: size, color: n, axes: {y: {scale: category}}}
  b: {from: t, draw: bars, x: n, y: count(), color: text(size), panels: day}
`);
  expect(findings.filter(({ severity }) => severity === "error")).toEqual([]);
  const model = new Model(plan, tables);
  const a = drawChart(model.chartInput("a", 400, 300, new Set()) as ChartInput);
  const texts = (drawn: typeof a) => drawn.scene.texts.map(({ text }) => text);
  expect(texts(a)).toEqual(expect.arrayContaining(["Mar 2024", "Apr 2024", "1,235", "2,000", "missing"]));
  const b = drawChart(model.chartInput("b", 400, 300, new Set()) as ChartInput);
  expect(texts(b)).toEqual(expect.arrayContaining(["1 Mar 2024", "1 Apr 2024", "missing"]));
});

describe("layers and panels", () => {
  test("a second scale stands at the right and has its own ends", () => {
    const one = drawn(
      "{from: t, x: k, layers: [{draw: bars, y: sum(v)}, {draw: line, y: mean(w), axes: {y: {side: right}}}]}",
    );
    const [bars, line] = [shapeIn(one.drawn, Rects), layerIn(one.drawn, 1).shapes[0]];
    expect(bars.height[1]).toBeGreaterThan(0);
    expect(line?.middle(0).y).toBeGreaterThan(line?.middle(1).y ?? 0);
    expect(texts(one)).toEqual(expect.arrayContaining(["V", "Mean w"]));
  });
  test("panels share their axes unless they say otherwise, and rows name theirs", () => {
    const one = drawn("{from: t, draw: bars, x: k, y: sum(v), panels: c}");
    expect(one.panels).toHaveLength(2);
    expect(one.rows[0]).toEqual({ x: "a", y: 1, panel: "x" });
    expect(one.panels.map(({ y }) => y?.domain)).toEqual([
      [0, 7.5],
      [0, 7.5],
    ]);
    const free = drawn("{from: t, draw: bars, x: k, y: sum(v), panels: {by: c, share: [x]}}");
    expect(free.panels.map(({ y }) => y?.domain[1])).toEqual([6, 7.5]);
    const grid = drawn("{from: t, draw: points, x: v, y: w, panels: {across: k, down: c}}");
    expect(grid.rows[0]).toEqual({ x: 1, y: 2, across: "a", down: "x" });
  });
  test("a layer that is switched off draws nothing", () => {
    expect(drawn("{from: t, x: v, y: w, layers: [{draw: points}, {draw: line, show: false}]}").rows).toHaveLength(4);
  });
});

describe("what does not go together is said", () => {
  test.each([
    ["{from: t, draw: bars, x: k, y: sum(v), size: 3}", 'wrong-key: "size" does not go with bars'],
    ["{from: t, draw: heatmap, x: k, y: c}", "key-missing: heatmap needs x:, y: and color:"],
    ["{from: t, draw: boxes, x: k, y: mean(v)}", "aggregate-here: boxes are made of the rows themselves"],
    ["{from: t, draw: density, x: v, kernel: square}", 'wrong-value: "square" is not one of gaussian'],
    ["{from: t, draw: line, x: d, y: v, size: w}", "constant-look: size of line is one number"],
    ["{from: t, draw: regions, place: k}", "wrong-kind: place: takes a column of places"],
    ["{from: places, draw: points, lon: name, lat: lat}", "wrong-kind: lon must be a number"],
    ["{from: t, draw: points, x: v, map: {}}", "wrong-key: map: goes with lon: and lat:"],
    [
      "{from: t, x: v, layers: [{draw: points}, {draw: slices, color: c, value: v}]}",
      "stages-differ: slices cannot stand over points",
    ],
    ["{from: t, draw: points, x: v, panels: sum(v)}", "aggregate-here: panels are told apart"],
  ])("%s", (chart, said) => {
    expect(problems(chart)[0]).toContain(said);
  });
});

describe("labels", () => {
  const wordsOf = (chart: string, width?: number, height?: number) => {
    const { drawn: one } = drawn(chart, width, height);
    const found = (one.panels[0]?.layers ?? []).flatMap(({ over = [] }) => over as Words[]);
    return found.flatMap(({ parts, paints, color }) =>
      parts.texts.map((text, at) => ({
        text,
        paint: paints[color[at] as number],
        x: parts.x[at] as number,
        anchor: parts.anchor,
      })),
    );
  };
  test("of bars stand beyond their ends, within them where there is no room, and on parts of stacks", () => {
    const lying = wordsOf("{from: t, draw: bars, y: k, x: sum(v), label: sum(v), axes: {x: {range: [0, 12]}}}");
    expect(lying.map(({ text, anchor, paint }) => [text, anchor, paint === "ink"])).toEqual([
      ["4", "start", true],
      ["12", "middle", false],
    ]);
    const stacked = wordsOf("{from: t, draw: bars, x: k, y: sum(v), color: c, label: sum(v)}");
    expect(stacked.map(({ text }) => text).sort()).toEqual(["3", "5", "7"]);
    expect(stacked.every(({ paint }) => paint?.startsWith("on:"))).toBe(true);
  });
  test("of cells, slices and lines stand on them, in them and at their ends", () => {
    expect(wordsOf("{from: t, draw: heatmap, x: k, y: c, color: sum(v), label: sum(v)}")).toHaveLength(4);
    // No words where they would reach over their cell or slice.
    expect(wordsOf("{from: t, draw: heatmap, x: k, y: c, color: sum(v), label: sum(v * 1000000)}", 130, 200)).toEqual(
      [],
    );
    const slices = wordsOf("{from: t, draw: slices, color: c, value: sum(v) ^ 9, label: c}");
    expect(slices.map(({ text }) => text)).toEqual(["y"]);
    const lines = wordsOf("{from: t, draw: line, x: d, y: sum(v), series: k, label: k}");
    expect(lines.map(({ text, anchor }) => [text, anchor])).toEqual([
      ["a", "start"],
      ["b", "end"],
    ]);
  });
  test("at places of their own stand apart where few lie on one another, evenly about their middle", () => {
    const heights = (of: string) => {
      const words = shapeIn(drawn(`{from: t, draw: labels, x: ${of}, y: w, label: k}`).drawn, Words);
      return Array.from(words.parts.y);
    };
    // At one place along the axis only what is nearer than a line is moved.
    expect(heights("1")).toEqual(heights("v"));
    const tied = shapeIn(drawn("{from: t, draw: labels, x: 1, y: 'if(w > 5, 6, 2)', label: k}").drawn, Words);
    const apart = shapeIn(drawn("{from: t, draw: labels, x: v, y: 'if(w > 5, 6, 2)', label: k}").drawn, Words);
    const [first, second] = tied.parts.y as unknown as [number, number];
    expect(second - first).toBeCloseTo(12, 9);
    expect((first + second) / 2).toBeCloseTo(apart.parts.y[0] as number, 9);
  });
  test("that would run into others are left out, and those of missing values", () => {
    const close =
      "{from: t, draw: points, x: v / 100, y: w / 100, label: k, axes: {x: {range: [0, 9]}, y: {range: [0, 9]}}}";
    expect(wordsOf(close).map(({ text }) => text)).toEqual(["a"]);
    const some = "if(v > 2, k, missing)";
    expect(wordsOf(`{from: t, draw: points, x: v, y: w, label: '${some}'}`).map(({ text }) => text)).toEqual([
      "a",
      "b",
      "b",
    ]);
  });
});

test("a stretch of one place on a line is a dot", () => {
  const lone = shapeIn(drawn("{from: t, draw: line, x: d, y: sum(v), series: c, keep: v < 4}").drawn, Lines).svg(
    "light",
  );
  expect(lone.match(/<circle /g)).toHaveLength(2);
  expect(lone).not.toContain("<path");
  const whole = shapeIn(drawn("{from: t, draw: line, x: d, y: sum(v), series: c}").drawn, Lines).svg("light");
  expect([whole.match(/<path /g)?.length, whole.includes("<circle")]).toEqual([2, false]);
});

test("a line or track in the colours of a measure is one line, and changes its colour along the way", () => {
  for (const chart of [
    "{from: t, draw: line, x: v, y: w, color: v}",
    "{from: places, draw: track, x: lon, y: lat, along: lon, color: n}",
  ]) {
    const lines = shapeIn(drawn(chart).drawn, Lines);
    expect(lines.starts.length).toBe(2);
    const pieces = [...lines.svg("light").matchAll(/d="M([^"]*)" fill="none" stroke="([^"]*)"/g)];
    expect(new Set(pieces.map(([, , stroke]) => stroke)).size).toBe(pieces.length);
    // Each piece begins where the one before it has ended.
    const ends = pieces.map(([, path]) => (path as string).split("L"));
    expect(ends.slice(1).map(([first]) => first)).toEqual(ends.slice(0, -1).map((piece) => piece.at(-1)));
  }
  const texts = shapeIn(drawn("{from: t, draw: line, x: v, y: w, color: k}").drawn, Lines);
  expect(texts.starts.length).toBe(3);
  // Groups by a number are told apart by it, and each is a line of one colour.
  const grouped = shapeIn(drawn("{from: t, draw: line, x: k, y: sum(w), color: v}").drawn, Lines);
  const colors = [...grouped.svg("light").matchAll(/(?:stroke|fill)="(#[^"]*)"/g)].map(([, color]) => color);
  expect(grouped.starts.length - 1).toBe(new Set(colors).size);
});
