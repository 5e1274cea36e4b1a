import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type Column, type Scalar, textColumn, valueAt } from "../../table/column";
import { sortedRows } from "../../table/compare";
import { makeTable } from "../../table/table";
import "./all";
import { evaluate, frameOf } from "../evaluate";
import { groupRows } from "../groups";
import { parseFormula } from "../parse";
import { columnOf } from "../vector";

const numbers = (values: (number | null)[]): Column => ({
  kind: "number",
  values: Float64Array.from(values, (value) => value ?? Number.NaN),
});

/** A formula over x in groups g, in the order of t. */
function over(
  text: string,
  x: (number | null)[],
  g: string[] = x.map(() => "a"),
  t: number[] = x.map((_, row) => row),
): Scalar[] {
  const parsed = parseFormula(text);
  if (!parsed.ok) throw parsed.problem;
  const length = x.length;
  const table = makeTable(length, [
    ["x", numbers(x)],
    ["g", textColumn(g, length)],
    ["t", numbers(t)],
  ]);
  const frame = {
    ...frameOf(table),
    groups: groupRows([table.columns.get("g") as Column], length),
    order: sortedRows(length, [Float64Array.from(t)], [false]),
  };
  const column = columnOf(evaluate(parsed.value.formula, frame), length);
  return Array.from({ length }, (_, row) => valueAt(column, row));
}

describe("by hand", () => {
  const x = [5, 3, null, 3, 8];
  test.each([
    ["previous(x)", [null, 5, 3, null, 3]],
    ["previous(x, 2)", [null, null, 5, 3, null]],
    ["previous(g)", [null, "a", "a", "a", "a"]],
    ["next(x)", [3, null, 3, 8, null]],
    ["x - previous(x)", [null, -2, null, null, 5]],
    ["row()", [1, 2, 3, 4, 5]],
    ["running_total(x)", [5, 8, 8, 11, 19]],
    ["moving_mean(x, 2)", [5, 4, 3, 3, 5.5]],
    ["moving_mean(x, 0)", [null, null, null, null, null]],
    ["rank(x)", [3, 1, null, 1, 4]],
    ["rank(-x)", [2, 3, null, 3, 1]],
  ])("%s", (formula, expected) => {
    expect(over(formula, x)).toEqual(expected);
  });
  test("each group by itself, in the order asked for", () => {
    const g = ["a", "b", "a", "b", "a"];
    const t = [9, 2, 3, 1, 5];
    expect(over("running_total(x)", [1, 2, 3, 4, 5], g, t)).toEqual([9, 6, 3, 4, 8]);
    expect(over("previous(x)", [1, 2, 3, 4, 5], g, t)).toEqual([5, 4, null, null, 3]);
    expect(over("row()", [1, 2, 3, 4, 5], g, t)).toEqual([3, 2, 1, 1, 2]);
  });
  test("no rows, one row", () => {
    for (const formula of ["previous(x)", "row()", "running_total(x)", "moving_mean(x, 3)", "rank(x)"])
      expect(over(formula, [])).toEqual([]);
    expect(over("rank(x)", [4])).toEqual([1]);
    expect(over("running_total(x)", [null])).toEqual([0]);
  });
  test("a total of tenths has no dust behind it", () => {
    expect(over("running_total(x)", [0.1, 0.1, 0.1, 0.1, 0.1, 0.1, 0.1]).at(2)).toBe(0.3);
    expect(over("moving_mean(x, 2)", [1e15, 0.25, 0.25]).at(2)).toBe(0.25);
  });
});

/** The same, row by row, as one would on paper. */
const MODEL: Record<string, (own: (number | null)[], at: number) => number | null> = {
  "previous(x)": (own, at) => (at > 0 ? (own[at - 1] as number | null) : null),
  "next(x, 2)": (own, at) => own[at + 2] ?? null,
  "running_total(x)": (own, at) => own.slice(0, at + 1).reduce<number>((sum, value) => sum + (value ?? 0), 0),
  "moving_mean(x, 3)": (own, at) => {
    const known = own.slice(Math.max(0, at - 2), at + 1).filter((value) => value !== null);
    return known.length ? known.reduce((sum, value) => sum + value, 0) / known.length : null;
  },
  "rank(x)": (own, at) =>
    own[at] === null ? null : 1 + own.filter((value) => value !== null && value < (own[at] as number)).length,
};

describe("as a plain model has it, row by row", () => {
  test.each(Object.keys(MODEL))("%s", (formula) => {
    const row = fc.tuple(
      fc.option(
        fc.integer({ min: -20, max: 20 }).map((value) => value / 4),
        { nil: null },
      ),
      fc.constantFrom("a", "b", "c"),
      fc.integer({ min: 0, max: 9 }),
    );
    fc.assert(
      fc.property(fc.array(row, { maxLength: 30 }), (rows) => {
        const found = over(
          formula,
          rows.map(([x]) => x),
          rows.map(([, g]) => g),
          rows.map(([, , t]) => t),
        );
        const expected = rows.map(([, g], at) => {
          const own = rows
            .map((_, place) => place)
            .filter((place) => rows[place]?.[1] === g)
            .sort((a, b) => (rows[a]?.[2] as number) - (rows[b]?.[2] as number) || a - b);
          return MODEL[formula]?.(
            own.map((place) => rows[place]?.[0] ?? null),
            own.indexOf(at),
          );
        });
        expect(found).toEqual(expected);
      }),
    );
  });
});
