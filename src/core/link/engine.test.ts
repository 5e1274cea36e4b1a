import fc from "fast-check";
import { describe, expect, test, vi } from "vitest";
import type { Model } from "../model/model";
import { brushEdges, nearestEdge } from "../scale/edges";
import { continuousScale } from "../scale/scales";
import { sheetOver } from "../testing/compile-text";
import { modelOf, modelsOf, shown } from "../testing/shown";
import { boxIndexer } from "./index/box-index";
import { brushIndexer } from "./index/brush-index";
import { RunningTotals } from "./index/totals";
import type { SelectionState } from "./selection";

const charts = `charts:
  waits: {from: calls, draw: bars, x: "bin(w, 5)", y: count()}
  sums: {from: calls, draw: bars, y: k, x: sum(v), color: c}
  means: {from: calls, draw: bars, x: k, y: mean(v)}
  spreads: {from: calls, draw: bars, x: k, y: stdev(v)}
  middles: {from: calls, draw: bars, x: k, y: median(v)}
  kinds: {from: calls, draw: bars, x: k, y: distinct(c)}
  tops: {from: calls, draw: bars, x: k, y: max(v)}
  total: {from: calls, draw: figure, value: sum(v), against: sum(v) of all}
  parts: {from: calls, draw: bars, x: k, y: share(count())}
  raw: {from: calls, draw: points, x: w, y: v}
links:
  - brush x on waits -> filter all
  - click on means -> filter sums, total
controls:
  c: {pick: c, from: calls}
`;

const rowsOf = fc.array(
  fc.record({
    w: fc.option(
      fc.integer({ min: 0, max: 200 }).map((value) => value / 10),
      { nil: null },
    ),
    v: fc.option(
      fc.oneof(
        fc.integer({ min: -500, max: 500 }).map((value) => value / 100),
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
      ),
      { nil: null },
    ),
    k: fc.constantFrom("a", "b", "c", ""),
    c: fc.constantFrom("x", "y", ""),
  }),
  { minLength: 2, maxLength: 40 },
);
const csvOf = (rows: { w: number | null; v: number | null; k: string; c: string }[]) =>
  `w,v,k,c\n0,0,a,x\n20,1,b,y\n${rows.map(({ w, v, k, c }) => `${w ?? ""},${v ?? ""},${k},${c}`).join("\n")}`;

describe("the index answers exactly what a full recompute answers", () => {
  const pieces = ["sums", "means", "spreads", "middles", "kinds", "tops", "total", "parts", "raw"];
  test("through a whole drag, with other selections on", () => {
    const edges = Float64Array.from({ length: 42 }, (_, i) => i / 2);
    const moves = fc.array(
      fc.tuple(fc.nat(40), fc.nat(40)).map(([a, b]): [number, number] => [Math.min(a, b), Math.max(a, b) + 1]),
      { minLength: 1, maxLength: 8 },
    );
    fc.assert(
      fc.property(rowsOf, moves, fc.boolean(), fc.boolean(), (rows, drag, withControl, withClick) => {
        const begun = modelsOf(sheetOver(csvOf(rows), charts));
        const [fast, plain] = [begun(), begun()];
        for (const model of [fast, plain]) {
          if (withControl) model.engine.select("c", { keys: [{ c: "x" }] });
          if (withClick) model.engine.select("means", { keys: [{ k: "a" }] });
        }
        fast.engine.activate("waits", brushIndexer({ x: edges }));
        const answered = vi.spyOn(RunningTotals.prototype, "answer");
        for (const piece of pieces) for (const asked of fast.askedBy(piece)) while (fast.engine.warm(asked));
        for (const [low, high] of drag) {
          const state: SelectionState = { x: [edges[low] as number, edges[high] as number] };
          for (const model of [fast, plain]) model.engine.select("waits", state);
          for (const piece of pieces) expect(shown(fast, piece), piece).toEqual(shown(plain, piece));
          expect(fast.counts()).toEqual(plain.counts());
        }
        expect(answered.mock.results.some(({ value }) => value !== undefined)).toBe(true);
        answered.mockRestore();
        // Other edges, as after a change of size, change nothing.
        fast.engine.activate("waits", brushIndexer({ x: Float64Array.of(0, 7, 21) }));
        for (const piece of pieces) expect(shown(fast, piece), piece).toEqual(shown(plain, piece));
      }),
      { numRuns: 60 },
    );
  });
  test("through any row of gestures: boxes, ticks, groups below, settings", () => {
    const more = `  by_k:
    from: calls
    steps:
      - keep: v > $least
      - group: {by: [k], get: {n: count(), middle: median(v)}}
charts:
  crowd: {from: calls, draw: points, x: w, y: v}
  sums: {from: calls, draw: bars, y: k, x: sum(v), color: c}
  middles: {from: calls, draw: bars, x: k, y: median(v)}
  widths: {from: calls, draw: bars, x: "bin(w, $bins)", y: count()}
  groups: {from: by_k, draw: bars, x: k, y: sum(n)}
  list: {from: calls, draw: table, columns: [k, v]}
links:
  - brush xy on crowd -> filter all
controls:
  k: {pick: k, from: calls}
  bins: {set: 4, as: slider, range: [1, 9]}
  least: {set: -9, as: slider, range: [-9, 9]}
`;
    const edges = { x: Float64Array.from({ length: 42 }, (_, i) => i / 2), y: Float64Array.of(-9, -3, -1, 0, 1, 3, 9) };
    const gesture = fc.oneof(
      fc.record({ x: fc.tuple(fc.nat(40), fc.nat(40)), y: fc.tuple(fc.nat(5), fc.nat(5)) }),
      fc.record({ ticked: fc.subarray(["a", "b", "c"]) }),
      fc.record({ bins: fc.integer({ min: 1, max: 9 }) }),
      fc.record({ least: fc.integer({ min: -9, max: 9 }) }),
      fc.constant("clear" as const),
    );
    const ends = (list: Float64Array, [a, b]: [number, number]): [number, number] => [
      list[Math.min(a, b)] as number,
      list[Math.max(a, b) + 1] as number,
    ];
    const perform = ({ engine }: Model, one: typeof gesture extends fc.Arbitrary<infer G> ? G : never) => {
      if (one === "clear") engine.select("crowd", undefined);
      else if ("x" in one) engine.select("crowd", { x: ends(edges.x, one.x), y: ends(edges.y, one.y) });
      else if ("ticked" in one)
        engine.select("k", one.ticked.length ? { keys: one.ticked.map((k) => ({ k })) } : undefined);
      else if ("bins" in one) engine.setSetting("bins", one.bins);
      else engine.setSetting("least", one.least);
    };
    fc.assert(
      fc.property(rowsOf, fc.array(gesture, { minLength: 1, maxLength: 8 }), (rows, gestures) => {
        const begun = modelsOf(sheetOver(csvOf(rows), more));
        const kept = begun();
        kept.engine.activate("crowd", boxIndexer);
        gestures.forEach((one, done) => {
          perform(kept, one);
          // One that has no past: it has performed the same, and is asked for the first time.
          const fresh = begun();
          for (const before of gestures.slice(0, done + 1)) perform(fresh, before);
          for (const { name } of kept.plan.pieces) expect(shown(kept, name), name).toEqual(shown(fresh, name));
          expect(kept.counts()).toEqual(fresh.counts());
        });
      }),
      { numRuns: 20 },
    );
  });
  test("an end between edges is answered by comparing", () => {
    const text = sheetOver(
      csvOf([
        { w: 3.3, v: 1, k: "a", c: "x" },
        { w: 3.4, v: 1, k: "a", c: "x" },
      ]),
      charts,
    );
    const model = modelOf(text);
    model.engine.activate("waits", brushIndexer({ x: Float64Array.of(0, 3, 6, 21) }));
    model.engine.select("waits", { x: [3, 6] });
    expect(model.counts().calls?.left).toBe(2);
    model.engine.select("waits", { x: [3, 3.35] });
    expect(model.counts().calls?.left).toBe(1);
    model.engine.select("waits", { x: [0, 6] });
    expect(model.counts().calls?.left).toBe(3);
    expect(shown(model, "raw")).toHaveLength(3);
  });
});

describe("selections", () => {
  const csv =
    "id,k,c,v,d\n1,a,x,1,2024-01-10\n2,a,y,2,2024-02-10\n3,b,x,3,2024-02-20\n4,b,y,4,2024-03-01\n5,,x,5,2024-03-05";
  const rest = `  by_k:
    from: calls
    steps:
      - group: {by: [k], get: {n: count(), total: sum(v)}}
charts:
  list: {from: calls, draw: table, columns: [id]}
  months: {from: calls, draw: bars, x: by_month(d), y: count()}
  groups: {from: by_k, draw: bars, x: k, y: total}
  split: {from: calls, draw: bars, x: k, y: count(), color: c}
  values: {from: calls, draw: points, x: v, y: v}
links:
  - click on groups -> filter list, months
  - brush x on months -> filter list, groups
  - click on split by c -> filter list
  - brush xy on values -> filter list
`;
  const ids = (model: Model) => shown(model, "list").map((row) => (JSON.parse(row) as number[])[0]);
  const model = () => modelOf(sheetOver(csv, rest));
  test("different sources must all hold, values of one are alternatives", () => {
    const m = model();
    m.engine.select("split", { keys: [{ c: "x" }] });
    expect(ids(m)).toEqual([1, 3, 5]);
    m.engine.select("values", { x: [2, 4], y: [0, 9] });
    expect(ids(m)).toEqual([3]);
    m.engine.select("split", { keys: [{ c: "x" }, { c: "y" }] });
    expect(ids(m)).toEqual([2, 3]);
  });
  test("an interval holds its lower end and not its upper", () => {
    const m = model();
    m.engine.select("values", { x: [2, 4] });
    expect(ids(m)).toEqual([2, 3]);
  });
  test("a group picked in a derived table stands for all rows merged into it", () => {
    const m = model();
    m.engine.select("groups", { rows: [1] });
    expect(ids(m)).toEqual([3, 4]);
    m.engine.select("groups", { rows: [2] });
    expect(ids(m)).toEqual([5]);
  });
  test("a selection above a group runs the group again over the rows left", () => {
    const m = model();
    m.engine.select("months", { x: [Date.UTC(2024, 1, 1) / 1000, Date.UTC(2024, 2, 1) / 1000] });
    expect(ids(m)).toEqual([2, 3]);
    expect(shown(m, "groups")).toEqual(['["a",2]', '["b",3]']);
    m.engine.select("months", undefined);
    expect(shown(m, "groups")).toEqual(['["a",3]', '["b",7]', "[null,5]"]);
  });
  test("rows kept in a derived table follow the rows they came from, both ways", () => {
    const m = modelOf(
      sheetOver(
        csv,
        "  few:\n    from: calls\n    steps:\n      - keep: v >= 2\n      - sort: -v\ncharts:\n  list: {from: few, draw: table, columns: [id]}\n  all_rows: {from: calls, draw: table, columns: [id]}\n  a: {from: calls, draw: points, x: v, y: v}\n  b: {from: few, draw: points, x: v, y: v}\nlinks:\n  - brush x on a -> filter list\n  - brush x on b -> filter all_rows\n",
      ),
    );
    m.engine.select("a", { x: [1, 4] });
    expect(ids(m)).toEqual([2, 3]);
    m.engine.select("b", { x: [4, 6] });
    expect(shown(m, "all_rows")).toEqual(["[4]", "[5]"]);
    // What is not in the derived table is in none of its selections.
    m.engine.select("b", { x: [0, 3] });
    expect(shown(m, "all_rows")).toEqual(["[2]"]);
  });
  test("missing is a value that can be picked, and fails every range", () => {
    const m = model();
    m.engine.select("groups", { keys: [{ k: null }] });
    expect(ids(m)).toEqual([5]);
  });
  test("by widens to every row with the same values", () => {
    const m = model();
    m.engine.select("split", { keys: [{ k: "a", c: "x" }] });
    expect(ids(m)).toEqual([1, 3, 5]);
  });
  test("bins of a chart stay those of all rows", () => {
    const m = modelOf(
      sheetOver(
        csv,
        'charts:\n  a: {from: calls, draw: bars, x: "bin(v, 4)", y: count()}\n  b: {from: calls, draw: points, x: v, y: v}\nlinks:\n  - brush x on b -> filter a\n',
      ),
    );
    m.engine.select("b", { x: [3, 6] });
    expect(shown(m, "a")).toEqual(["[3,1]", "[4,2]"]);
  });
});

describe("edges of a brush", () => {
  test("are round, rise, and hold every value of the axis", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1e7, max: 1e7 }).map((value) => value / 100),
        fc.integer({ min: 1, max: 1e8 }).map((value) => value / 100),
        fc.integer({ min: 20, max: 900 }),
        (low, span, pixels) => {
          const scale = continuousScale({
            kind: "number",
            scale: "linear",
            domain: [low, low + span],
            range: [0, pixels],
            nice: false,
            tickCount: 5,
          });
          const edges = brushEdges(scale, "number");
          for (let i = 1; i < edges.length; i++) expect(edges[i]).toBeGreaterThan(edges[i - 1] as number);
          expect(edges[0]).toBeLessThanOrEqual(low);
          expect(edges.at(-1)).toBeGreaterThan(low + span);
          expect(edges[nearestEdge(edges, low + span / 3)]).toBeCloseTo(
            low + span / 3,
            -Math.ceil(Math.log10(span / pixels)) - 1,
          );
        },
      ),
    );
  });
  test("of periods are their starts", () => {
    const scale = continuousScale({
      kind: "date",
      scale: "time",
      domain: [0, 31 * 86400],
      range: [0, 300],
      nice: false,
      tickCount: 5,
    });
    expect([...brushEdges(scale, "date", { starts: Float64Array.of(0, 100), end: 200, grain: "month" })]).toEqual([
      0, 100, 200,
    ]);
  });
});
