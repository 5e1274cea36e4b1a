import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type ExactValues, exactValues } from "./exact-sum";

const add = ({ parts }: ExactValues, rows: readonly number[]) =>
  parts.map((part) => rows.reduce((sum, row) => sum + (part[row] as number), 0));
const allOf = (values: ArrayLike<number>) => Array.from({ length: values.length }, (_, row) => row);
const sum = (values: readonly number[], rows = allOf(values)) => {
  const exact = exactValues(Float64Array.from(values));
  return exact.read(add(exact, rows), 0);
};

/** The sum in whole numbers of any length, of values that are multiples of 2^-1074. */
function longHand(values: readonly number[]): number {
  const words = new DataView(new ArrayBuffer(8));
  let total = 0n;
  for (const value of values) {
    words.setFloat64(0, value);
    const bits = words.getBigUint64(0);
    const exponent = Number((bits >> 52n) & 0x7ffn);
    const digits = (bits & 0xfffffffffffffn) | (exponent ? 1n << 52n : 0n);
    total += (value < 0 ? -1n : 1n) * (digits << BigInt(Math.max(1, exponent) - 1));
  }
  const size = total < 0n ? -total : total;
  const surplus = Math.max(0, size.toString(2).length - 60);
  return Math.sign(Number(total)) * Number(size >> BigInt(surplus)) * 2 ** (surplus - 537) * 2 ** -537;
}

describe("exact sums", () => {
  const numbers = fc.array(fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e12, max: 1e12 }), {
    minLength: 1,
    maxLength: 60,
  });
  const decimals = fc.array(
    fc.integer({ min: -1e9, max: 1e9 }).map((value) => value / 100),
    { minLength: 1, maxLength: 60 },
  );
  const manySizes = fc.array(
    fc
      .tuple(fc.double({ noNaN: true, min: -10, max: 10 }), fc.integer({ min: -290, max: 290 }))
      .map(([digits, power]) => digits * 10 ** power),
    { minLength: 1, maxLength: 60 },
  );
  test("taking rows away gives the very sum of the rest", () => {
    fc.assert(
      fc.property(fc.oneof(numbers, decimals, manySizes), fc.integer({ min: 0, max: 59 }), (values, cut) => {
        const exact = exactValues(Float64Array.from(values));
        const all = add(exact, allOf(values));
        const gone = add(exact, allOf(values).slice(0, cut));
        const rest = add(exact, allOf(values).slice(cut).reverse());
        expect(
          Object.is(
            exact.read(
              all.map((total, part) => total - (gone[part] as number)),
              0,
            ) + 0,
            exact.read(rest, 0) + 0,
          ),
        ).toBe(true);
      }),
    );
  });
  test("sums of decimals are the decimals that people write", () => {
    expect(sum([0.1, 0.2, 0.3, Number.NaN])).toBe(0.6);
  });
  test("any choice of rows, whatever the sizes beside it, has its own sum to the last digits", () => {
    fc.assert(
      fc.property(manySizes, fc.integer({ min: 0, max: 59 }), (values, from) => {
        const rows = allOf(values).slice(from);
        const expected = longHand(rows.map((row) => values[row] as number));
        expect(Math.abs(sum(values, rows) - expected)).toBeLessThanOrEqual(Math.abs(expected) * 1e-15);
      }),
      { numRuns: 300 },
    );
  });
  test("small values beside large ones are not lost", () => {
    expect(sum([1e15, Math.PI, -1e15])).toBe(Math.PI);
    expect(sum([1e-14, 2e-14, 1e7], [0, 1])).toBeCloseTo(3e-14, 28);
    expect(sum([1e-300, 1e10], [0])).toBe(1e-300);
    expect(sum([5e-324, 1.5e308], [0])).toBe(5e-324);
    expect(sum([1.2e308, 1.2e308, -1.2e308])).toBe(1.2e308);
  });
  test("where there are too many rows for all sizes, it is known which values count as nothing", () => {
    const values = new Float64Array(3_000_000).fill(1 / 3);
    values[7] = 1e-200;
    const { parts, lost } = exactValues(values);
    expect(parts.length).toBeLessThan(20);
    expect(lost.rows).toBe(1);
    expect(lost.below).toBeLessThan(1e-50);
  });
});
