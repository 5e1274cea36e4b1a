import { describe, expect, test } from "vitest";
import type { Outlines } from "../scene/shapes/outlines";
import type { Segments } from "../scene/shapes/segments";
import { modelOf } from "../testing/shown";
import { type Drawn, drawChart } from "./draw";
import { figureHtml } from "./figure-html";

const drawn = (rows: string, chart: string, width = 400): Drawn => {
  const model = modelOf(`still: 1
report: R
tables:
  t:
    rows: |
      k,v,d
${rows
  .split(" ")
  .map((row) => `      ${row}\n`)
  .join("")}    columns: {k: text, v: number, d: date}
charts: {one: ${chart}}
`);
  const input = model.chartInput("one", width, 300, new Set());
  if (!input) throw new Error("no chart");
  return drawChart(input);
};
const shapesOf = ({ scene }: Drawn) => scene.panels.flatMap(({ shapes }) => shapes);
const ticksOf = ({ panels }: Drawn) => panels[0]?.x?.ticks.map(({ text }) => text);

describe("where there is little to draw", () => {
  test("rows of which nothing is known are told from rows that do not pass", () => {
    expect(drawn("a,, b,,", "{from: t, draw: points, x: v, y: v}").scene.message).toBe("No known values");
    expect(drawn("a,1, b,,", "{from: t, keep: v > 5, draw: points, x: v, y: v}").scene.message).toBe("No rows pass");
    expect(drawn("a,1, b,,", "{from: t, draw: points, x: v, y: v}").scene.message).toBeUndefined();
  });
  test("an axis of no moments has no ticks", () => {
    expect(ticksOf(drawn("a,1,", "{from: t, draw: line, x: by_month(d), y: sum(v)}"))).toEqual([]);
    expect(ticksOf(drawn("a,1,", "{from: t, draw: points, x: d, y: v}"))).toEqual([]);
  });
  test("periods have no ticks between their beginnings", () => {
    const months = "{from: t, draw: line, x: by_month(d), y: sum(v)}";
    expect(ticksOf(drawn("a,1,2024-02-03", months))).toEqual(["Feb 2024", "Mar"]);
    expect(ticksOf(drawn("a,1,2024-02-03 b,2,2024-03-09", months))).toEqual(["Feb 2024", "Mar", "Apr"]);
    expect(ticksOf(drawn("a,1,2024-02-03 b,2,2024-03-09", "{from: t, draw: points, x: d, y: v}"))).toContain("19 Feb");
  });
  test("an axis of moments has more ticks than one", () => {
    const rows = Array.from(
      { length: 19 },
      (_, at) => `a,1,${2023 + Math.floor((at + 3) / 12)}-${String(((at + 3) % 12) + 1).padStart(2, "0")}-05`,
    );
    const ticks = ticksOf(drawn(rows.join(" "), "{from: t, draw: bars, x: by_month(d), y: count()}", 260));
    expect(ticks).toEqual(["Apr", "Jul", "Oct", "2024", "Apr", "Jul", "Oct"]);
  });
  test("one slice is a whole circle or ring, without a cut", () => {
    const rings = (more: string, rows = "a,3,") => {
      const [slices] = shapesOf(drawn(rows, `{from: t, draw: slices, color: k, value: sum(v)${more}}`));
      return (slices as Outlines).rings.map((own) => own.map((ring) => ring.length / 2));
    };
    const [[circle] = []] = rings("");
    expect(circle).toBeGreaterThan(100);
    expect(rings("")).toEqual([[circle]]);
    expect(rings(", ring: 0.5")).toEqual([[circle, circle]]);
    // A part has its two edges in one outline, which ends in the middle.
    expect(rings("", "a,3, b,1,").map((own) => own.length)).toEqual([1, 1]);
  });
  test("a box without height is a line, which that of its median does not cover", () => {
    const medianOf = (rows: string) => {
      const [, , , , median] = shapesOf(drawn(rows, "{from: t, draw: boxes, x: k, y: v}"));
      const { x1, x2 } = (median as Segments).parts;
      return (x2[0] as number) - (x1[0] as number);
    };
    expect(medianOf("a,3, a,3, a,3,")).toBe(0);
    expect(medianOf("a,1, a,3, a,9,")).toBeGreaterThan(20);
  });
  test("figures for each value say that there are none", () => {
    expect(figureHtml([], true, "light")).toContain("No rows pass");
  });
});
