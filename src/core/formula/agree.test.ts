import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { isoDate, isoDatetime } from "../table/calendar";
import { type Column, type Scalar, textColumn, valueAt } from "../table/column";
import { makeTable } from "../table/table";
import { writeDuration } from "./duration-text";
import { evaluate, frameOf } from "./evaluate";
import { isFormat, writer } from "./format";
import "./functions/all";
import { roundTo } from "./functions/common";
import { arcTangent, power } from "./functions/elementary";
import { parseFormula } from "./parse";
import { columnOf } from "./vector";

/** A formula over two columns of the same kind, value by value. */
function over(text: string, a: Column, b: Column, length: number): Scalar[] {
  const parsed = parseFormula(text);
  if (!parsed.ok) throw parsed.problem;
  const column = columnOf(
    evaluate(
      parsed.value.formula,
      frameOf(
        makeTable(length, [
          ["a", a],
          ["b", b],
        ]),
      ),
    ),
    length,
  );
  return Array.from({ length }, (_, row) => valueAt(column, row));
}

const numbers = (values: (number | null)[]): Column => ({
  kind: "number",
  values: Float64Array.from(values, (value) => value ?? Number.NaN),
});
const number = fc.option(
  fc.integer({ min: -9, max: 9 }).map((value) => value / 2),
  { nil: null },
);
const text = fc.option(fc.constantFrom("", "a", "B", "ab", "ba", "é", "漢字", "a b"), { nil: null });

const PLAIN: Record<string, (x: number, y: number) => number | boolean> = {
  "a + b": (x, y) => x + y,
  "a - b": (x, y) => x - y,
  "a * b": (x, y) => x * y,
  "a / b": (x, y) => x / y,
  "a ^ b": power,
  "a < b": (x, y) => x < y,
  "a >= b": (x, y) => x >= y,
  "a = b": (x, y) => x === y,
  "a != b": (x, y) => x !== y,
  "least(a, b)": Math.min,
  "greatest(a, b)": Math.max,
  "mod(a, b)": (x, y) => x - y * Math.floor(x / y),
  "atan2(a, b)": arcTangent,
  "if(a > b, a, b)": Math.max,
  "clamp(a, b, 5)": (x, y) => Math.min(Math.max(x, y), 5),
};

describe("over columns is what it is value by value", () => {
  test.each(Object.keys(PLAIN))("%s", (formula) => {
    fc.assert(
      fc.property(fc.array(fc.tuple(number, number), { minLength: 1, maxLength: 12 }), (rows) => {
        const found = over(formula, numbers(rows.map(([a]) => a)), numbers(rows.map(([, b]) => b)), rows.length);
        const expected = rows.map(([a, b]) => {
          if (a === null || b === null) return null;
          const value = (PLAIN[formula] as (x: number, y: number) => number | boolean)(a, b);
          if (typeof value === "boolean") return value;
          return Number.isFinite(value) ? value + 0 : null;
        });
        expect(found.map((value) => (typeof value === "number" ? value + 0 : value))).toEqual(expected);
      }),
    );
  });
  const TEXTS: Record<string, (x: string, y: string) => Scalar> = {
    "a = b": (x, y) => x === y,
    "a < b": (x, y) => x < y,
    "concat(a, b)": (x, y) => x + y,
    "contains(a, b)": (x, y) => x.includes(y),
    "starts(a, b)": (x, y) => x.startsWith(y),
    "ends(a, b)": (x, y) => x.endsWith(y),
    "upper(a) = upper(b)": (x, y) => x.toUpperCase() === y.toUpperCase(),
    "length(a) + length(b)": (x, y) => [...x].length + [...y].length,
    'replace(a, "a", b)': (x, y) => x.replaceAll("a", () => y),
    "coalesce(a, b)": (x) => x,
  };
  test.each(Object.keys(TEXTS))("%s of texts", (formula) => {
    fc.assert(
      fc.property(fc.array(fc.tuple(text, text), { minLength: 1, maxLength: 12 }), (rows) => {
        const column = (side: 0 | 1) =>
          textColumn(
            rows.map((row) => row[side]),
            rows.length,
          );
        const expected = rows.map(([a, b]) => {
          if (formula === "coalesce(a, b)") return a ?? b;
          return a === null || b === null ? null : (TEXTS[formula] as (x: string, y: string) => Scalar)(a, b);
        });
        expect(over(formula, column(0), column(1), rows.length)).toEqual(expected);
      }),
    );
  });
  test("parts of a date agree with the calendar of the engine", () => {
    fc.assert(
      fc.property(fc.integer({ min: -4e9, max: 4e9 }), (seconds) => {
        const moment: Column = { kind: "datetime", values: Float64Array.of(seconds) };
        const date = new Date(seconds * 1000);
        const one = (formula: string) => over(formula, moment, moment, 1)[0];
        expect(one("year(a)")).toBe(date.getUTCFullYear());
        expect(one("day(a)")).toBe(date.getUTCDate());
        expect(one("hour(a)")).toBe(date.getUTCHours());
        expect(one("minute(a)")).toBe(date.getUTCMinutes());
        expect(one("quarter(a)")).toBe(Math.floor(date.getUTCMonth() / 3) + 1);
        expect(one("month(a)")).toBe(date.toLocaleDateString("en-GB", { month: "long", timeZone: "UTC" }));
        expect(one("weekday(a)")).toBe(date.toLocaleDateString("en-GB", { weekday: "long", timeZone: "UTC" }));
        expect(one('by_day(a) <= a and a - by_day(a) < duration(1, "days")')).toBe(true);
        if (seconds > -6e10) expect(isoDatetime(seconds)).toBe(date.toISOString().slice(0, 19));
      }),
    );
  });
  test("between is decided by the end that is known, where that end decides", () => {
    expect(over("a between b and 3", numbers([3.5, 2, 2, null]), numbers([null, null, 1, 1]), 4)).toEqual([
      false,
      null,
      true,
      null,
    ]);
  });
  test("ISO weeks", () => {
    const week = (day: string) =>
      over(
        "week(a)",
        { kind: "date", values: Float64Array.of(Date.parse(`${day}T00:00Z`) / 1000) },
        numbers([1]),
        1,
      )[0];
    for (const [day, expected] of [
      ["2020-12-31", 53],
      ["2021-01-01", 53],
      ["2021-01-04", 1],
      ["2024-12-30", 1],
      ["2026-12-31", 53],
    ] as const)
      expect(week(day), day).toBe(expected);
  });
});

describe("formats", () => {
  test("have defaults by kind", () => {
    const moment = Date.parse("2025-03-03T09:05Z") / 1000;
    expect(writer("number")(1234.5678)).toBe("1,234.568");
    expect(writer("number")(-2)).toBe("−2");
    expect(writer("number")(0)).toBe("0");
    // Something is left of what is small, and what is huge can be read.
    expect(writer("number")(0.00426)).toBe("0.00426");
    expect(writer("number")(-1.234e-9)).toBe("−1.23e-9");
    expect(writer("number")(8.1149e17)).toBe("8.115e+17");
    expect(writer("number")(0.1 + 0.2 - 0.3)).toBe("0");
    expect(writer("date")(moment)).toBe("3 Mar 2025");
    expect(writer("datetime")(moment)).toBe("3 Mar 2025 09:05");
    expect(writer("duration")(3725)).toBe("1:02:05");
    expect(writer("boolean")(1)).toBe("true");
    expect(writer("number")(Number.NaN)).toBe("–");
  });
  test("are those of the sheet where they fit the kind", () => {
    expect(writer("number", ".1%")(0.256)).toBe("25.6%");
    expect(writer("date", "%B %Y")(0)).toBe("January 1970");
    expect(writer("duration", ",.1f")(90)).toBe("90.0");
    expect(writer("date", ".1f")(0)).toBe("1 Jan 1970");
    expect(isFormat("number", "%Q")).toBe(false);
    expect(isFormat("date", ",.1f")).toBe(false);
    expect(isFormat("duration", "h:mm:ss")).toBe(true);
  });
  test("of lengths of time round to seconds", () => {
    expect(writeDuration(59.6)).toBe("0:01:00");
    expect(writeDuration(-3600)).toBe("-1:00:00");
    expect(writeDuration(-0.2)).toBe("0:00:00");
    expect(writeDuration(360000)).toBe("100:00:00");
  });
  test("rounding goes away from zero at the half, as people expect of decimals", () => {
    expect([roundTo(2.5), roundTo(-2.5), roundTo(1.005, 2), roundTo(1234, -2), roundTo(-0.4)]).toEqual([
      3, -3, 1.01, 1200, 0,
    ]);
  });
  test("dates are ISO however early", () => {
    expect(isoDate(-86400)).toBe("1969-12-31");
    expect(isoDate(Date.UTC(-1, 0, 1) / 1000)).toBe("-000001-01-01");
  });
});
