import { describe, expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { chartRows } from "../chart/rows";
import { tooltipLines } from "../chart/tooltip";
import { Model } from "../model/model";
import { compileText } from "../testing/compile-text";
import { layerIn } from "../testing/drawn";

const SHEET = `still: 1
report: R
tables:
  t:
    columns:
      tonnes: {label: Cargo, unit: t}
      waited: {unit: h}
    rows: |
      berth,cargo,tonnes,waited,day
      a,x,10,1,2024-01-01
      a,y,20,2,2024-01-02
      b,x,30,4,2024-02-03
controls:
  axis: {set: tonnes, of: [tonnes, waited, day, cargo]}
  by: {set: berth, of: [berth, cargo]}
  how: {set: sum, of: [sum, max]}
charts:
  dots: {from: t, draw: points, x: chosen($axis), y: waited, color: chosen($by)}
  bars: {from: t, draw: bars, x: chosen($by), y: "agg($how, tonnes)"}
  count: {from: t, draw: figure, value: count()}
links:
  - brush x on dots -> filter count
`.replace("brush x on dots", "click on bars");

const BRUSHED = SHEET.replace("[tonnes, waited, day, cargo]", "[tonnes, waited]").replace(
  "click on bars -> filter count",
  "brush x on dots -> filter count",
);

function modelOf(sheet = SHEET) {
  const compiled = compileText(sheet);
  expect(compiled.findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
  return new Model(compiled.plan, compiled.tables);
}

function drawn(model: Model, name: string) {
  const input = model.chartInput(name, 400, 200, new Set());
  if (!input) throw new Error("no chart");
  const result = drawChart(input);
  const layer = layerIn(result);
  const plan = input.plan.layers[0];
  return {
    rows: chartRows(input, result),
    words: result.scene.texts.map(({ text }) => text),
    scale: result.panels[0]?.x?.type,
    tip: plan ? tooltipLines(plan, layer.values, layer.shapes[0]?.ids[0] ?? 0).map(({ label }) => label) : [],
    color: input.color,
  };
}

describe("a column that a reader chooses", () => {
  test("brings its own words, kind, axis and colours", () => {
    const model = modelOf();
    expect(drawn(model, "dots")).toMatchObject({ scale: "linear", tip: ["Cargo", "waited", "berth"] });
    expect(drawn(model, "dots").words).toContain("Cargo, t");
    model.engine.setSetting("axis", "waited");
    expect(drawn(model, "dots").words).toContain("Waited, h");
    model.engine.setSetting("axis", "day");
    expect(drawn(model, "dots")).toMatchObject({ scale: "time" });
    expect(drawn(model, "dots").rows[0]).toMatchObject({ x: "2024-01-01" });
    model.engine.setSetting("axis", "cargo");
    expect(drawn(model, "dots").scale).toBe("category");
    model.engine.setSetting("by", "cargo");
    expect(drawn(model, "dots").color).toMatchObject({ names: ["x", "y"] });
  });
  test("can be grouped by, with an aggregate that is chosen too", () => {
    const model = modelOf();
    expect(drawn(model, "bars").rows).toEqual([
      { x: "a", y: 30 },
      { x: "b", y: 30 },
    ]);
    model.engine.setSetting("by", "cargo");
    model.engine.setSetting("how", "max");
    expect(drawn(model, "bars").rows).toEqual([
      { x: "x", y: 30 },
      { x: "y", y: 20 },
    ]);
  });
  test("is picked by the column that was shown", () => {
    const model = modelOf();
    model.engine.select("bars", { keys: [{ berth: "b" }] });
    model.engine.setSetting("by", "cargo");
    expect(model.plainAnswer("count")?.answer.counts[0]).toBe(1);
  });
  test("keeps a brush on the column that was brushed", () => {
    const model = modelOf(BRUSHED);
    model.engine.select("dots", { x: [15, 40], on: { x: "tonnes" } });
    expect(model.plainAnswer("count")?.answer.counts[0]).toBe(2);
    model.engine.setSetting("axis", "waited");
    expect(model.plainAnswer("count")?.answer.counts[0]).toBe(2);
  });
  test("is known to menus by its label", () => {
    const { plan } = compileText(BRUSHED);
    expect(plan.controls[0]).toMatchObject({
      of: [
        { value: "tonnes", label: "Cargo" },
        { value: "waited", label: "waited" },
      ],
    });
  });
  test("that cannot stand there is said with the choice that makes it so", () => {
    const { findings } = compileText(SHEET.replace("y: waited,", "y: chosen($axis) + 1,"));
    expect(findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual(
      expect.arrayContaining([expect.stringContaining("once cargo + 1 is chosen")]),
    );
  });
});
