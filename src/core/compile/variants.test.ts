import { describe, expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { chartRows } from "../chart/rows";
import { partsOf } from "../dashboard/parts";
import { Model } from "../model/model";
import { compileText } from "../testing/compile-text";

const sheet = (controls: string, chart: string) => `still: 1
report: R
tables:
  t:
    rows: |
      k,c,v,w
      a,x,1,10
      b,y,200,20
      b,x,40,30
controls: ${controls}
charts:
  one: ${chart}
`;

const errorsOf = (text: string) =>
  compileText(text)
    .findings.filter(({ severity }) => severity === "error")
    .map(({ message }) => message);

function opened(controls: string, chart: string) {
  const text = sheet(controls, chart);
  expect(errorsOf(text)).toEqual([]);
  const { plan, tables } = compileText(text);
  const model = new Model(plan, tables);
  const now = () => {
    const input = model.chartInput("one", 400, 300, new Set());
    if (!input) throw new Error("no chart");
    const drawn = drawChart(input);
    return { input, drawn, rows: chartRows(input, drawn), texts: drawn.scene.texts.map(({ text: words }) => words) };
  };
  return { plan, model, now };
}

describe("looks that a setting says", () => {
  test("are the mark, with the axes that each mark asks for", () => {
    const { plan, model, now } = opened(
      "{mark: {set: bars, of: [bars, points, line]}}",
      "{from: t, draw: $mark, x: v, y: sum(w)}",
    );
    expect(now().drawn.panels[0]?.x?.type).toBe("category");
    model.engine.setSetting("mark", "points");
    expect(now().input.plan.layers[0]?.draw).toBe("points");
    expect(now().drawn.panels[0]?.x?.type).toBe("linear");
    expect(partsOf(plan)).toEqual(expect.arrayContaining(["mark-bars", "mark-line", "mark-points"]));
  });
  test("are scales, stackings and switches, in any layer", () => {
    const { model, now } = opened(
      "{scale: {set: linear, of: {linear: Even, log: By factors}}, zero: {set: false}, mark: {set: line, of: [line, points]}}",
      "{from: t, x: w, axes: {y: {scale: $scale, from_zero: $zero}}, layers: [{draw: points, y: v}, {draw: $mark, y: v + 1}]}",
    );
    expect(now().texts).not.toContain("V (log)");
    model.engine.setSetting("scale", "log");
    expect(now().texts).toContain("V (log)");
    model.engine.setSetting("scale", "linear");
    expect(now().drawn.panels[0]?.y?.domain[0]).toBe(0);
    model.engine.setSetting("mark", "points");
    expect(now().input.plan.layers.map(({ draw }) => draw)).toEqual(["points", "points"]);
  });
  test("are those of the first categories too", () => {
    const { model, now } = opened(
      "{mark: {set: bars, of: [bars, points]}}",
      "{from: t, draw: $mark, x: k, y: sum(v), top: {x: 1}}",
    );
    expect(now().input.plan.layers[0]?.draw).toBe("bars");
    model.engine.setSetting("mark", "points");
    expect(now().input.plan.layers[0]?.draw).toBe("points");
    expect(now().rows).toHaveLength(1);
  });
  test("go along with columns that a reader chooses, and with colours by ramp", () => {
    const { model, now } = opened(
      "{pal: {set: kelp, of: [kelp, warm]}, by: {set: k, of: [k, c]}}",
      "{from: t, draw: points, x: chosen($by), y: w, color: v, colors: $pal}",
    );
    const paints = () => now().drawn.panels[0]?.layers[0]?.shapes[0]?.paints[0];
    expect(paints()).toBe("kelp:0");
    model.engine.setSetting("pal", "warm");
    model.engine.setSetting("by", "c");
    expect(paints()).toBe("warm:0");
    expect(now().rows.map(({ x }) => x)).toEqual(["x", "y", "x"]);
  });
  test("are refused with a way out where no list closes them, and under each value that does not fit", () => {
    expect(errorsOf(sheet("{m: {set: bars}}", "{from: t, draw: $m, x: k, y: sum(v)}"))[0]).toContain(
      "a control with set: and a closed list of:",
    );
    expect(errorsOf(sheet("{m: {set: bars, of: [bars, barz]}}", "{from: t, draw: $m, x: k, y: sum(v)}"))[0]).toContain(
      '"barz", which $m may be, is not one of points, bars',
    );
    expect(errorsOf(sheet("{m: {set: bars, of: [bars, slices]}}", "{from: t, draw: $m, x: k, y: sum(v)}"))).not.toEqual(
      [],
    );
    const six = "of: [points, line, bars, area]";
    const controls = `{a: {set: points, ${six}}, b: {set: line, ${six}}, c: {set: bars, ${six}}}`;
    const chart = "{from: t, x: k, y: sum(v), layers: [{draw: $a}, {draw: $b}, {draw: $c}]}";
    expect(errorsOf(sheet(controls, chart))[0]).toContain("make 64 charts of this one; up to 60 can be");
  });
});
