import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { textColumn } from "../table/column";
import "./functions/all";
import { groupRows } from "./groups";
import { answerMeasure, answerVector, makeMeasure } from "./measures";
import { quantilePlace, type RowFilter, valueAtPlace } from "./ordered";
import { OrderedCounts, scanOrder } from "./ordered-ways";
import { constantNumber, type Vector, vectorOf } from "./vector";

const quantileOf = (sorted: Float64Array, part: number) =>
  valueAtPlace(quantilePlace(sorted.length, part), (place) => sorted[place] as number);

const N = Number.NaN;

interface Row {
  group: number;
  value: number;
  fails: boolean;
}

const rowsOf = fc.array(
  fc.record({
    group: fc.integer({ min: 0, max: 3 }),
    value: fc.oneof(
      { weight: 5, arbitrary: fc.integer({ min: -1000, max: 1000 }).map((value) => value / 8) },
      { weight: 1, arbitrary: fc.constant(N) },
    ),
    fails: fc.boolean(),
  }),
  { minLength: 1, maxLength: 40 },
);

/** Known values of the rows of a group that pass, the plain way. */
function known(rows: Row[], group: number): number[] {
  return rows.filter((row) => row.group === group && !row.fails && !Number.isNaN(row.value)).map(({ value }) => value);
}

const mean = (values: number[]) => (values.length ? values.reduce((sum, value) => sum + value, 0) / values.length : N);

function variance(values: number[]): number {
  if (values.length < 2) return N;
  const middle = mean(values);
  return values.reduce((sum, value) => sum + (value - middle) ** 2, 0) / (values.length - 1);
}

function quantile(values: number[], p: number): number {
  if (values.length === 0) return N;
  const sorted = [...values].sort((a, b) => a - b);
  const place = (sorted.length - 1) * p;
  const [below, above] = [sorted[Math.floor(place)] as number, sorted[Math.ceil(place)] as number];
  return below + (above - below) * (place - Math.floor(place));
}

/** What each aggregate means, written once more without any cleverness. */
const PLAIN: Record<string, (values: number[], all: Row[]) => number> = {
  sum: (values) => values.reduce((sum, value) => sum + value, 0),
  mean,
  variance,
  stdev: (values) => Math.sqrt(variance(values)),
  min: (values) => (values.length ? Math.min(...values) : N),
  max: (values) => (values.length ? Math.max(...values) : N),
  median: (values) => quantile(values, 0.5),
  distinct: (values) => new Set(values).size,
  first: (values) => values[0] ?? N,
  last: (values) => values.at(-1) ?? N,
  count: (values) => values.length,
};

describe("every aggregate equals its plain meaning, over any choice of rows", () => {
  test.each(Object.keys(PLAIN))("%s", (name) => {
    fc.assert(
      fc.property(rowsOf, (rows) => {
        const values = Float64Array.from(rows, ({ value }) => value);
        const groups = Int32Array.from(rows, ({ group }) => group);
        const filter: RowFilter = Uint8Array.from(rows, ({ fails }) => (fails ? 2 : 0));
        const measure = makeMeasure(name, [{ kind: "number", values, step: 1 }], rows.length);
        const answers = answerMeasure(measure, groups, 4, filter);
        for (let group = 0; group < 4; group++) {
          const expected = (PLAIN[name] as (values: number[], all: Row[]) => number)(known(rows, group), rows);
          if (Number.isNaN(expected)) expect(answers[group]).toBeNaN();
          else expect(answers[group]).toBeCloseTo(expected, 6);
        }
      }),
    );
  });
  test("rows of no group count nowhere", () => {
    const measure = makeMeasure("sum", [{ kind: "number", values: Float64Array.of(1, 2, 4), step: 1 }], 3);
    expect([...answerMeasure(measure, Int32Array.of(0, -1, 0), 1, null)]).toEqual([5]);
  });
  test("quantiles interpolate at (n-1)p", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -50, max: 50 }), { minLength: 1, maxLength: 20 }),
        fc.integer({ min: 0, max: 20 }),
        (list, twentieths) => {
          const sorted = Float64Array.from(list).sort();
          expect(quantileOf(sorted, twentieths / 20)).toBeCloseTo(quantile(list, twentieths / 20), 9);
        },
      ),
    );
    expect(quantileOf(Float64Array.of(1, 2), 1.5)).toBeNaN();
    expect(quantileOf(new Float64Array(0), 0.5)).toBeNaN();
  });
});

describe("places among ordered rows, kept up as rows come and go", () => {
  test.each(["median", "quantile", "distinct", "first", "last"])("%s equals going over all rows", (name) => {
    fc.assert(
      fc.property(rowsOf, fc.array(fc.nat(39), { maxLength: 30 }), (rows, flips) => {
        const values = Float64Array.from(rows, ({ value }) => value);
        const groups = Int32Array.from(rows, ({ group }) => group - 1);
        const failed = Uint8Array.from(rows, ({ fails }) => (fails ? 1 : 0));
        const measure = makeMeasure(name, [{ kind: "number", values, step: 1 }, constantNumber(0.3)], rows.length);
        if (measure.type !== "ordered") throw new Error("not ordered");
        const counts = new OrderedCounts(scanOrder(measure, groups, 3), groups, 3);
        counts.recount(failed);
        counts.answer(measure, failed);
        for (const flip of flips) {
          const row = flip % rows.length;
          failed[row] = 1 - (failed[row] as number);
          counts.change(row, failed[row] ? -1 : 1);
          expect([...counts.answer(measure, failed)]).toEqual([...answerMeasure(measure, groups, 3, failed)]);
        }
      }),
      { numRuns: 25 },
    );
  });
  test("in groups of more than one block", () => {
    const length = 5000;
    const values = Float64Array.from({ length }, (_, row) => (row * 7919) % 1009);
    const groups = Int32Array.from({ length }, (_, row) => (row % 7 === 0 ? 1 : 0));
    const failed = new Uint8Array(length);
    const measure = makeMeasure("median", [{ kind: "number", values, step: 1 }], length);
    if (measure.type !== "ordered") throw new Error("not ordered");
    const counts = new OrderedCounts(scanOrder(measure, groups, 2), groups, 2);
    counts.recount(failed);
    for (let row = 0; row < 4000; row++) {
      failed[row] = 1;
      counts.change(row, -1);
    }
    expect([...counts.answer(measure, failed)]).toEqual([...answerMeasure(measure, groups, 2, failed)]);
  });
});

describe("spreads of few rows beside others of another size", () => {
  const answer = (name: string, args: number[][], groups: number[], fails: number[] = []) =>
    answerMeasure(
      makeMeasure(
        name,
        args.map((values): Vector => ({ kind: "number", values: Float64Array.from(values), step: 1 })),
        groups.length,
      ),
      Int32Array.from(groups),
      2,
      Uint8Array.from(groups, (_, row) => (fails.includes(row) ? 1 : 0)),
    );
  const small = [7, 7.1, 7.2];
  test.each([
    ["beside whole numbers", [50000000, 60000000]],
    ["beside fractions", [50000000 / 3, 1e9 / 7]],
    ["beside something astronomic", [1e100, 3e100]],
  ])("%s", (_, large) => {
    const [values, groups] = [
      [...small, ...large],
      [0, 0, 0, 1, 1],
    ];
    expect(answer("stdev", [values], groups)[0]).toBeCloseTo(0.1, 13);
    expect(answer("variance", [values], groups)[0]).toBeCloseTo(0.01, 13);
    expect(
      (answer("stdev", [values], groups)[1] as number) / ((large[1] as number) - (large[0] as number)),
    ).toBeCloseTo(Math.SQRT1_2, 13);
    // The same rows left by a selection, in one group with those that it takes away.
    expect(answer("stdev", [values], [0, 0, 0, 0, 0], [3, 4])[0]).toBeCloseTo(0.1, 13);
  });
  test("of pairs too", () => {
    const [xs, ys] = [
      [7, 7.1, 7.2, 5e7, 6e7],
      [1.1, 1.3, 1.5, 1e9, 3e9],
    ];
    expect(answer("slope", [ys, xs], [0, 0, 0, 0, 0], [3, 4])[0]).toBeCloseTo(2, 11);
    expect(answer("corr", [xs, ys], [0, 0, 0, 1, 1])[0]).toBeCloseTo(1, 12);
    expect(answer("corr", [xs.map((x) => x / 3), ys], [0, 0, 0, 1, 1])[0]).toBeCloseTo(1, 12);
  });
  test("equal values have no spread, however long they are", () => {
    expect(answer("stdev", [[1 / 3, 1 / 3, 1 / 3, 1e15 / 7, 1]], [0, 0, 0, 1, 1])[0]).toBe(0);
    expect(answer("stdev", [[1700000000.123, 1700000000.123, 5]], [0, 0, 1])[0]).toBe(0);
  });
});

describe("kinds of answers", () => {
  const moment: Vector = { kind: "date", values: Float64Array.of(0, 86400), step: 1 };
  const flags: Vector = { kind: "boolean", values: Float64Array.of(1, 1), step: 1 };
  test("a mean of dates is a moment, of flags a number; lengths of time stay lengths", () => {
    expect(makeMeasure("mean", [moment], 2).kind).toBe("datetime");
    expect(makeMeasure("mean", [flags], 2).kind).toBe("number");
    expect(makeMeasure("sum", [flags], 2).kind).toBe("number");
    expect(makeMeasure("max", [moment], 2).kind).toBe("date");
    expect(makeMeasure("stdev", [{ kind: "duration", values: Float64Array.of(1, 3), step: 1 }], 2).kind).toBe(
      "duration",
    );
  });
  test("first and last of texts give texts", () => {
    const measure = makeMeasure("last", [vectorOf(textColumn(["b", "a", null], 3))], 3);
    const answer = answerVector(measure, answerMeasure(measure, Int32Array.of(0, 0, 0), 2, null));
    if (answer.kind !== "text") throw new Error("not a text");
    expect(answer.dictionary[answer.codes[0] as number]).toBe("a");
    expect(answer.codes[1]).toBe(-1);
  });
  test("a constant is spread over the rows", () => {
    const measure = makeMeasure("sum", [constantNumber(2.5)], 4);
    expect([...answerMeasure(measure, new Int32Array(4), 1, null)]).toEqual([10]);
  });
  test("nothing sums to nothing, and every other aggregate of it is missing", () => {
    const empty: Vector = { kind: "number", values: Float64Array.of(N), step: 1 };
    const answer = (name: string) => answerMeasure(makeMeasure(name, [empty], 1), Int32Array.of(0), 1, null)[0];
    expect(answer("sum")).toBe(0);
    expect(answer("count")).toBe(0);
    for (const name of ["mean", "median", "min", "max", "stdev", "first"]) expect(answer(name), name).toBeNaN();
  });
});

describe("groups", () => {
  test("put together exactly the rows with equal keys, in order of first appearance", () => {
    const key = fc.record({ a: fc.constantFrom("x", "y", null), b: fc.constantFrom(1, 2.5, N) });
    fc.assert(
      fc.property(fc.array(key, { maxLength: 30 }), fc.func(fc.boolean()), (rows, leave) => {
        const texts = textColumn(
          rows.map(({ a }) => a),
          rows.length,
        );
        const numbers = { kind: "number" as const, values: Float64Array.from(rows, ({ b }) => b) };
        const out = Uint8Array.from(rows, (row) => (leave(row) ? 1 : 0));
        const { of, count, firstRows } = groupRows([texts, numbers], rows.length, out);
        const names = new Map<string, number>();
        rows.forEach(({ a, b }, row) => {
          if (out[row]) {
            expect(of[row]).toBe(-1);
            return;
          }
          const name = `${a} ${b}`;
          if (!names.has(name)) {
            names.set(name, names.size);
            expect(firstRows[names.size - 1]).toBe(row);
          }
          expect(of[row]).toBe(names.get(name));
        });
        expect(count).toBe(names.size);
      }),
    );
  });
  test("many keys with many values still number densely", () => {
    const columns = [0, 1, 2].map((shift) => ({
      kind: "number" as const,
      values: Float64Array.from({ length: 300 }, (_, row) => (row * (shift + 7)) % 211),
    }));
    const { of, count } = groupRows(columns, 300);
    expect(count).toBe(new Set(of).size);
    expect(Math.max(...of)).toBe(count - 1);
  });
});
