import { describe, expect, test } from "vitest";
import { Model } from "../model/model";
import { compileText } from "../testing/compile-text";
import { drawChart } from "./draw";
import { hasLegend, legendHtml, legendItems, legendRuns } from "./legend";

const sheet = (chart: string) => `still: 1
report: R
tables:
  t:
    columns: {people: {label: People}, change: {unit: "%"}}
    rows: |
      place,side,people,change,x
      a,north,1000,-2,1
      b,south,40,8,2
      c,north,,4,3
charts:
  one: ${chart}
`;

function keysOf(chart: string) {
  const compiled = compileText(sheet(chart));
  expect(compiled.findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
  const model = new Model(compiled.plan, compiled.tables);
  const input = model.chartInput("one", 300, 200, new Set());
  if (!input) throw new Error("no chart");
  return { keys: model.legendKeys("one"), plan: input.plan, paints: drawChart(input).panels[0]?.layers[0]?.shapes[0] };
}

const errorOf = (chart: string) =>
  compileText(sheet(chart)).findings.find(({ severity }) => severity === "error")?.message;

describe("a legend", () => {
  test("says what areas of points mean, in round values that it has room for", () => {
    const { keys, plan } = keysOf("{from: t, draw: points, x: x, y: change, size: people}");
    expect(hasLegend(plan, keys)).toBe(true);
    const items = legendItems(keys, "light");
    expect(items.map(({ after }) => after)).toEqual(["50", "100", "500"]);
    expect(items[0]?.before).toBe("People");
    // They stand in one line: one of them alone says nothing.
    expect(legendRuns(items)).toEqual([items]);
    expect(legendHtml(keys, "light")).toMatch(/^<span class="run">(<span>.*?<\/span>){3}<\/span>$/);
    const [, hundred, most] = keys.sizes?.marks ?? [];
    expect((most?.radius ?? 0) ** 2 / (hundred?.radius ?? 1) ** 2).toBeCloseTo(5, 9);
  });
  test("shows sizes among the values that there are, where these are near one another", () => {
    const shown = (size: string) =>
      legendItems(keysOf(`{from: t, draw: points, x: x, y: change, size: ${size}}`).keys, "light").map(
        (one) => one.after,
      );
    expect(shown("people / 10 + 60")).toEqual(["50", "100"]);
    // None is below the smallest of all.
    expect(shown("people * 0.008 + 1")).toEqual(["2", "5"]);
    expect(shown("people * 0 + 60")).toHaveLength(3);
  });
  test("writes large and tiny values short, as axes do", () => {
    const texts = (chart: string) =>
      legendItems(keysOf(chart).keys, "light").map(({ before, after }) => [before, after]);
    const large = "{from: t, draw: points, x: x, y: change, size: people * 1e9}";
    expect(texts(large).map(([, after]) => after)).toEqual(["50G", "100G", "500G"]);
    expect(texts("{from: t, draw: points, x: x, y: change, color: people * 1e9}")[0]?.[1]).toBe("1T");
    const [tiny] = texts("{from: t, draw: points, x: x, y: change, color: people / 1e9}");
    expect(tiny?.map((text) => text?.split(" ").at(-1))).toEqual(["4e-8", "0.000001"]);
  });
  test("says what the quiet colour of missing values means, beside a ramp", () => {
    const texts = (color: string) =>
      legendItems(keysOf(`{from: t, draw: points, x: x, y: change, color: ${color}}`).keys, "light").map(
        ({ after, joined }) => [after, joined],
      );
    expect(texts("people")).toEqual([
      ["1,000", undefined],
      ["missing", true],
    ]);
    expect(texts("change")).toEqual([["8 %", undefined]]);
  });
  test("says what symbols mean; one that says the same as a colour stands in its entry", () => {
    const apart = keysOf("{from: t, draw: points, x: x, y: change, symbol: side}");
    expect(legendItems(apart.keys, "light").map(({ after, entry }) => [after, entry])).toEqual([
      ["north", undefined],
      ["south", undefined],
    ]);
    const both = legendItems(
      keysOf("{from: t, draw: points, x: x, y: change, symbol: side, color: side}").keys,
      "light",
    );
    expect(both.map(({ after, entry }) => [after, entry])).toEqual([
      ["north", 0],
      ["south", 1],
    ]);
    expect(both[1]?.picture).toContain("<polygon");
  });
  test("says of what something is true or false", () => {
    const { keys } = keysOf("{from: t, draw: points, x: x, y: change, color: people > 100}");
    expect(legendItems(keys, "light").map(({ before, entry, after }) => [before, entry, after])).toEqual([
      ["people > 100", undefined, ""],
      [undefined, 0, "false"],
      [undefined, 1, "true"],
      [undefined, 2, "missing"],
    ]);
    expect(legendHtml(keys, "light")).toMatch(/^<span>people &gt; 100<\/span>/);
  });
  test("has none of sizes where there is nothing to compare", () => {
    expect(keysOf("{from: t, draw: points, x: x, y: change, size: 30}").keys.sizes).toBeUndefined();
    expect(legendHtml(keysOf("{from: t, draw: points, x: x, y: change}").keys, "light")).toBe("");
  });
});

describe("colours of numbers", () => {
  const paints = (more: string) => {
    const shape = keysOf(`{from: t, draw: points, x: x, y: x, color: change, ${more}}`).paints;
    return [...(shape?.color ?? [])].map((place) => shape?.paints[place]);
  };
  test("go along the ramp that is said, or through colours of the author's own", () => {
    expect(paints("colors: slate")).toEqual(["slate:0", "slate:1", "slate:0.594"]);
    expect(paints('colors: ["#000000", "#ffffff"]')).toEqual(["#000000", "#ffffff", "#979797"]);
  });
  test("go both ways from the middle, and from zero where a ramp of two ways has values on both sides", () => {
    expect(paints("colors: tide")).toEqual(["tide:0.375", "tide:1", "tide:0.75"]);
    expect(paints("colors: tide, middle: 4")).toEqual(["tide:0", "tide:0.844", "tide:0.5"]);
  });
  test("spread over categories in their order where a ramp is asked for", () => {
    const { keys } = keysOf("{from: t, draw: bars, y: place, x: x, color: place, colors: warm}");
    expect(keys.color?.type === "categories" && keys.color.paints).toEqual(["warm:0", "warm:0.5", "warm:1"]);
  });
  test("are refused with a way out where they do not fit", () => {
    const chart = (more: string) => `{from: t, draw: points, x: x, y: x, ${more}}`;
    expect(errorOf(chart("color: change, colors: quay"))).toContain("takes a ramp: kelp, warm, slate, tide, lamp");
    expect(errorOf(chart('color: change, colors: {"4": "#aa0000"}'))).toContain("write tide or lamp, or a list");
    expect(errorOf(chart("color: side, middle: 3"))).toContain("middle: goes with a color: of numbers");
    expect(errorOf(chart("middle: 3"))).toContain("middle: goes with a color: of numbers");
  });
});
