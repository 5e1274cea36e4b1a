import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  arcSine,
  arcTangent,
  cosine,
  decimalLogarithm,
  exponential,
  naturalLogarithm,
  power,
  sine,
  tangent,
} from "./elementary";

/** How many units in the last place of `wanted` two numbers are apart. */
function unitsApart(found: number, wanted: number): number {
  if (Object.is(found, wanted) || found === wanted) return 0;
  const unit = 2 ** Math.max(-1074, Math.floor(Math.log2(Math.abs(wanted))) - 52);
  return Math.abs(found - wanted) / unit;
}

const within = (least: number, most: number) => fc.double({ min: least, max: most, noNaN: true });
const positive = fc.double({ min: Number.MIN_VALUE, max: Number.MAX_VALUE, noNaN: true });

describe("elementary functions", () => {
  // The engine's own are right to one unit too, so that two of them may be two apart.
  test.each<[string, fc.Arbitrary<number>, (x: number) => number, (x: number) => number, number]>([
    ["exponential", within(-745, 709.7), exponential, Math.exp, 2],
    ["naturalLogarithm", positive, naturalLogarithm, Math.log, 2],
    ["decimalLogarithm", positive, decimalLogarithm, Math.log10, 2],
    ["sine", within(-1e5, 1e5), sine, Math.sin, 2],
    ["cosine", within(-1e5, 1e5), cosine, Math.cos, 2],
    ["sine of what is far", within(-1e300, 1e300), sine, Math.sin, 2],
    ["tangent", within(-1e5, 1e5), tangent, Math.tan, 3],
    ["arcSine", within(-1, 1), arcSine, Math.asin, 3],
  ])("%s is near the engine's own", (_, numbers, own, engine, most) => {
    fc.assert(
      fc.property(numbers, (x) => unitsApart(own(x), engine(x)) <= most),
      { numRuns: 1_000 },
    );
  });
  test("powers and angles are near the engine's own", () => {
    fc.assert(
      fc.property(
        within(1e-10, 1e10),
        within(-30, 30),
        (base, exponent) => unitsApart(power(base, exponent), base ** exponent) <= 2,
      ),
      { numRuns: 1_000 },
    );
    fc.assert(
      fc.property(within(-1e8, 1e8), within(-1e8, 1e8), (y, x) => unitsApart(arcTangent(y, x), Math.atan2(y, x)) <= 3),
      { numRuns: 1_000 },
    );
  });
  test("published values, to the last place", () => {
    // Abramowitz and Stegun, Handbook of Mathematical Functions, 1964, tables 1.1, 4.2, 4.4 and 4.6.
    expect(exponential(1)).toBe(Math.E);
    expect(naturalLogarithm(3)).toBe(1.0986122886681098);
    expect(naturalLogarithm(10)).toBe(Math.LN10);
    expect(sine(1)).toBe(0.8414709848078965);
    expect(cosine(1)).toBe(0.5403023058681398);
    expect(power(2, 0.5)).toBe(Math.SQRT2);
    expect(arcTangent(1, 1)).toBe(0.7853981633974483);
    // Ng, Argument reduction for huge arguments, 1992.
    expect(sine(1e22)).toBe(-0.8522008497671888);
  });
  test("whole results are whole", () => {
    for (let base = 2; base <= 60; base++)
      for (let exponent = 2; base ** exponent < 2 ** 53; exponent++) {
        const exact = Number(BigInt(base) ** BigInt(exponent));
        expect([base, exponent, power(base, exponent)]).toEqual([base, exponent, exact]);
        expect(power(-base, exponent)).toBe(exponent % 2 ? -exact : exact);
      }
    for (let exponent = -300; exponent <= 300; exponent++)
      expect(decimalLogarithm(Number(`1e${exponent}`))).toBe(exponent);
    expect([exponential(0), naturalLogarithm(1), sine(0), cosine(0), power(7, 0), power(4, -0.5)]).toEqual([
      1, 0, 0, 1, 1, 0.5,
    ]);
  });
  test("edges: nothing to answer is missing, too large and too small are infinite and 0", () => {
    for (const answer of [
      exponential(Number.NaN),
      naturalLogarithm(0),
      naturalLogarithm(-1),
      decimalLogarithm(-1),
      power(-8, 1 / 3),
      power(Number.NaN, 0),
      power(2, Number.NaN),
      sine(Number.POSITIVE_INFINITY),
      arcTangent(Number.NaN, 1),
    ])
      expect(answer).toBeNaN();
    expect([exponential(710), exponential(-746), power(10, 400), power(10, -400), power(0, -1)]).toEqual([
      Number.POSITIVE_INFINITY,
      0,
      Number.POSITIVE_INFINITY,
      0,
      Number.POSITIVE_INFINITY,
    ]);
    expect([power(2, -1074), naturalLogarithm(5e-324)]).toEqual([5e-324, -744.4400719213812]);
    expect([arcTangent(0, -1), arcTangent(0, 0), arcTangent(1, 0), arcTangent(-1, 0)]).toEqual([
      Math.PI,
      0,
      Math.PI / 2,
      -Math.PI / 2,
    ]);
  });
});
