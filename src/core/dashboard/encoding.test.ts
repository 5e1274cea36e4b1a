import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type Column, type NumericKind, textColumn } from "../table/column";
import { makeTable } from "../table/table";
import { fromPlanes, toPlanes } from "./encoding";
import { packTable } from "./pack";

function encodingOf(values: number[], kind: NumericKind = "number") {
  const packed = packTable("t", makeTable(values.length, [["c", { kind, values: Float64Array.from(values) }]]));
  const column = packed.table.columns[0];
  if (!column) throw new Error("no column");
  return { ...column.encoding, missing: column.missingBytes, bytes: packed.blocks[0]?.length ?? 0 };
}

const many = (value: (row: number) => number) => Array.from({ length: 4000 }, (_, row) => value(row));
/** Numbers that jump about, the same every time. */
const jump = (row: number) => (row * 7919) % 104729;

describe("planes of bytes", () => {
  test("put equal places side by side and come apart again", () => {
    expect([...toPlanes(Uint8Array.of(1, 2, 3, 4, 5, 6), 2)]).toEqual([1, 3, 5, 2, 4, 6]);
    fc.assert(
      fc.property(
        fc.constantFrom(1, 2, 4, 8),
        fc.nat(20),
        fc.uint8Array({ minLength: 160, maxLength: 160 }),
        (width, count, bytes) => {
          const part = bytes.slice(0, width * count);
          expect([...fromPlanes(toPlanes(part, width), width)]).toEqual([...part]);
        },
      ),
    );
  });
});

describe("the narrowest writing that loses nothing", () => {
  test("small whole numbers take a byte, larger ones two or four", () => {
    expect(encodingOf(many((row) => jump(row) % 200))).toMatchObject({
      width: 1,
      type: "integer",
      divisor: 1,
      base: 0,
    });
    expect(encodingOf(many((row) => (jump(row) % 60000) - 30000))).toMatchObject({ width: 2, type: "integer" });
    expect(encodingOf(many((row) => jump(row) * 9999))).toMatchObject({ width: 4, type: "integer" });
  });
  test("decimals are whole numbers of their last place", () => {
    expect(encodingOf(many((row) => (jump(row) % 200) / 10))).toMatchObject({ width: 1, divisor: 10 });
    expect(encodingOf(many((row) => (jump(row) % 20000) / 100))).toMatchObject({ width: 2, divisor: 100 });
  });
  test("what rises steadily is written by its steps", () => {
    expect(
      encodingOf(
        many((row) => 1.7e9 + row * 60 + (row % 7)),
        "datetime",
      ),
    ).toMatchObject({ width: 1, delta: true });
    expect(
      encodingOf(
        many((row) => 1.7e9 + jump(row) * 60),
        "datetime",
      ),
    ).toMatchObject({ delta: false });
  });
  test("single floats stay single, others stay whole", () => {
    expect(encodingOf(many((row) => Math.fround(Math.sqrt(row + 0.5))))).toMatchObject({ width: 4, type: "float" });
    expect(encodingOf(many((row) => Math.sqrt(row + 0.5)))).toMatchObject({ width: 8, type: "float" });
  });
  test("missing costs a bit a row, and nothing where all is known", () => {
    expect(encodingOf([1, 2, 3]).missing).toBe(0);
    expect(encodingOf(many((row) => (row % 9 === 0 ? Number.NaN : row))).missing).toBe(500);
  });
  test("regular columns pack to almost nothing", () => {
    expect(encodingOf(many((row) => row)).bytes).toBeLessThan(100);
    expect(encodingOf(many(() => 5)).bytes).toBeLessThan(40);
  });
});

describe("dictionaries", () => {
  const dictionaryOf = (column: Column) => packTable("t", makeTable(4, [["c", column]])).table.columns[0];
  test("hold only what is used", () => {
    const wide: Column = { kind: "text", codes: Int32Array.of(2, 2, -1, 0), dictionary: ["b", "unused and long", "a"] };
    expect(dictionaryOf(wide)?.dictionaryBytes).toBe('["a","b"]'.length);
  });
  test("keep an order of their own", () => {
    const months: Column = {
      kind: "text",
      codes: Int32Array.of(1, 0, 1, 2),
      dictionary: ["January", "February", "March"],
      ordered: true,
    };
    expect(dictionaryOf(months)?.ordered).toBe(true);
    expect(dictionaryOf(textColumn(["a", "b", "c", "d"], 4))?.ordered).toBeUndefined();
  });
});
