import { describe, expect, test } from "vitest";
import { figureHtml, figureSizes } from "./figure-html";

const html = (value: string, unit = "") =>
  figureHtml([{ texts: { value, unit, compare: "", number: 1 } }], false, "light");

describe("the number of a figure", () => {
  test("is made small enough for a narrow piece by how many signs it has, its unit among them", () => {
    expect(html("1,234")).toContain("<span>1,234</span>");
    expect(html("213,507,350")).toContain('<span class="signs-11">213,507,350</span>');
    expect(html("213,507,350", "kWh")).toContain('<span class="signs-14">213,507,350 <small>kWh</small></span>');
    expect(html("9".repeat(80))).toContain('class="signs-28"');
  });
  test("has a size for every number of signs, smaller from one to the next", () => {
    const sizes = [...figureSizes().matchAll(/\.signs-(\d+)\{font-size:min\(27px,([\d.]+)cqi\)\}/g)];
    expect(sizes.map(([, signs]) => Number(signs))).toEqual(Array.from({ length: 21 }, (_, at) => at + 8));
    for (const [, signs, size] of sizes) expect(Number(signs) * Number(size) * 0.55).toBeLessThan(100);
    const widths = sizes.map(([, , size]) => Number(size));
    expect([...widths].sort((a, b) => b - a)).toEqual(widths);
  });
  test("is made smaller beside others, so that they stand in one row", () => {
    const row = (values: string[], by: string) =>
      figureHtml(
        values.map((value) => ({ texts: { value, unit: "", compare: "", number: 1 }, by })),
        true,
        "light",
      );
    expect(row(["9"], "a")).toContain('class="figures row-of-12"');
    // Four numbers of five signs and three gaps of less than two.
    expect(row(Array(4).fill("4,223"), "stalls")).toContain('class="figures row-of-30"');
    expect(row(Array(4).fill("7"), "of the second circle")).toContain('class="figures row-of-48"');
    expect(row(Array(40).fill("4,223"), "stalls")).toContain('class="figures row-of-60"');
    for (const signs of [12, 30, 48, 60]) expect(figureSizes()).toContain(`.row-of-${signs} .number span{`);
  });
});
