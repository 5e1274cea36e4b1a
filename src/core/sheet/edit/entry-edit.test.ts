import { describe, expect, test } from "vitest";
import { applyEdits } from "../../finding/finding";
import { duplicateEntry, moveEntry } from "./entry-edit";

const TEXT = `still: 1
charts:
  # the first
  one: {from: t, draw: bars}

  two: # behind it
    from: t
    # inside
    draw: line
  three: {from: t, draw: figure}
# at the end
links: []
`;
const moved = (name: string, by: number, text = TEXT) => {
  const edits = moveEntry(text, ["charts"], name, by);
  return edits && applyEdits(text, edits);
};

describe("moving an entry", () => {
  test("takes its lines and comments along and leaves all else", () => {
    expect(moved("two", -1)).toBe(`still: 1
charts:
  two: # behind it
    from: t
    # inside
    draw: line

  # the first
  one: {from: t, draw: bars}
  three: {from: t, draw: figure}
# at the end
links: []
`);
    expect(moved("two", 1)).toBe(`still: 1
charts:
  # the first
  one: {from: t, draw: bars}

  three: {from: t, draw: figure}
  two: # behind it
    from: t
    # inside
    draw: line
# at the end
links: []
`);
    expect(moved("one", 2)).toContain("figure}\n  # the first\n  one: {from: t, draw: bars}\n# at the end");
  });
  test("back again is what it was", () => {
    expect(moved("one", -2, moved("one", 2))).toBe(TEXT);
    expect(moved("two", 1, moved("two", -1))).toBe(TEXT);
  });
  test("is nothing past the ends, or on one line", () => {
    expect(moved("one", -1)).toBeUndefined();
    expect(moved("three", 1)).toBeUndefined();
    expect(moved("none", 1)).toBeUndefined();
    expect(moved("a", 1, "charts: {a: {from: t}, b: {from: t}}\n")).toBeUndefined();
  });
  test("at the end of a text without a last line break", () => {
    const text = "charts:\n  a: {from: t}\n  b: {from: t}";
    expect(moved("a", 1, text)).toBe("charts:\n  b: {from: t}\n  a: {from: t}");
  });
});

describe("duplicating an entry", () => {
  test("writes it under itself by its new name", () => {
    const edits = duplicateEntry(TEXT, ["charts"], "two", "two_2") ?? [];
    expect(applyEdits(TEXT, edits)).toBe(
      TEXT.replace("  three", "  two_2: # behind it\n    from: t\n    # inside\n    draw: line\n  three"),
    );
    const one = duplicateEntry(TEXT, ["charts"], "one", "again") ?? [];
    expect(applyEdits(TEXT, one)).toBe(TEXT.replace("bars}\n", "bars}\n  again: {from: t, draw: bars}\n"));
    const last = "charts:\n  a: {from: t}";
    expect(applyEdits(last, duplicateEntry(last, ["charts"], "a", "b") ?? [])).toBe(
      "charts:\n  a: {from: t}\n  b: {from: t}",
    );
  });
});
