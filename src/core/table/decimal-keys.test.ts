import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { decimalKeys } from "./decimal-keys";

const N = Number.NaN;

describe("values as whole numbers of their last decimal", () => {
  test("are numbered from the least one on, missing aside", () => {
    expect(decimalKeys(Float64Array.of(0.5, -0.25, N, 1))).toEqual({
      keys: Int32Array.of(75, 0, -1, 125),
      count: 126,
    });
  });
  test("are not made of long or far numbers, nor of nothing", () => {
    expect(decimalKeys(Float64Array.of(1 / 3))).toBeUndefined();
    expect(decimalKeys(Float64Array.of(0, 1e9))).toBeUndefined();
    expect(decimalKeys(Float64Array.of(N))).toBeUndefined();
    expect(decimalKeys(Float64Array.of(Number.POSITIVE_INFINITY, 1))).toBeUndefined();
  });
  test("stand in the order of the values, equal for equal ones", () => {
    const decimals = fc
      .integer({ min: -900, max: 900 })
      .chain((digits) => fc.constantFrom(1, 10, 100, 1000).map((unit) => digits / unit));
    fc.assert(
      fc.property(fc.array(fc.tuple(decimals, decimals), { minLength: 1, maxLength: 20 }), (pairs) => {
        const { keys } = decimalKeys(Float64Array.from(pairs.flat())) ?? {};
        pairs.forEach(([a, b], at) => {
          const [ka, kb] = [keys?.[2 * at] as number, keys?.[2 * at + 1] as number];
          expect(Math.sign(ka - kb)).toBe(Math.sign(a - b));
        });
      }),
    );
  });
});
