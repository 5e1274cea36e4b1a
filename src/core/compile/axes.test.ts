import { describe, expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { Model } from "../model/model";
import { compileText } from "../testing/compile-text";

const sheet = (charts: string, links = "") => `still: 1
report: R
tables:
  t:
    rows: |
      day,km,lat,lon,speed
      2024-01-01,1,54,-3,20
      2024-01-02,2,54.1,-3.1,40
      2024-01-03,3,54.2,-3.2,30
charts:
${charts}${links}`;

const errorsOf = (text: string) =>
  compileText(text)
    .findings.filter(({ severity }) => severity === "error")
    .map(({ code, message }) => `${code}: ${message}`);

function drawn(charts: string) {
  const compiled = compileText(sheet(charts));
  expect(errorsOf(sheet(charts))).toEqual([]);
  const input = new Model(compiled.plan, compiled.tables).chartInput("one", 400, 300, new Set());
  if (!input) throw new Error("no chart");
  return drawChart(input);
}

const LAYERS = (axes: string) => `  one:
    from: t
    x: km
    axes: {y: {title: Way}}
    layers:
      - {draw: line, y: km}
      - {draw: line, y: speed, axes: {y: ${axes}}}
`;

test("an axis has no title where its own is none", () => {
  const texts = (title: string) =>
    drawn(`  one: {from: t, draw: points, x: km, y: speed, axes: {y: {title: ${title}}}}\n`).scene.texts.map(
      ({ text }) => text,
    );
  expect(texts("Way")).toContain("Way");
  expect(texts("none").filter((text) => /none|speed/i.test(text))).toEqual([]);
});

test("along categories numbers and truths have a title, names and years have none", () => {
  const texts = (x: string) =>
    drawn(`  one: {from: t, draw: bars, x: "${x}", y: count(), axes: {x: {scale: category}}}\n`).scene.texts.map(
      ({ text }) => text,
    );
  expect(texts("km")).toContain("Km");
  expect(texts("speed > 25")).toContain("Speed > 25");
  expect(texts("text(km)")).not.toContain("Text km");
  expect(texts("hour(day)")).toContain("Hour of day");
  expect(texts("year(day)")).toEqual(["0", "1", "2", "3", "2024", "T"]);
});

test("the line from which bars go stands at zero where some go below it", () => {
  const lineOf = (y: string, at: "x" | "y" = "y") => {
    const chart = at === "y" ? `x: km, y: "${y}"` : `y: text(km), x: "${y}"`;
    const { scene, panels } = drawn(`  one: {from: t, draw: bars, ${chart}}\n`);
    const [line] = scene.axisLines;
    return { line, panel: panels[0] };
  };
  const { line, panel } = lineOf("speed - 30");
  expect(line?.y1).toBeCloseTo(panel?.y?.place(0) ?? 0, -0.5);
  const above = lineOf("speed");
  expect(above.line?.y1).toBeCloseTo((above.panel?.plot.y ?? 0) + (above.panel?.plot.height ?? 0), -0.5);
  const lying = lineOf("speed - 30", "x");
  expect(lying.line?.x1).toBeCloseTo(lying.panel?.x?.place(0) ?? 0, -0.5);
});

test("what holds whole numbers alone has no ticks between them", () => {
  const ticks = (y: string) =>
    drawn(`  one: {from: t, draw: points, x: day, y: "${y}"}\n`).panels[0]?.y?.ticks.map(({ text }) => text);
  expect(ticks("km")).toEqual(["1", "2", "3"]);
  expect(ticks("max(km)")).toEqual(["1", "2", "3"]);
  expect(ticks("km / 2")).toContain("0.5");
});

describe("a second scale", () => {
  test("has words of its own, and leaves those of the first alone", () => {
    const { scene } = drawn(LAYERS('{side: right, title: "Speed of {count()} days", from_zero: true, format: ".2f"}'));
    const texts = scene.texts.map(({ text }) => text);
    expect(texts).toContain("Way");
    expect(texts).toContain("Speed of 3 days");
    expect(texts).toContain("40.00");
    expect(texts).toContain("0.00");
  });
  test("needs side: right for words beside the chart's", () => {
    expect(errorsOf(sheet(LAYERS("{title: Speed}")))).toEqual([
      "wrong-key: title: goes under the axes: of the chart, or beside side: right for a scale of its own",
    ]);
  });
});

describe("an upright axis at the right", () => {
  test("writes its words right of the plot", () => {
    const { scene, panels } = drawn("  one: {from: t, draw: line, x: km, y: speed, axes: {y: {side: right}}}\n");
    const plot = panels[0]?.plot;
    const word = scene.texts.find(({ text }) => text === "30");
    expect(word?.x).toBeGreaterThan((plot?.x ?? 0) + (plot?.width ?? 0));
    expect(plot?.x).toBeLessThan(10);
    expect(scene.texts.find(({ text }) => text === "Speed")?.anchor).toBe("end");
  });
  test("leaves no room for a second scale there", () => {
    const text = LAYERS("{side: right}").replace("title: Way", "side: right");
    expect(errorsOf(sheet(text))[0]).toContain("the other scale stands at the right already");
  });
});

test("a format that cannot write the values is found", () => {
  const chart = (more: string) => sheet(`  one: {from: t, draw: line, x: day, y: speed, ${more}}\n`);
  expect(errorsOf(chart('axes: {x: {format: ".1f"}}'))[0]).toContain("is no format for a date");
  expect(errorsOf(chart('axes: {x: {format: "%d"}}'))).toEqual([]);
  const figure = (format: string) =>
    sheet(`  one: {from: t, draw: figure, value: sum(km) / sum(speed), format: ${format}}\n`);
  expect(errorsOf(figure('".1%"'))).toEqual([]);
  expect(errorsOf(figure("zzz"))[0]).toContain("is no format for a number");
});

test("a crosshair on a map marks the place of the rows", () => {
  const charts = `  profile: {from: t, draw: line, x: km, y: speed}
  way: {from: t, draw: track, lon: lon, lat: lat, along: km}
`;
  const compiled = compileText(sheet(charts, "links: [hover x on profile -> crosshair way]\n"));
  expect(compiled.plan.selections[0]?.effects).toEqual([{ effect: "highlight", written: "crosshair", target: "way" }]);
  const model = new Model(compiled.plan, compiled.tables);
  model.engine.select("profile.hover", { keys: [{ km: 2 }] });
  const input = model.chartInput("way", 400, 300, new Set());
  expect(input?.layers[0]?.current.counts.filter((count) => count > 0)).toHaveLength(1);
});
