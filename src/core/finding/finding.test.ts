import { describe, expect, test } from "vitest";
import { applyEdits } from "./finding";
import { listed, nearest, slips } from "./nearest";
import { lineOf, placeOf } from "./place";

describe("edits", () => {
  test("are applied in the order of the text, whatever order they come in", () => {
    expect(
      applyEdits("one two three", [
        { start: 8, end: 13, text: "3" },
        { start: 0, end: 3, text: "1" },
      ]),
    ).toBe("1 two 3");
  });
  test("an empty stretch inserts", () => {
    expect(applyEdits("ab", [{ start: 1, end: 1, text: "-" }])).toBe("a-b");
  });
  test("that overlap are a fault of the caller", () => {
    expect(() =>
      applyEdits("abcd", [
        { start: 0, end: 3, text: "" },
        { start: 2, end: 4, text: "" },
      ]),
    ).toThrow(RangeError);
  });
});

describe("places", () => {
  test("count lines and columns from 1", () => {
    expect(placeOf("ab\ncd\n", 0)).toEqual({ line: 1, column: 1 });
    expect(placeOf("ab\ncd\n", 4)).toEqual({ line: 2, column: 2 });
    expect(placeOf("ab\ncd\n", 99)).toEqual({ line: 3, column: 1 });
  });
  test("make one line for a terminal, even of messages that do not", () => {
    const line = lineOf(
      { code: "x", severity: "error", message: "first\nsecond", span: { start: 3, end: 4 } },
      "a.still.yaml",
      "ab\ncd",
    );
    expect(line).toBe("a.still.yaml:2:1 error x: first second");
  });
});

describe("nearest names", () => {
  test("a swapped pair is one slip", () => {
    expect(slips("brth", "berth")).toBe(1);
    expect(slips("breth", "berth")).toBe(1);
  });
  test("finds the misspelt name and nothing far away", () => {
    expect(nearest("tonns", ["tonnes", "berth"])).toBe("tonnes");
    expect(nearest("arived", ["arrived", "alongside"])).toBe("arrived");
    expect(nearest("weather", ["tonnes", "berth"])).toBeUndefined();
  });
  test("lists are cut, saying how many more there are", () => {
    expect(listed(["a", "b", "c"], 2)).toBe("a, b and 1 more");
  });
});
