import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { textColumn } from "./column";
import { summarize } from "./summary";

const numbers = (values: (number | null)[]) => ({
  kind: "number" as const,
  values: Float64Array.from(values, (value) => value ?? Number.NaN),
});

describe("a column summed up", () => {
  it("says range, mean, quartiles and what is missing", () => {
    expect(summarize(numbers([4, 1, null, 3, 2]))).toMatchObject({
      rows: 5,
      missing: 1,
      distinct: 4,
      range: { least: 1, most: 4, mean: 2.5, quartiles: [1.75, 2.5, 3.25] },
    });
  });

  it("counts rows in twenty equal stretches, the last one closed", () => {
    const { bars } = summarize(numbers(Array.from({ length: 41 }, (_, n) => n)));
    expect(bars).toHaveLength(20);
    expect(bars[0]).toBe(2);
    expect(bars.at(-1)).toBe(3);
  });

  it("lists the most frequent values of texts, most frequent first", () => {
    const summary = summarize(textColumn(["a", "b", null, "b", "c", "b", "c"], 7));
    expect(summary).toMatchObject({ kind: "text", rows: 7, missing: 1, distinct: 3, bars: [3, 2, 1] });
    expect(summary.values).toEqual([
      { value: "b", rows: 3 },
      { value: "c", rows: 2 },
      { value: "a", rows: 1 },
    ]);
    expect(summarize({ kind: "boolean", values: Float64Array.of(1, 0, 1, Number.NaN) })).toMatchObject({
      missing: 1,
      distinct: 2,
      bars: [2, 1],
    });
  });

  it("has words for nothing at all and for one value", () => {
    expect(summarize(numbers([]))).toEqual({ kind: "number", rows: 0, missing: 0, distinct: 0, bars: [], values: [] });
    expect(summarize(numbers([null, null]))).toMatchObject({ missing: 2, distinct: 0, bars: [] });
    expect(summarize(numbers([7, 7]))).toMatchObject({ distinct: 1, bars: [2], range: { least: 7, most: 7, mean: 7 } });
  });

  it("has bars for values that lie as close together, or as far apart, as floats can", () => {
    expect(summarize(numbers([0, -5e-324])).bars.reduce((sum, bar) => sum + bar, 0)).toBe(2);
    expect(summarize(numbers([-1.7e308, 0, 1.7e308])).bars.filter((bar) => bar > 0)).toEqual([1, 1, 1]);
  });

  it("loses no row: bars and missing make all rows", () => {
    fc.assert(
      fc.property(fc.array(fc.option(fc.double({ noNaN: true, min: -1e9, max: 1e9 })), { maxLength: 80 }), (values) => {
        const summary = summarize(numbers(values));
        expect(summary.bars.reduce((sum, bar) => sum + bar, 0) + summary.missing).toBe(values.length);
        expect(summary.distinct).toBe(new Set(values.filter((value) => value !== null).map((value) => value + 0)).size);
      }),
    );
  });
});
