import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { TextCodes } from "./text-codes";

describe("codes of texts", () => {
  test("each text once, in the order of coming, whatever it is and however many there are", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof(
            fc.string({ maxLength: 3 }),
            fc.integer({ min: 0, max: 400 }).map((n) => `vessel number ${n}`),
          ),
          { maxLength: 600 },
        ),
        (texts) => {
          const codes = new TextCodes();
          const plain = new Map<string, number>();
          for (const text of texts) {
            const expected = plain.get(text) ?? plain.size;
            plain.set(text, expected);
            expect(codes.codeOf(`«${text}»`, 1, 1 + text.length)).toBe(expected);
          }
          expect(codes.texts).toEqual([...plain.keys()]);
        },
      ),
    );
  });
  // Found by trying: both end on the same 32 bits.
  test("texts whose hashes are the same are told apart", () => {
    const codes = new TextCodes();
    const both = ["rxloqj", "rglzqb"];
    expect([...both, ...both].map((text) => codes.codeOf(text, 0, text.length))).toEqual([0, 1, 0, 1]);
  });
});
