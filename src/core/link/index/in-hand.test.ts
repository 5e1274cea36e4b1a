import fc from "fast-check";
import { describe, expect, test, vi } from "vitest";
import type { Model } from "../../model/model";
import { sheetOver } from "../../testing/compile-text";
import { modelsOf, shown } from "../../testing/shown";
import type { SelectionState } from "../selection";
import { boxIndexer } from "./box-index";
import type { Indexer } from "./in-hand";
import { lassoIndexer } from "./lasso-index";
import { rangeIndexer } from "./range-index";
import { textIndexer } from "./text-index";
import { RunningTotals } from "./totals";

const charts = `  by_k:
    from: calls
    steps:
      - group: {by: [k], get: {n: count(), middle: median(v), all: sum(v)}}
charts:
  crowd: {from: calls, draw: points, x: w, y: v}
  bent: {from: calls, draw: points, x: w, y: u, axes: {x: {scale: log}, y: {scale: symlog}}}
  sums: {from: calls, draw: bars, y: k, x: sum(v), color: c}
  means: {from: calls, draw: bars, x: k, y: mean(v)}
  middles: {from: calls, draw: bars, x: k, y: median(v)}
  kinds: {from: calls, draw: bars, x: c, y: distinct(k)}
  tops: {from: calls, draw: bars, x: k, y: max(v)}
  total: {from: calls, draw: figure, value: sum(u)}
  groups: {from: by_k, draw: bars, x: k, y: sum(all)}
  list: {from: calls, draw: table, columns: [k, v]}
links:
  - brush xy on crowd -> filter all
  - lasso on bent -> filter all
controls:
  k: {pick: k, from: calls}
  w: {pick: w, from: calls, as: range}
  least: {pick: v, from: calls, as: above}
  other: {pick: c, from: calls}
`;
const value = fc.option(fc.oneof(fc.integer({ min: -9, max: 40 }), fc.double({ min: -9, max: 40, noNaN: true })), {
  nil: null,
});
const rows = fc.array(
  fc.record({ w: value, v: value, u: value, k: fc.constantFrom("a", "b", "c", ""), c: fc.constantFrom("x", "y", "") }),
  { minLength: 2, maxLength: 60 },
);
const textOf = (own: { w: number | null; v: number | null; u: number | null; k: string; c: string }[]) =>
  sheetOver(
    `w,v,u,k,c\n-9,40,1,a,x\n${own.map(({ w, v, u, k, c }) => `${w ?? ""},${v ?? ""},${u ?? ""},${k},${c}`).join("\n")}`,
    charts,
  );

const end = fc.oneof(fc.integer({ min: -12, max: 44 }), fc.double({ min: -12, max: 44, noNaN: true }));
const range = fc.tuple(end, end).map(([a, b]): [number, number] => [Math.min(a, b), Math.max(a, b)]);
const corner = fc.tuple(fc.double({ min: 0.1, max: 44, noNaN: true }), end);

/** Each selection that can be in hand, what answers it, and states that it may come to. */
const HANDS: Record<string, { indexer: Indexer; states: fc.Arbitrary<SelectionState | undefined> }> = {
  crowd: {
    indexer: boxIndexer,
    states: fc.record({ x: range, y: range }),
  },
  bent: {
    indexer: lassoIndexer,
    states: fc.record({ outline: fc.array(corner, { minLength: 3, maxLength: 7 }) }) as fc.Arbitrary<SelectionState>,
  },
  k: {
    indexer: textIndexer,
    states: fc
      .subarray(["a", "b", "c", "nowhere", null], { minLength: 1 })
      .map((names) => ({ keys: names.map((k) => ({ k })) })),
  },
  w: { indexer: rangeIndexer(Float64Array.from({ length: 54 }, (_, at) => at - 10)), states: fc.record({ x: range }) },
  least: {
    indexer: rangeIndexer(Float64Array.from({ length: 54 }, (_, at) => at - 10)),
    states: end.map((low) => ({ x: [low, Number.MAX_VALUE] as [number, number] })),
  },
};

function warm(model: Model) {
  for (const { name } of model.plan.pieces) for (const asked of model.askedBy(name)) while (model.engine.warm(asked));
}

describe("what is in hand answers as going over all rows does", () => {
  test.each(Object.keys(HANDS))("%s", (name) => {
    const { indexer, states } = HANDS[name] as (typeof HANDS)[string];
    const answer = vi.spyOn(RunningTotals.prototype, "answer");
    fc.assert(
      fc.property(
        rows,
        fc.array(states, { minLength: 1, maxLength: 4 }),
        fc.constantFrom("cold", "warm"),
        fc.boolean(),
        (own, moves, begin, withOther) => {
          const begun = modelsOf(textOf(own));
          const kept = begun();
          const others = (model: Model) => withOther && model.engine.select("other", { keys: [{ c: "x" }] });
          others(kept);
          kept.engine.activate(name, indexer);
          if (begin === "warm") warm(kept);
          for (const state of moves) {
            kept.engine.select(name, state);
            const fresh = begun();
            others(fresh);
            fresh.engine.select(name, state);
            for (const piece of kept.plan.pieces)
              expect(shown(kept, piece.name), piece.name).toEqual(shown(fresh, piece.name));
            expect(kept.counts()).toEqual(fresh.counts());
          }
        },
      ),
      { numRuns: 25 },
    );
    expect(answer.mock.results.some(({ value }) => value !== undefined)).toBe(true);
    answer.mockRestore();
  });
});
