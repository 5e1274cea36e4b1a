import { describe, expect, test } from "vitest";
import type { Answer } from "../../query/answer";
import { type Prepared, prepareQuery } from "../../query/prepare";
import type { Channel, Query } from "../../query/query";
import { makeTable } from "../../table/table";
import { HeldRows } from "./held";
import { type BrushInHand, BrushPlaces, type Ends, endsOf } from "./places";
import { RunningTotals } from "./totals";

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
const edges = Float64Array.of(0, 1, 2, 3, 5);

/** Makes the whole table of a question, and answers how many slices it took. */
function warmed(index: RunningTotals, prepared: Prepared, key = "", others: Uint8Array | null = null): number {
  let slices = 0;
  while (index.warm(prepared, key, others)) slices += 1;
  return slices;
}

/** What each aggregate of a question without groups is. */
const told = (answer: Answer | undefined) => answer?.values.map(([value]) => value);

describe("running totals", () => {
  const places = new BrushPlaces(values, edges);
  const index = new RunningTotals(places);
  const prepared = prepareQuery(query(["count", "sum"]), table, () => null);
  const totals = (low: number, high: number, key = "") =>
    told(index.answer(prepared, key, places.ends([low, high]) as Ends));
  test("are not answered before they are made", () => {
    expect(totals(0, 1)).toBeUndefined();
    expect(warmed(index, prepared)).toBe(1);
    expect(totals(0, 1)).toEqual([1, 1]);
  });
  test("give what lies in the brush, its lower end in and its upper end out", () => {
    expect(totals(1, 2)).toEqual([2, 6]);
    expect(totals(0, 5)).toEqual([5, 31]);
    expect(totals(3, 3)).toEqual([0, 0]);
  });
  test("are not asked for ends that are no edges", () => {
    expect(places.ends([0.5, 2])).toBeUndefined();
    expect(places.ends(undefined)).toBeUndefined();
  });
  test("leave out rows that other selections hold back, and are made anew when those change", () => {
    const failed = Uint8Array.of(0, 2, 0, 1, 0, 0, 0, 0);
    expect(totals(0, 5, "other@1")).toBeUndefined();
    warmed(index, prepared, "other@1", failed);
    expect(totals(0, 5, "other@1")).toEqual([3, 21]);
    expect(totals(0, 5)).toBeUndefined();
  });
  test("count blocks of ranks for what goes by an order, and give nothing for ends", () => {
    const ordered = prepareQuery(query(["median", "distinct", "first"]), table, () => null);
    expect(warmed(index, ordered)).toBeGreaterThan(1);
    expect(told(index.answer(ordered, "", [0, 3]))).toEqual([3, 4, 1]);
    expect(told(index.answer(ordered, "", [1, 2]))).toEqual([3, 2, 2]);
    expect(told(index.answer(ordered, "", [2, 2]))).toEqual([N, 0, N]);
    const most = prepareQuery(query(["max"]), table, () => null);
    expect(warmed(index, most)).toBe(0);
    expect(index.answer(most, "", [0, 4])).toBeUndefined();
  });
});

test("a table made slice by slice holds the same", () => {
  const rows = 450_000;
  const long = makeTable(rows, [
    ["x", { kind: "number", values: Float64Array.from({ length: rows }, (_, row) => (row * 7) % 5) }],
    ["v", { kind: "number", values: Float64Array.from({ length: rows }, (_, row) => row % 11) }],
  ]);
  const column = long.columns.get("x");
  if (!column || column.kind === "text") throw new Error("no column");
  const index = new RunningTotals(new BrushPlaces(column.values, edges));
  const prepared = prepareQuery(query(["count", "sum"]), long, () => null);
  expect(warmed(index, prepared)).toBe(3);
  const [count, sum] = told(index.answer(prepared, "", [1, 3])) ?? [];
  let [n, all] = [0, 0];
  for (let row = 0; row < rows; row++) {
    const x = (row * 7) % 5;
    if (x < 1 || x >= 3) continue;
    n += 1;
    all += row % 11;
  }
  expect([count, sum]).toEqual([n, all]);
});

describe("rows that follow the brush", () => {
  const other = Float64Array.of(3, 0, 1, 2, 2, 2, 4, 1);
  const brush: BrushInHand = {
    selection: "s",
    table: "t",
    axes: { x: new BrushPlaces(values, edges), y: new BrushPlaces(other, edges) },
  };
  const ends = (x: [number, number], y: [number, number]) => endsOf(brush, { x, y }) as Record<"x" | "y", Ends>;
  test("are those of comparing, whatever the moves before, on both axes at once", () => {
    let now = ends([0, 1], [0, 5]);
    const held = new HeldRows(
      Uint8Array.from(values, (value) => (value >= 0 && value < 1 ? 1 : 0)),
      {},
      0,
    );
    const boxes: [number, number, number, number][] = [
      [0, 2, 0, 5],
      [1, 3, 1, 3],
      [3, 5, 0, 2],
      [0, 5, 2, 3],
      [0, 5, 0, 5],
      [2, 3, 2, 3],
      [2, 3, 2, 3],
    ];
    for (const [x1, x2, y1, y2] of boxes) {
      const next = ends([x1, x2], [y1, y2]);
      const isIn = (row: number) =>
        (values[row] as number) >= x1 &&
        (values[row] as number) < x2 &&
        (other[row] as number) >= y1 &&
        (other[row] as number) < y2;
      held.reconsider(
        (["x", "y"] as const).flatMap((axis) => brush.axes[axis]?.between(now[axis], next[axis]) ?? []),
        isIn,
      );
      now = next;
      expect([...held.pass], `${x1} to ${x2}, ${y1} to ${y2}`).toEqual(
        [...values].map((_, row) => (isIn(row) ? 1 : 0)),
      );
    }
  });
  test("are left to comparing where a state holds anything but ranges on its axes", () => {
    expect(endsOf(brush, { x: [0, 1] })).toBeUndefined();
    expect(endsOf(brush, { x: [0, 1], y: [0, 1], keys: [{ k: "a" }] })).toBeUndefined();
    expect(endsOf(brush, { x: [0, 1], y: [0, 1.5] })).toBeUndefined();
  });
});
