import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { Glob } from "./glob";

/** The same as an expression, which is right but slow where stars are many. */
function expression(pattern: string): RegExp {
  return new RegExp(
    `^${pattern
      .replace(/[.+^${}()|[\]\\]/g, "\\$&")
      .replaceAll("*", ".*")
      .replaceAll("?", ".")}$`,
    "su",
  );
}

describe("patterns", () => {
  const signs = fc.constantFrom("a", "b", ".", "-", "é", "𝄞", "?", "*");
  const pattern = fc.array(signs, { maxLength: 8 }).map((list) => list.join(""));
  const text = fc.array(fc.constantFrom("a", "b", ".", "-", "é", "𝄞"), { maxLength: 10 }).map((list) => list.join(""));
  test("fit what they say", () => {
    fc.assert(
      fc.property(pattern, text, (one, other) => {
        expect(new Glob(one).fits(other)).toBe(expression(one).test(other));
      }),
      { numRuns: 3000 },
    );
  });
  test("what they leave open, put back, is the text", () => {
    fc.assert(
      fc.property(pattern, text, (one, other) => {
        const open = new Glob(one).open(other);
        expect(open !== undefined).toBe(expression(one).test(other));
        if (!open) return;
        let at = 0;
        expect(one.replace(/[*?]/g, () => open[at++] as string)).toBe(other);
      }),
      { numRuns: 2000 },
    );
  });
  // One that is tried again and again would not come back within the time of a test at all.
  test("of very many stars take no more than their length times the text's", () => {
    expect(new Glob(`${"*a".repeat(400)}b`).fits("a".repeat(100_000))).toBe(false);
    expect(new Glob(`${"*a?".repeat(300)}b`).fits("a".repeat(20_000))).toBe(false);
  });
});
