import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { Model } from "../model/model";
import { compileText, sheetOver } from "../testing/compile-text";
import { andOutline, isInside } from "./outline";

const SQUARE: [number, number][] = [
  [0, 0],
  [4, 0],
  [4, 4],
  [0, 4],
];

describe("an outline", () => {
  test("of four corners holds what a box of them holds", () => {
    fc.assert(
      fc.property(fc.double({ min: -2, max: 6, noNaN: true }), fc.double({ min: -2, max: 6, noNaN: true }), (x, y) => {
        fc.pre(![x, y].some((value) => value === 0 || value === 4));
        expect(isInside(SQUARE, x, y)).toBe(x > 0 && x < 4 && y > 0 && y < 4);
      }),
    );
  });

  test("may have bays", () => {
    const bay: [number, number][] = [...SQUARE.slice(0, 3), [2, 1], [0, 4]];
    expect(isInside(bay, 2, 0.5)).toBe(true);
    expect(isInside(bay, 2, 3)).toBe(false);
  });

  test("is straight where it was drawn straight, on a bent axis too", () => {
    const pass = new Uint8Array(2).fill(1);
    const triangle: [number, number][] = [
      [1, 0],
      [100, 0],
      [100, 2],
    ];
    // Half way to the right on a log axis is 10, where the side is half as high.
    andOutline(pass, triangle, [Float64Array.of(10, 10), Float64Array.of(0.9, 1.1)], ["log", "linear"]);
    expect([...pass]).toEqual([1, 0]);
  });
});

const CSV = "k,v,w\na,1,10\na,2,20\nb,5,30\nc,9,40\nc,9,";

function modelOf(rest: string) {
  const { plan, tables, findings } = compileText(sheetOver(CSV, rest));
  return { model: new Model(plan, tables), codes: findings.map(({ code }) => code) };
}

const CHARTS = `charts:
  dots: {from: calls, draw: points, x: v, y: w}
  sums: {from: calls, draw: bars, x: k, y: sum(v)}
  one: {from: calls, draw: points, x: mean(v), y: mean(w)}
  n: {from: calls, draw: figure, value: count()}
`;

describe("gestures over marks", () => {
  test("a lasso of rows keeps what it was drawn over, and filters by it", () => {
    const { model, codes } = modelOf(`${CHARTS}links: [lasso on dots -> filter n]\n`);
    expect(codes).toEqual([]);
    model.engine.select("dots", {
      outline: [
        [0, 0],
        [6, 0],
        [6, 25],
        [0, 25],
      ],
    });
    expect(model.plainAnswer("n")?.answer.counts[0]).toBe(2);
  });

  test("a brush over a measure holds the keys of the groups in its range", () => {
    const { model, codes } = modelOf(`${CHARTS}links: [brush y on sums -> filter n]\n`);
    expect(codes).toEqual([]);
    const selection = model.selections.get("sums");
    if (!selection) throw new Error("no selection");
    expect(model.keysWithin(selection, { y: [3, 6] })).toEqual([{ k: "a" }, { k: "b" }]);
    model.engine.select("sums", { keys: model.keysWithin(selection, { y: [3, 6] }) });
    expect(model.plainAnswer("n")?.answer.counts[0]).toBe(3);
  });

  test("one mark for all rows has no part that could be held", () => {
    expect(modelOf(`${CHARTS}links: [brush x on one -> filter n]\n`).codes).toEqual(["gesture-here"]);
    expect(modelOf(`${CHARTS}links: [lasso on one -> filter n]\n`).codes).toEqual(["gesture-here"]);
    expect(modelOf(`${CHARTS}links: [lasso on sums -> filter n]\n`).codes).toEqual([]);
  });
});
