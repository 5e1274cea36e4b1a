import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { Kind } from "../table/column";
import { type ColumnWish, inferColumn } from "./infer";
import { numberReader } from "./numbers";

function inferred(texts: string[], wish: ColumnWish = {}) {
  const cells: (string | null)[] = [...texts];

  return inferColumn("c", cells, wish);
}

const many = (texts: string[], times = 40) => Array.from({ length: times }, (_, i) => texts[i % texts.length] as string);

describe("kinds of a column", () => {
  test.each<[Kind, string[]]>([
    ["number", ["1", "2.5", "-3", "+4", "1e3", ".5"]],
    ["number", ["1,000", "12,345.6", "7"]],
    ["number", [" 5 ", "6"]],
    ["text", ["007", "012"]],
    ["text", ["1-2", "3-4"]],
    ["text", ["yes", "no", "perhaps"]],
    ["boolean", ["yes", "no"]],
    ["boolean", ["TRUE", "FALSE"]],
    ["date", ["2024-02-29", "2023-01-01"]],
    ["text", ["2023-02-29", "2023-02-30"]],
    ["datetime", ["2024-02-29 10:00", "2023-01-01T09:30:15Z"]],
    ["date", ["31.12.2024", "1.1.2025"]],
    ["date", ["12/31/2024", "1/1/2025"]],
    ["duration", ["1:02:03", "130:00:00"]],
    ["duration", ["1:02", "2:03"]],
    ["text", ["Infinity", "NaN"]],
    ["text", ["0x10", "0b1"]],
  ])("%s: %j", (kind, texts) => {
    expect(inferred(many(texts)).report.kind).toBe(kind);
  });
  test("a column of nothing is text", () => {
    expect(inferred(["", " ", ""]).report).toMatchObject({ kind: "text", missing: 3 });
  });
  test("up to a twentieth of odd cells does not change the kind", () => {
    expect(inferred([...many(["1", "2"], 95), ...many(["?"], 5)]).report).toMatchObject({ kind: "number", unread: 5 });
    expect(inferred([...many(["1", "2"], 94), ...many(["?"], 6)]).report).toMatchObject({ kind: "text", unread: 0 });
  });
  test("examples are the first few, with their rows", () => {
    const { report } = inferred([...many(["1"], 200), "a", "b", "c", "d", "e", "f"]);
    expect(report.unread).toBe(6);
    expect(report.examples.map(({ row, text }) => `${row} ${text}`)).toEqual(["201 a", "202 b", "203 c", "204 d", "205 e"]);
  });
});

describe("what the sheet asks for is done", () => {
  test.each<[ColumnWish, string[], (number | string | null)[]]>([
    [{ type: "text" }, ["007", "1.0"], ["007", "1.0"]],
    [{ type: "number" }, ["007", "x"], [7, null]],
    [{ type: "boolean" }, ["1", "0", "yes"], [1, 0, 1]],
    [{ type: "date" }, ["2024-03-01 10:00", "1.3.2024"], [1709251200, 1709251200]],
    [{ type: "datetime" }, ["2024-03-01", "2024-03-01 00:01"], [1709251200, 1709251260]],
    [{ type: "duration" }, ["0:01:00", "60"], [60, null]],
    [{ type: "duration", read: "%M:%S" }, ["1:30", "2:00"], [90, 120]],
    [{ type: "date", read: "%d %B %Y" }, ["1 March 2024", "March 2024"], [1709251200, null]],
  ])("%j of %j", (wish, texts, expected) => {
    const { column } = inferred(texts, wish);
    const found = texts.map((_, row) => {
      if (column.kind === "text") return column.dictionary[column.codes[row] as number] ?? null;
      const value = column.values[row] as number;
      return Number.isNaN(value) ? null : value;
    });
    expect(found).toEqual(expected);
  });
});

describe("numbers", () => {
  test("that JavaScript writes are read back to the last bit", () => {
    fc.assert(
      fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), (value) => {
        expect(numberReader(".")(String(value))).toBe(value + 0 === 0 ? value + 0 : value);
      }),
    );
  });
  test.each(["", "1,23", "1,2345", "--1", "1.2.3", "1e", "12a", "١"])("%j is none", (text) => {
    expect(numberReader(".")(text)).toBeNaN();
  });
});
