import { describe, expect, test } from "vitest";
import { type Column, valueAt } from "../table/column";
import { compileText } from "../testing/compile-text";
import { chance } from "./draws";
import { bearingDegrees, distanceKilometres } from "./functions/geography";

/** The column `out` after adding a formula to some rows, or what is wrong with it. */
function added(formula: string, rows: string, more = "", controls = "") {
  const text = `still: 1\nreport: T\n${controls}tables:\n  t:\n    rows: |\n${rows
    .split("\n")
    .map((line) => `      ${line}`)
    .join(
      "\n",
    )}\n    steps:\n      - add:\n          out: '${formula}'\n${more}charts:\n  shown: {draw: table, from: t}\n`;
  const compiled = compileText(text, {});
  const column = compiled.stages.get("t")?.tables.at(-1)?.columns.get("out");
  const errors = compiled.findings.filter(({ severity }) => severity === "error").map(({ message }) => message);
  return {
    errors,
    values: column
      ? Array.from({ length: compiled.stages.get("t")?.tables[0]?.rowCount as number }, (_, row) =>
          valueAt(column as Column, row),
        )
      : [],
  };
}

describe("positions", () => {
  test("a quarter of the equator, and none", () => {
    expect(distanceKilometres(0, 0, 0, 90)).toBeCloseTo((6371.0088 * Math.PI) / 2, 6);
    expect(distanceKilometres(54.1, -3.2, 54.1, -3.2)).toBe(0);
    expect(distanceKilometres(89, 0, 89, 180)).toBeCloseTo(((6371.0088 * Math.PI) / 180) * 2, 6);
  });
  test("directions", () => {
    expect(bearingDegrees(0, 0, 10, 0)).toBeCloseTo(0, 9);
    expect(bearingDegrees(0, 0, 0, 10)).toBeCloseTo(90, 9);
    expect(bearingDegrees(10, 0, 0, 0)).toBeCloseTo(180, 9);
    expect(bearingDegrees(0, 0, 0, -10)).toBeCloseTo(270, 9);
    expect(bearingDegrees(1, 1, 1, 1)).toBeNaN();
  });
  test("legs of a track", () => {
    const { values } = added(
      "round(distance_km(lat, lon, previous(lat), previous(lon)), 3)",
      "lat,lon\n0,0\n0,1\n,\n0,2",
    );
    expect(values).toEqual([null, 111.195, null, null]);
  });
});

describe("pairs of columns", () => {
  const LINE = "x,y\n1,3\n2,5\n3,7\n4,\n,9";
  test("a line has a correlation of 1 and its own slope", () => {
    expect(added("corr(x, y)", LINE).values[0]).toBe(1);
    expect(added("slope(y, x)", LINE).values[0]).toBe(2);
    expect(added("slope(x, y)", LINE).values[0]).toBe(0.5);
  });
  test("by hand: x 1 2 3, y 1 3 2", () => {
    expect(added("corr(x, y)", "x,y\n1,1\n2,3\n3,2").values[0]).toBe(0.5);
    expect(added("slope(y, x)", "x,y\n1,1\n2,3\n3,2").values[0]).toBe(0.5);
  });
  test("nothing can be said of one row, or of a column that does not vary", () => {
    expect(added("corr(x, y)", "x,y\n1,1").values).toEqual([null]);
    expect(added("corr(x, y)", "x,y\n1,1\n1,2").values).toEqual([null, null]);
    expect(added("slope(y, x)", "x,y\n1,1\n1,2").values).toEqual([null, null]);
  });
});

describe("draws", () => {
  const rows = `x\n${Array.from({ length: 4000 }, (_, row) => row).join("\n")}`;
  const momentsOf = (formula: string) => {
    const values = added(formula, rows).values as number[];
    const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
    const variance = values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (values.length - 1);
    return { mean, deviation: Math.sqrt(variance), least: Math.min(...values), most: Math.max(...values) };
  };
  test("have the moments of their distributions", () => {
    const flat = momentsOf("uniform(2, 6)");
    expect(flat.mean).toBeCloseTo(4, 0);
    expect(flat.deviation).toBeCloseTo(4 / Math.sqrt(12), 1);
    expect(flat.least).toBeGreaterThan(2);
    expect(flat.most).toBeLessThan(6);
    const bell = momentsOf("normal(10, 2)");
    expect(bell.mean).toBeCloseTo(10, 0);
    expect(bell.deviation).toBeCloseTo(2, 0);
    const wait = momentsOf("exponential(0.5)");
    expect(wait.mean).toBeCloseTo(2, 0);
    expect(wait.least).toBeGreaterThan(0);
  });
  test("are the same in every build and differ from call to call", () => {
    expect(added("uniform(0, 1)", "x\n1\n2").values).toEqual(added("uniform(0, 1)", "x\n1\n2").values);
    expect(added("uniform(0, 1) - uniform(0, 1)", "x\n1\n2").values).not.toContain(0);
    expect(chance(7, 0, 0)).not.toBe(chance(8, 0, 0));
  });
  test("out of their domain are missing", () => {
    expect(added("normal(0, -1)", "x\n1").values).toEqual([null]);
    expect(added("exponential(0)", "x\n1").values).toEqual([null]);
  });
});

describe("what a reader chooses by name", () => {
  const AXIS = "controls:\n  axis: {set: b, as: menu, of: [a, b]}\n  how: {set: max, as: menu, of: [sum, max]}\n";
  test("a column, an aggregate", () => {
    expect(added("chosen($axis) * 10", "a,b\n1,2\n3,4", "", AXIS).values).toEqual([20, 40]);
    expect(added("agg($how, a)", "a,b\n1,2\n3,4", "", AXIS).values).toEqual([3, 3]);
    expect(added("agg($how, chosen($axis))", "a,b\n1,2\n3,4", "", AXIS).values).toEqual([4, 4]);
  });
  test("every option is checked", () => {
    expect(added("chosen($axis)", "a\n1", "", AXIS).errors[0]).toContain('no column "b"');
    expect(added("chosen($axis)", "a,b\n1,x", "", AXIS).errors[0]).toContain("all must be of one kind");
    expect(
      added("chosen($free)", "a\n1", "", "controls:\n  free: {set: 1, as: slider, range: [0, 2]}\n").errors[0],
    ).toContain("closed list");
    expect(added("agg($axis, a)", "a,b\n1,2", "", AXIS).errors[0]).toContain("is no aggregate");
  });
});

describe("where functions over rows may stand", () => {
  test("not inside an aggregate", () => {
    expect(added("sum(previous(x))", "x\n1").errors[0]).toContain("cannot stand inside an aggregate");
  });
  test("the number of rows is one for all", () => {
    expect(added("previous(x, y)", "x,y\n1,1").errors[0]).toContain("must be a number, text or setting");
  });
});
