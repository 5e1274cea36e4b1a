import fc from "fast-check";
import { describe, expect, test } from "vitest";
import "../formula/functions/all";
import { evaluate, frameOf } from "../formula/evaluate";
import { parseFormula } from "../formula/parse";
import type { Formula } from "../formula/tree";
import { columnOf } from "../formula/vector";
import { OPEN_HIGH } from "../link/selection";
import { GRAINS } from "../table/calendar";
import { textColumn } from "../table/column";
import { makeTable } from "../table/table";
import { categoriesOf, nameAt, plainValue } from "./categories";
import { intervalEdges, intervalOf, startsAt, stretchEnd, stretchesOf, wholePeriods } from "./interval";

const N = Number.NaN;
const day = (text: string) => Date.parse(`${text}Z`) / 1000;

function formula(text: string): Formula {
  const parsed = parseFormula(text);
  if (!parsed.ok) throw parsed.problem;
  return parsed.value.formula;
}

describe("categories", () => {
  test("texts by code unit, missing last", () => {
    expect(categoriesOf(textColumn(["b", null, "a", "B", "a"], 5)).map(({ name }) => name)).toEqual([
      "B",
      "a",
      "b",
      null,
    ]);
  });
  test("named values come first in the order given", () => {
    expect(categoriesOf(textColumn(["b", "a", "c"], 3), ["c", "b"]).map(({ name }) => name)).toEqual(["c", "b", "a"]);
  });
  test("ordered texts keep their own order, and only those in use stand there", () => {
    const months = {
      kind: "text" as const,
      codes: Int32Array.of(3, 0),
      dictionary: ["January", "February", "March", "April"],
      ordered: true,
    };
    expect(categoriesOf(months).map(({ name }) => name)).toEqual(["January", "April"]);
  });
  test("numbers by value, flags and dates by their names", () => {
    expect(categoriesOf({ kind: "number", values: Float64Array.of(10, 9, N, 10) }).map(({ value }) => value)).toEqual([
      9,
      10,
      null,
    ]);
    expect(
      categoriesOf({ kind: "boolean", values: Float64Array.of(1, 0) }).map(({ name, value }) => [name, value]),
    ).toEqual([
      ["false", false],
      ["true", true],
    ]);
    expect(
      categoriesOf({ kind: "date", values: Float64Array.of(day("2024-03-01T00:00"), 0) }).map(({ name }) => name),
    ).toEqual(["1970-01-01", "2024-03-01"]);
  });
  test("values as scripts see them", () => {
    expect(plainValue({ kind: "datetime", values: Float64Array.of(day("2024-03-01T06:30")) }, 0)).toBe(
      "2024-03-01T06:30:00",
    );
    expect(plainValue({ kind: "duration", values: Float64Array.of(90) }, 0)).toBe(90);
    expect(plainValue({ kind: "boolean", values: Float64Array.of(1) }, 0)).toBe(true);
    expect(plainValue({ kind: "number", values: Float64Array.of(N) }, 0)).toBeNull();
    expect(nameAt({ kind: "number", values: Float64Array.of(1.5) }, 0)).toBe("1.5");
  });
});

describe("stretches", () => {
  const table = (kind: "number" | "datetime", values: number[]) =>
    frameOf(makeTable(values.length, [["x", { kind, values: Float64Array.from(values) }]]), (name) =>
      name === "n" ? 3 : "quarter",
    );
  const edgesOf = (text: string, kind: "number" | "datetime", values: number[]) => {
    const interval = intervalOf(formula(text));
    if (!interval) throw new Error("no interval");
    return intervalEdges(interval, table(kind, values));
  };
  test("are found in bins, widths and periods, and in nothing else", () => {
    expect(intervalOf(formula("bin(x, 5)"))?.type).toBe("bin");
    expect(intervalOf(formula("bin_width(x, 5)"))?.type).toBe("width");
    expect(intervalOf(formula("by_week(x)"))).toMatchObject({ type: "period", grain: "week" });
    expect(intervalOf(formula('by("month", x)'))?.type).toBe("period");
    expect(intervalOf(formula("bin(x, 5) + 1"))).toBeUndefined();
    expect(intervalOf(formula("year(x)"))).toBeUndefined();
  });
  test("of bins cover the whole extent", () => {
    expect(edgesOf("bin(x, $n)", "number", [0, 9, N])).toMatchObject({ starts: Float64Array.of(0, 3, 6), end: 9 });
    expect(edgesOf("bin(x, 3)", "number", [4, 4])).toMatchObject({ starts: Float64Array.of(4), end: 5 });
    expect(edgesOf("bin(x, 3)", "number", [N])).toBeUndefined();
  });
  test("of widths begin at multiples, below zero too", () => {
    expect(edgesOf("bin_width(x, 2)", "number", [-3, 3])).toMatchObject({
      starts: Float64Array.of(-4, -2, 0, 2),
      end: 4,
    });
    expect(edgesOf("bin_width(x, 0)", "number", [1])).toBeUndefined();
  });
  test("of periods fill every one between the first and the last", () => {
    const edges = edgesOf("by_month(x)", "datetime", [day("2023-11-15T00:00"), day("2024-02-01T00:00")]);
    expect(edges?.starts).toHaveLength(4);
    expect(edges?.end).toBe(day("2024-03-01T00:00"));
    expect(
      edgesOf("by($grain, x)", "datetime", [day("2023-11-15T00:00"), day("2024-02-01T00:00")])?.starts,
    ).toHaveLength(2);
  });
  test("every value lies in the stretch that it is given", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.integer({ min: -5000, max: 5000 }).map((value) => value / 10),
          { minLength: 1, maxLength: 30 },
        ),
        fc.constantFrom("bin(x, 1)", "bin(x, 3)", "bin(x, 12)", "bin_width(x, 7)", "bin_width(x, 0.3)", "by_month(x)"),
        (small, text) => {
          const kind = text.startsWith("by") ? "datetime" : "number";
          const values = kind === "number" ? small : small.map((value) => value * 86400);
          const interval = intervalOf(formula(text));
          const frame = table(kind, values);
          const edges = interval && intervalEdges(interval, frame);
          if (!interval || !edges) throw new Error("no edges");
          const starts = startsAt(formula(text), edges, frame, stretchesOf(interval, edges, frame));
          // The same as the formula says, row by row, in kind too.
          expect(starts).toEqual(columnOf(evaluate(formula(text), frame), values.length));
          if (starts.kind === "text") throw new Error("not numbers");
          values.forEach((value, row) => {
            const start = starts.values[row] as number;
            expect(start).toBeLessThanOrEqual(value);
            expect(value).toBeLessThanOrEqual(stretchEnd(edges, start) + 1e-9);
          });
        },
      ),
    );
  });
  test("of all rows hold the rows that are left, too", () => {
    const interval = intervalOf(formula("bin(x, 4)"));
    const edges = interval && intervalEdges(interval, table("number", [0, 8]));
    if (!interval || !edges) throw new Error("no edges");
    const left = table("number", [3, 8, N]);
    const starts = startsAt(formula("bin(x, 4)"), edges, left, stretchesOf(interval, edges, left));
    expect(starts.kind === "text" ? [] : [...starts.values]).toEqual([2, 6, N]);
  });
});

describe("a range of moments", () => {
  const at = (text: string) => Date.parse(`${text}T00:00Z`) / 1000;
  test("is moved out to whole periods, of whatever time", () => {
    expect(wholePeriods("month", [at("2024-03-10"), at("2024-05-20")])).toEqual([at("2024-03-01"), at("2024-06-01")]);
    expect(wholePeriods("year", [at("2031-01-01"), at("2032-01-01")])).toEqual([at("2031-01-01"), at("2032-01-01")]);
    expect(wholePeriods("week", [-OPEN_HIGH, at("2024-03-06")])).toEqual([-OPEN_HIGH, at("2024-03-11")]);
    expect(wholePeriods("day", [at("2024-03-06"), OPEN_HIGH])).toEqual([at("2024-03-06"), OPEN_HIGH]);
  });
  test("once whole, stays as it is", () => {
    const moment = fc.integer({ min: at("1850-01-01"), max: at("2150-01-01") });
    fc.assert(
      fc.property(fc.constantFrom(...GRAINS), moment, fc.nat(1e9), (grain, low, length) => {
        const whole = wholePeriods(grain, [low, low + length]);
        expect(whole[0] <= low && whole[1] >= low + length).toBe(true);
        expect(wholePeriods(grain, whole)).toEqual(whole);
      }),
    );
  });
});
