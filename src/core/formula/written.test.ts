import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { textColumn } from "../table/column";
import { makeTable } from "../table/table";
import "./functions/all";
import { evaluate, frameOf, rowsWhere } from "./evaluate";
import { parseFormula } from "./parse";
import { nearRound, writeChoice, writeLiteral, writeRange } from "./written";

const texts = ["grain", 'sa"lt', "", "a, b", "grain"];
const table = makeTable(6, [
  ["c x", textColumn([...texts, null], 6)],
  ["n", { kind: "number", values: Float64Array.of(1, 2, 3, 4, 5, Number.NaN) }],
]);

function rows(formula: string): number[] {
  const parsed = parseFormula(formula);
  if (!parsed.ok) throw parsed.problem;
  return [...rowsWhere(evaluate(parsed.value.formula, frameOf(table)), 6).rows];
}

describe("formulas that gestures write can be read and mean what was picked", () => {
  test("any choice of values, kept or excluded, missing with them or not", () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.constantFrom(...texts)), fc.boolean(), fc.boolean(), (values, missing, exclude) => {
        const picked = [...texts, null].map((text) => (text === null ? missing : values.includes(text)));
        const expected = picked.flatMap((is, row) => (is !== exclude ? [row] : []));
        expect(rows(writeChoice("c x", "text", values, missing, exclude))).toEqual(
          exclude && values.length === 0 && !missing ? [0, 1, 2, 3, 4, 5] : expected,
        );
      }),
    );
  });
  test("ranges, open at either end", () => {
    expect(rows(writeRange("n", "number", 2, 4))).toEqual([1, 2]);
    expect(rows(writeRange("n", "number", 2, 4, true))).toEqual([1, 2, 3]);
    expect(rows(writeRange("n", "number", undefined, 3))).toEqual([0, 1]);
    expect(rows(writeRange("n", "number", 4, undefined))).toEqual([3, 4]);
  });
  test("values by their kind", () => {
    expect(writeLiteral("date", Date.UTC(2024, 2, 1) / 1000)).toBe('date("2024-03-01")');
    expect(writeLiteral("datetime", Date.UTC(2024, 2, 1, 6, 30) / 1000)).toBe('datetime("2024-03-01 06:30")');
    expect(writeLiteral("duration", 7200)).toBe('duration(2, "hours")');
    expect(writeLiteral("duration", 90)).toBe("duration(90)");
  });
  test("edges near round numbers", () => {
    expect(nearRound(12.3456, 3)).toBe(12);
    expect(nearRound(0.123456, 0.02)).toBe(0.12);
    expect(nearRound(1234, 200)).toBe(1200);
    expect(nearRound(5, 0)).toBe(5);
  });
});
