import { describe, expect, test } from "vitest";
import { Model } from "../model/model";
import { isoDatetime } from "../table/calendar";
import { compileText } from "../testing/compile-text";

/** Two readings so many minutes apart, drawn by the minute. */
function minutes(apart: number, formula = "by_minute(at)", more = "") {
  const text = `still: 1
report: R
tables:
  tides:
    rows: |
      at,v
      2020-01-01 00:00,1
      ${isoDatetime(1577836800 + apart * 60)
        .slice(0, 16)
        .replace("T", " ")},2
charts:
  lines: {from: tides, draw: line, x: "${formula}", y: count()}
${more}`;
  const compiled = compileText(text);
  return {
    findings: compiled.findings.filter(({ severity }) => severity === "error").map(({ message }) => message),
    compiled,
  };
}

describe("bins and periods by the hundred thousand", () => {
  test("are all there, with the rows of the last ones in the last ones", () => {
    const { compiled, findings } = minutes(50_000);
    expect(findings).toEqual([]);
    const model = new Model(compiled.plan, compiled.tables);
    const { all, current } = model.chartInput("lines", 400, 300, new Set())?.layers[0] ?? {};
    expect(all?.prepared.edges.get("x")?.starts.length).toBe(50_001);
    expect(all?.prepared.groupCount).toBe(50_001);
    const x = current?.prepared.keys.get("x");
    const filled = Array.from(current?.counts ?? [], (count, group) =>
      count ? x?.kind === "datetime" && x.values[group] : undefined,
    ).filter((at) => at !== undefined);
    expect(filled).toEqual([1577836800, 1577836800 + 50_000 * 60]);
  });
  test("a million periods are not cut", () => {
    const { compiled, findings } = minutes(999_000);
    expect(findings).toEqual([]);
    expect(
      new Model(compiled.plan, compiled.tables).chartInput("lines", 400, 300, new Set())?.layers[0]?.all.prepared
        .groupCount,
    ).toBe(999_001);
  });
  test("where the empty ones of all series are too many, that is said", () => {
    const rows = Array.from(
      { length: 8 },
      (_, at) => `      ${isoDatetime(1577836800 + at * 7_000_000).replace("T", " ")},s${at}`,
    ).join("\n");
    const { findings } = compileText(
      `still: 1\nreport: R\ntables:\n  tides:\n    rows: |\n      at,s\n${rows}\ncharts:\n  lines: {from: tides, draw: line, x: by_minute(at), y: count(), color: s}\n`,
    );
    expect(findings).toMatchObject([
      {
        code: "empty-stretches",
        severity: "warning",
        message: expect.stringContaining("stretches for each of 8 series"),
      },
    ]);
  });
  test("more than a million are a finding with the next larger grain", () => {
    expect(minutes(1_200_000).findings).toEqual([
      "by_minute(at) makes about 1,200,001 periods, and at most 1,000,000 are drawn; take by_hour",
    ]);
  });
  test("of bins too, and of every choice that a reader has", () => {
    const wide = minutes(10, "bin_width(v, 0.0000001)").findings;
    expect(wide).toEqual([
      "bin_width(v, 1e-7) makes about 10,000,001 bins, and at most 1,000,000 are drawn; take a width of 0.00001 or more",
    ]);
    expect(
      minutes(1_200_000, "by($grain, at)", "controls:\n  grain: {set: month, as: menu, of: [month, minute]}\n")
        .findings[0],
    ).toContain("take by_hour");
    expect(
      minutes(10, "bin(v, $bins)", "controls:\n  bins: {set: 20, as: slider, range: [1, 2000000]}\n").findings[0],
    ).toContain("take 1,000,000 at most");
  });
});
