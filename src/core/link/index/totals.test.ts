import { describe, expect, test } from "vitest";
import { prepareQuery } from "../../query/prepare";
import type { Channel, Query } from "../../query/query";
import { makeTable } from "../../table/table";
import type { SelectionPlan } from "../selection";
import { BrushIndex } from "./totals";

const N = Number.NaN;
const values = Float64Array.of(0, 1, 1.5, 2, 4, N, 5, -1);
const table = makeTable(8, [
  ["x", { kind: "number", values }],
  ["v", { kind: "number", values: Float64Array.of(1, 2, 4, 8, 16, 32, 64, 128) }],
]);
const channel = (name: string): Channel => ({
  formula: { type: "call", name, arguments: name === "count" ? [] : [{ type: "column", name: "v" }] },
  text: `${name}(v)`,
  kind: "number",
  aggregate: true,
  label: name,
});
const query = (names: string[]): Query => ({
  from: "t",
  channels: Object.fromEntries(names.map((name) => [name, channel(name)])),
  groupBy: [],
  grouped: true,
});
const plan: SelectionPlan = {
  name: "s",
  source: "s",
  gesture: "brush x",
  kept: true,
  table: "t",
  axes: { x: { type: "column", name: "x" } },
  keys: {},
  by: [],
  effects: [],
  words: {},
};
const edges = Float64Array.of(0, 1, 2, 3, 5);

function indexAt(range: { now: [number, number] | undefined }) {
  return new BrushIndex(plan, "x", values, edges, () => range.now);
}

describe("running totals", () => {
  const range: { now: [number, number] | undefined } = { now: undefined };
  const index = indexAt(range);
  const prepared = prepareQuery(query(["count", "sum"]), table, () => null);
  const totals = (low: number, high: number) => {
    range.now = [low, high];
    return index.totals(prepared, "", null)?.map(([total]) => total);
  };
  test("give what lies in the brush, its lower end in and its upper end out", () => {
    expect(totals(0, 1)).toEqual([1, 1]);
    expect(totals(1, 2)).toEqual([2, 6]);
    expect(totals(0, 5)).toEqual([5, 31]);
    expect(totals(3, 3)).toEqual([0, 0]);
  });
  test("are not asked for ends that are no edges", () => {
    expect(totals(0.5, 2)).toBeUndefined();
    range.now = undefined;
    expect(index.totals(prepared, "", null)).toBeUndefined();
  });
  test("leave out rows that other selections hold back, and are made anew when those change", () => {
    range.now = [0, 5];
    const bits = Uint32Array.of(0, 2, 0, 2, 0, 0, 0, 0);
    expect(index.totals(prepared, "other@1", { bits, mask: 2 })?.map(([total]) => total)).toEqual([3, 21]);
    expect(index.totals(prepared, "", null)?.map(([total]) => total)).toEqual([5, 31]);
  });
  test("are kept only for what can be taken away again", () => {
    expect(
      index.totals(
        prepareQuery(query(["median"]), table, () => null),
        "",
        null,
      ),
    ).toBeUndefined();
    expect(
      index.warm(
        prepareQuery(query(["max"]), table, () => null),
        "",
        null,
      ),
    ).toBe(false);
    const mean = prepareQuery(query(["mean"]), table, () => null);
    expect(index.warm(mean, "", null)).toBe(true);
    expect(index.warm(mean, "", null)).toBe(false);
  });
});

test("a table made slice by slice, or cut short by its first use, holds the same", () => {
  const rows = 450_000;
  const long = makeTable(rows, [
    ["x", { kind: "number", values: Float64Array.from({ length: rows }, (_, row) => (row * 7) % 5) }],
    ["v", { kind: "number", values: Float64Array.from({ length: rows }, (_, row) => row % 11) }],
  ]);
  const places = long.columns.get("x");
  if (!places || places.kind === "text") throw new Error("no column");
  const made = (slices: number) => {
    const index = new BrushIndex(plan, "x", places.values, edges, () => [1, 3]);
    const prepared = prepareQuery(query(["count", "sum"]), long, () => null);
    for (let slice = 0; slice < slices; slice++) index.warm(prepared, "", null);
    return index.totals(prepared, "", null)?.map(([total]) => total);
  };
  const whole = made(0);
  expect(whole?.[0]).toBe(180_000);
  for (const slices of [1, 2, 3, 4]) expect(made(slices)).toEqual(whole);
});

describe("bits that follow the brush", () => {
  test("are those of comparing, whatever the moves before", () => {
    const range: { now: [number, number] | undefined } = { now: [0, 1] };
    const index = indexAt(range);
    const bits = new Uint32Array(8).fill(1);
    let fresh = true;
    for (const [low, high] of [
      [0, 2],
      [1, 3],
      [3, 5],
      [0, 1],
      [0, 5],
      [2, 3],
      [2, 3],
    ] as [number, number][]) {
      range.now = [low, high];
      expect(index.syncBits(bits, 2, fresh)).toBe(true);
      fresh = false;
      expect(
        [...bits].map((word) => (word & 2) === 0),
        `${low} to ${high}`,
      ).toEqual([...values].map((value) => value >= low && value < high));
      expect([...bits].every((word) => (word & 1) === 1)).toBe(true);
    }
  });
  test("are left to others where an end is no edge, and taken up again whole", () => {
    const range: { now: [number, number] | undefined } = { now: [0.5, 2] };
    const index = indexAt(range);
    const bits = new Uint32Array(8);
    expect(index.syncBits(bits, 1, true)).toBe(false);
    range.now = [1, 2];
    expect(index.syncBits(bits, 1, false)).toBe(true);
    expect([...bits]).toEqual([1, 0, 0, 1, 1, 1, 1, 1]);
  });
});
