import fc from "fast-check";
import { expect, test } from "vitest";
import { type Case, cases, difference, sheetOf } from "./reference-cases";

// Far above what it takes: a busy machine is not a fault.
test("the engine shows what a plain reading of the language says, whatever is picked", { timeout: 240_000 }, () => {
  fc.assert(
    fc.property(cases, (one) => {
      expect(difference(one), sheetOf(one)).toBeUndefined();
    }),
    { numRuns: 300 },
  );
});

const two = (steps: Case["tables"][number]["steps"], c: string | null): Case => ({
  rows: [
    { k: "a", c: "x", v: 0, w: 0 },
    { k: "a", c, v: 0.3, w: 0 },
  ],
  tables: [
    { name: "t", steps: [] },
    { name: "a", from: "t", steps: [{ do: "group", by: "c", column: "v" }] },
    { name: "b", from: "a", steps },
  ],
  measures: ["sum(v)", "sum(v)", "sum(v)"],
  gestures: [
    { on: "bars", table: 1, place: 0 },
    { on: "points", low: 0.16, high: 0.45 },
  ],
});

test("a pick of groups stays with its group in tables below, when others leave fewer groups", () => {
  expect(difference(two([], "y"))).toBeUndefined();
  expect(difference(two([{ do: "double", column: "v", name: "v" }], null))).toBeUndefined();
});
