import { describe, expect, test } from "vitest";
import type { Answer } from "../../query/answer";
import { type Prepared, prepareQuery } from "../../query/prepare";
import type { Channel, Query } from "../../query/query";
import { makeTable } from "../../table/table";
import "../../formula/functions/all";
import "../all";
import { axisPlaces, coverOfRange } from "./axis-places";
import { HeldRows } from "./held";
import type { Others } from "./in-hand";
import { type Cover, looseIn, OUT, type Places, runsOf, SOME, WHOLE } from "./row-places";
import { evenEdges, tileLevels } from "./tile-places";
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

const othersOf = (key = "", failed: Uint8Array | null = null): Others => ({ key, failed: () => failed });

/** Makes the whole table of a question, and answers how many slices it took. */
function warmed(index: RunningTotals, prepared: Prepared, others = othersOf()): number {
  let slices = 0;
  while (index.warm(prepared, others)) slices += 1;
  return slices;
}

/** What each aggregate of a question without groups is. */
const told = (answer: Answer | undefined) => answer?.values.map(([value]) => value);

describe("running totals", () => {
  const places = axisPlaces(values, edges);
  const index = new RunningTotals([places], false);
  const prepared = prepareQuery(query(["count", "sum"]), table, () => null);
  const totals = (low: number, high: number, others = othersOf()) =>
    told(index.answer(prepared, others, () => coverOfRange(values, edges, [low, high])));
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
  test("are not asked for rows beyond the edges, nor for ends within places that have no rim", () => {
    expect(coverOfRange(values, edges, [-1, 2])).toBeUndefined();
    expect(coverOfRange(values, edges, [0, 6])).toBeUndefined();
    expect(totals(0.5, 2)).toBeUndefined();
  });
  test("leave out rows that other selections hold back, and are made anew when those change", () => {
    const others = othersOf("other@1", Uint8Array.of(0, 2, 0, 1, 0, 0, 0, 0));
    expect(totals(0, 5, others)).toBeUndefined();
    warmed(index, prepared, others);
    expect(totals(0, 5, others)).toEqual([3, 21]);
    expect(totals(0, 5)).toBeUndefined();
  });
  test("count blocks of ranks for what goes by an order, and give nothing for ends", () => {
    const ordered = prepareQuery(query(["median", "distinct", "first"]), table, () => null);
    expect(warmed(index, ordered)).toBeGreaterThan(1);
    const answer = (low: number, high: number) =>
      told(index.answer(ordered, othersOf(), () => coverOfRange(values, edges, [low, high])));
    expect(answer(0, 3)).toEqual([3, 4, 1]);
    expect(answer(1, 2)).toEqual([3, 2, 2]);
    expect(answer(2, 2)).toEqual([N, 0, N]);
    const most = prepareQuery(query(["max"]), table, () => null);
    expect(warmed(index, most)).toBe(0);
    expect(index.answer(most, othersOf(), () => coverOfRange(values, edges, [0, 5]))).toBeUndefined();
  });
  test("count rows at the rim one by one where ends lie within places", () => {
    const rimmed = new RunningTotals([axisPlaces(values, edges)], true);
    const all = prepareQuery(query(["count", "sum", "median"]), table, () => null);
    const others = othersOf("some", Uint8Array.of(0, 0, 0, 0, 1, 0, 0, 0));
    warmed(rimmed, all, others);
    const answer = (low: number, high: number) =>
      told(rimmed.answer(all, others, () => coverOfRange(values, edges, [low, high])));
    expect(answer(0.5, 1.5)).toEqual([1, 2, 2]);
    expect(answer(1.2, 4.5)).toEqual([2, 12, 6]);
    expect(answer(0, 5)).toEqual([4, 15, 3]);
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
  const index = new RunningTotals([axisPlaces(column.values, edges)], false);
  const prepared = prepareQuery(query(["count", "sum"]), long, () => null);
  expect(warmed(index, prepared)).toBe(5);
  const [count, sum] = told(index.answer(prepared, othersOf(), () => coverOfRange(column.values, edges, [1, 3]))) ?? [];
  let [n, all] = [0, 0];
  for (let row = 0; row < rows; row++) {
    const x = (row * 7) % 5;
    if (x < 1 || x >= 3) continue;
    n += 1;
    all += row % 11;
  }
  expect([count, sum]).toEqual([n, all]);
});

describe("tiles", () => {
  const rows = 3000;
  const made = (factor: number, odd: number) =>
    Float64Array.from({ length: rows }, (_, row) => (row % odd === 0 ? N : ((row * factor) % 997) ** 2 / 100));
  const [x, y] = [made(31, 41), made(57, 53)];
  const levels = tileLevels(x, y, 16, 3);
  test("lie between edges that part the rows evenly, and hold every known value", () => {
    const even = evenEdges(x, 16);
    expect(even.length).toBeLessThanOrEqual(17);
    const counts = Array.from({ length: even.length - 1 }, (_, place) =>
      x.reduce(
        (sum, value) => sum + Number(value >= (even[place] as number) && value < (even[place + 1] as number)),
        0,
      ),
    );
    expect(counts.reduce((sum, count) => sum + count, 0)).toBe(x.filter((value) => value === value).length);
    expect(Math.max(...counts)).toBeLessThan((rows / 16) * 1.5);
    expect(evenEdges(Float64Array.of(4, 4, N), 8)).toHaveLength(2);
    expect(evenEdges(Float64Array.of(N), 8)).toHaveLength(2);
  });
  test.each([0, 1, 2])("at level %i have the rows of each place side by side", (level) => {
    const { places } = levels[level] as (typeof levels)[number];
    const seen: number[] = [];
    for (let place = 0; place < places.count; place++) {
      const own = Array.from(places.lines.rows.subarray(places.from(place), places.to(place)));
      for (const row of own) expect(places.of[row]).toBe(place);
      seen.push(...own);
    }
    const known = Array.from(x.keys()).filter((row) => x[row] === x[row] && y[row] === y[row]);
    expect(seen.sort((a, b) => a - b)).toEqual(known);
  });
  test("hand out columns in the same order", () => {
    const { places } = levels[1] as (typeof levels)[number];
    expect([...places.lines.column(x)]).toEqual([...places.lines.rows].map((row) => x[row]));
  });
});

test("runs are whole places that follow one another, and loose rows those of others that are held", () => {
  const cover: Cover = {
    parts: Uint8Array.of(WHOLE, WHOLE, OUT, SOME, WHOLE),
    columns: [values],
    holds: ([own], at) => ((own as Float64Array)[at] as number) > 4,
  };
  expect(runsOf(cover)).toEqual([0, 2, 4, 5]);
  const places: Places = axisPlaces(values, Float64Array.of(-1, 0, 1, 2, 6, 9));
  expect([...looseIn(cover, places)].map((at) => places.lines.rows[at])).toEqual([6]);
});

test("rows that are asked about again are logged as they came and went, in the order of the table", () => {
  const held = new HeldRows(Uint8Array.of(1, 0, 1, 0, 0), {}, 0);
  held.reconsider(4, (consider) => {
    consider(3, 1);
    consider(2, 0);
    consider(0, 1);
    consider(1, 1);
  });
  expect([...held.pass]).toEqual([1, 1, 0, 1, 0]);
  expect(held.log.since(0)?.map((list) => [...list])).toEqual([[1, ~2, 3]]);
});
