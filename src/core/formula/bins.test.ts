import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { equalBins, keptEdges, widthBins } from "./bins";

/** A decimal as a text of digits before and behind the point. */
const written = (digits: number, places: number) => Number(`${digits}e${-places}`);

describe("bins of decimal widths", () => {
  test("edges are the decimals that people write, and a value at an edge belongs to the bin that begins there", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -100_000, max: 100_000 }),
        fc.integer({ min: 1, max: 999 }),
        fc.integer({ min: 0, max: 6 }),
        (index, digits, places) => {
          const bins = widthBins(written(digits, places));
          const edge = written(index * digits, places);
          expect(bins?.edge(index)).toBe(edge);
          expect(bins?.indexOf(edge)).toBe(index);
        },
      ),
    );
  });
  test("of two hundred multiples of a tenth none lands beside its bin", () => {
    const bins = widthBins(0.1);
    const wrong = Array.from({ length: 200 }, (_, index) => index).filter(
      (index) => bins?.indexOf(written(index, 1)) !== index,
    );
    expect(wrong).toEqual([]);
    expect(bins?.edge(3)).toBe(0.3);
  });
  test("every value lies in its bin, of widths that are no short decimals too", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e9, max: 1e9, noNaN: true }),
        fc.double({ min: 1e-3, max: 1e6, noNaN: true }),
        (value, width) => {
          const bins = widthBins(width);
          const index = bins?.indexOf(value) as number;
          expect((bins?.edge(index) as number) <= value && value < (bins?.edge(index + 1) as number)).toBe(true);
        },
      ),
    );
  });
  test("there is no bin without a width", () => {
    expect([0, -1, Number.NaN, Number.POSITIVE_INFINITY].map(widthBins)).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
  });
});

describe("equal bins", () => {
  test("of decimals have the decimals that are nearest as edges", () => {
    const bins = equalBins(Float64Array.of(0, 0.7, 1), 10);
    expect(Array.from({ length: 11 }, (_, index) => bins?.edge(index))).toEqual([
      0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1,
    ]);
    expect([0.3, 0.6, 0.7, 1].map((value) => bins?.indexOf(value))).toEqual([3, 6, 7, 9]);
  });
  test("hold every value, the largest in the last one", () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1e12, max: 1e12, noNaN: true }), { minLength: 1, maxLength: 20 }),
        fc.integer({ min: 1, max: 50 }),
        (list, count) => {
          const values = Float64Array.from(list);
          const bins = equalBins(values, count);
          const start = bins && keptEdges(bins, 0, bins.count - 1);
          for (const value of list) {
            const index = bins?.indexOf(value) as number;
            expect(index >= 0 && index < (bins?.count as number)).toBe(true);
            expect(bins?.edge(index)).toBeLessThanOrEqual(value);
            if (index + 1 < (bins?.count as number)) expect(bins?.edge(index + 1)).toBeGreaterThan(value);
            expect(start?.(value)).toBe(bins?.edge(index));
          }
        },
      ),
    );
  });
  test("of more than ten thousand are not fewer", () => {
    expect(equalBins(Float64Array.of(0, 1), 500_000)?.count).toBe(500_000);
  });
});
