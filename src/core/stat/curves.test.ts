import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { compileText } from "../testing/compile-text";
import { densityCurve, KERNELS } from "./kernel-density";
import { smoothCurve } from "./local-regression";

const area = ({ x, y }: { x: Float64Array; y: Float64Array }) =>
  x.reduce(
    (sum, value, at) =>
      at === 0 ? 0 : sum + ((value - (x[at - 1] as number)) * ((y[at] as number) + (y[at - 1] as number))) / 2,
    0,
  );

describe("smooth", () => {
  test("a line is its own smooth, at 200 places from end to end, whatever the span", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -5, max: 5, noNaN: true }),
        fc.double({ min: 0.05, max: 1, noNaN: true }),
        fc.integer({ min: 3, max: 80 }),
        (slope, span, n) => {
          const x = Float64Array.from({ length: n }, (_, at) => at * 0.5);
          const curve = smoothCurve(
            x,
            x.map((value) => slope * value + 1),
            span,
          );
          expect(curve.x).toHaveLength(200);
          expect([curve.x[0], curve.x[199]]).toEqual([0, (n - 1) * 0.5]);
          curve.y.forEach((y, at) => {
            expect(Math.abs(y - (slope * (curve.x[at] as number) + 1))).toBeLessThan(1e-5);
          });
        },
      ),
      { numRuns: 60 },
    );
  });
  test("by hand: in the middle of three points with all of them near, weights at the ends fall to nothing", () => {
    // At x = 1 both ends lie at the very edge of the window, so that the middle alone counts.
    const curve = smoothCurve(Float64Array.of(0, 1, 2), Float64Array.of(0, 3, 0), 1);
    const middle = curve.y[curve.x.findIndex((x) => x >= 1)] as number;
    expect(middle).toBeGreaterThan(2.9);
  });
  test("missing rows do not count; one place, or none, gives no curve", () => {
    expect(smoothCurve(Float64Array.of(0, Number.NaN, 1, 2), Float64Array.of(0, 9, 1, 2), 1).y[0]).toBeCloseTo(0, 9);
    expect(smoothCurve(Float64Array.of(1, 1), Float64Array.of(1, 2), 1).x).toHaveLength(0);
    expect(smoothCurve(new Float64Array(0), new Float64Array(0), 1).x).toHaveLength(0);
  });
  test("many rows are put in bins and give nearly the same curve", () => {
    const n = 20_000;
    const x = Float64Array.from({ length: n }, (_, at) => at / n);
    const curve = smoothCurve(
      x,
      x.map((value, at) => Math.sin(value * 6) + (at % 2 ? 0.1 : -0.1)),
      0.1,
    );
    curve.y.forEach((y, at) => {
      expect(Math.abs(y - Math.sin((curve.x[at] as number) * 6))).toBeLessThan(0.03);
    });
  });
});

describe("density", () => {
  test.each(KERNELS)("%s has an area of 1 and is as high where values are dense", (kernel) => {
    const values = Float64Array.of(1, 1.1, 1.2, 1.3, 5, Number.NaN);
    const curve = densityCurve(values, kernel, 1);
    expect(area(curve)).toBeCloseTo(1, 1);
    const highest = curve.x[curve.y.indexOf(Math.max(...curve.y))] as number;
    expect(highest).toBeGreaterThan(0.9);
    expect(highest).toBeLessThan(1.5);
  });
  test("wider makes it lower; nothing gives no curve, one value a bump", () => {
    const values = Float64Array.of(1, 2, 3, 4);
    expect(Math.max(...densityCurve(values, "gaussian", 2).y)).toBeLessThan(
      Math.max(...densityCurve(values, "gaussian", 1).y),
    );
    expect(densityCurve(new Float64Array(0), "gaussian", 1).x).toHaveLength(0);
    expect(densityCurve(values, "gaussian", 0).x).toHaveLength(0);
    expect(area(densityCurve(Float64Array.of(3), "gaussian", 1))).toBeCloseTo(1, 1);
  });
});

describe("as steps", () => {
  const sheet = (step: string) =>
    `still: 1\nreport: T\ntables:\n  t:\n    rows: |\n      g,x,y\n      a,0,0\n      a,1,2\n      a,2,4\n      b,0,1\n      b,4,1\n      b,8,1\n    steps:\n      - ${step}\n`;
  const result = (step: string) => {
    const compiled = compileText(sheet(step));
    return {
      table: compiled.stages.get("t")?.tables.at(-1),
      errors: compiled.findings.filter(({ severity }) => severity === "error"),
    };
  };
  test("a curve for each group, under the columns' own names", () => {
    const { table, errors } = result("smooth: {x: x, y: y as level, span: 1, by: g}");
    expect(errors).toEqual([]);
    expect([...(table?.columns.keys() ?? [])]).toEqual(["g", "x", "level"]);
    expect(table?.rowCount).toBe(400);
  });
  test("densities, kernels by name", () => {
    expect([...(result("density: {of: x, kernel: triangular}").table?.columns.keys() ?? [])]).toEqual(["x", "density"]);
    expect(result("density: {of: x, kernel: square}").errors[0]?.message).toContain("gaussian, epanechnikov");
    expect(result("smooth: {x: g, y: y}").errors[0]?.message).toContain("numbers or times");
    expect(result("smooth: {x: x, y: x}").errors[0]?.message).toContain("give one a name");
  });
});
