import fc from "fast-check";
import { expect, test } from "vitest";
import { type Case, cases, sheetOf } from "./reference-cases";
import { difference } from "./reference-compare";

/** Some hundreds at every run; `still bench` asks for ten thousand. */
const CASES = Number(process.env.CASES ?? 250);

// Far above what it takes: a busy machine is not a fault.
test("the engine shows what a plain reading of the language says, whatever is picked", { timeout: 3_600_000 }, () => {
  fc.assert(
    fc.property(cases, (one) => {
      expect(difference(one), sheetOf(one)).toBeUndefined();
    }),
    { numRuns: CASES },
  );
});

const two = (steps: Case["tables"][number]["steps"], c: string | null): Case => ({
  rows: [
    { k: "a", c: "x", v: 0, w: 0, d: null },
    { k: "a", c, v: 0.3, w: 0, d: null },
  ],
  stacked: [],
  looked: [{ code: "a", g: "m", z: null }],
  unmatched: "keep",
  far: [],
  tables: [
    { name: "t", steps: [] },
    { name: "a", from: "t", steps: [{ do: "group", by: "c", column: "v" }] },
    { name: "b", from: "a", steps },
  ],
  measures: ["sum(v)", "sum(v)", "sum(v)"],
  gestures: [
    { on: "bars", table: 1, place: 0 },
    { on: "points", low: 0.16, high: 0.45, warm: false },
  ],
});

test("a pick of groups stays with its group in tables below, when others leave fewer groups", () => {
  expect(difference(two([], "y"))).toBeUndefined();
  expect(difference(two([{ do: "double", column: "v", name: "v" }], null))).toBeUndefined();
});

test("a row made again of others is picked as the one that it is with nothing selected", () => {
  const one: Case = {
    ...two([], null),
    rows: ["a", "d", "a"].map((k, at) => ({ k, c: at === 2 ? null : "x", v: 0, w: 0, d: null })),
    tables: [
      { name: "t", steps: [] },
      { name: "a", from: "t", steps: [{ do: "unique", by: "c" }] },
      { name: "b", from: "a", steps: [{ do: "group", by: "k", column: "v" }] },
    ],
    gestures: [
      { on: "bars", table: 1, place: 0 },
      { on: "control", values: ["d"] },
    ],
  };
  expect(difference(one)).toBeUndefined();
});

test("a picked group is known by its keys, even where other rows stand for those that went into it", () => {
  const day = { c: "y", v: 0, w: 0 };
  expect(
    difference({
      rows: [
        { ...day, k: "c", d: null },
        { ...day, k: "a", d: "1970-01-01" },
        { ...day, k: "a", c: "x", d: null },
      ],
      stacked: [],
      looked: [{ code: "a", g: "m", z: null }],
      unmatched: "keep",
      far: [],
      tables: [
        { name: "t", steps: [] },
        {
          name: "a",
          from: "t",
          steps: [
            { do: "unique", by: "c" },
            { do: "group", by: "k", column: "v" },
          ],
        },
        { name: "b", from: "a", steps: [{ do: "keep", column: "v", above: "least" }] },
      ],
      measures: ["sum(v)", "sum(v)", "sum(v)"],
      gestures: [
        { on: "months", from: 0, months: 1 },
        { on: "bars", table: 1, place: 0 },
      ],
    }),
  ).toBeUndefined();
});
