import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { categoryScale } from "../scale/scales";
import { cutApart, textWidth } from "../scene/text-width";
import { levelWords, slantedWords, TEXT, wordsUnder } from "./tick-words";

const under = (texts: readonly string[], band: number, deepest = 0) =>
  wordsUnder(texts.length, (at) => texts[at] as string, band, deepest);
const linesOf = (texts: readonly string[], band: number) => under(texts, band).lines;

const written = (texts: string[], length: number, lines = 2) =>
  levelWords(categoryScale(texts, [0, length]), [0, length], lines).map(({ words }) => words.join("|"));

describe("words under bands", () => {
  test("stand in two lines where they are too wide for one and can be parted", () => {
    const texts = ["Brook Street", "Carr Side", "Old Quarry"];
    expect(linesOf(texts, 50)).toBe(2);
    expect(written(texts, 150)).toEqual(["Brook|Street", "Carr Side", "Old|Quarry"]);
    expect(linesOf(texts, 100)).toBe(1);
    expect(written(texts, 300)).toEqual(texts);
    expect(linesOf(["Brookstreet", "Carrside"], 40)).toBe(1);
    // Hardly a letter would find room: then some stand whole.
    expect(linesOf(texts, 20)).toBe(1);
    expect(written(texts, 60)).toEqual(["Brook Street"]);
  });
  test("are parted where both lines are as equally long as can be", () => {
    expect(written(["one-two three four", "b"], 130)).toEqual(["one-two|three four", "b"]);
  });
  test("reach beyond their band where those beside them leave room", () => {
    expect(written(["a", "Westfoldings", "b"], 150)).toEqual(["a", "Westfoldings", "b"]);
    expect(written(["Brook Street", "Westfoldings", "Carr Side"], 150)[1]).toMatch(/…$/);
    // At the edge of the plot it would be moved towards its neighbour.
    expect(written(["a", "bb", "Westfoldings"], 150)[2]).toMatch(/…$/);
  });
  test("that are cut stay apart", () => {
    const [first, second] = written(["Harbourmasters-north", "Harbourmasters-south"], 90, 1);
    expect(first).not.toBe(second);
    expect(first).toMatch(/^H.*….*h$/);
  });
  test("that are slanted stand whole where there is room below, the widest of them too", () => {
    const letters = fc.string({ minLength: 3, maxLength: 12, unit: fc.constantFrom(..."abcdefghilmnorst") });
    fc.assert(
      fc.property(fc.uniqueArray(letters, { minLength: 3, maxLength: 8 }), (texts) => {
        const { slant } = under(texts, 20, 400);
        if (slant === undefined) return;
        // Far enough from the left edge of the chart.
        const scale = categoryScale(texts, [400, 400 + 20 * texts.length]);
        expect(slantedWords(scale, slant).map(({ text }) => text)).toEqual(texts);
      }),
    );
  });
  test("are slanted where names would be cut or left out, and there is room below", () => {
    const names = ["A. Marsh", "B. Quill", "C. Thorne", "D. Yarrow", "E. Winnow"];
    const widest = Math.max(...names.map((name) => textWidth(name, TEXT)));
    expect(under(names, 20, 100).slant).toBe(Math.ceil(widest * Math.SQRT1_2) + 8);
    // Too little room below, or none between them.
    expect(under(names, 20, 30)).toEqual({ lines: 1 });
    expect(under(names, 16, 100)).toEqual({ lines: 1 });
    // Whole names stand level, in two lines where that makes them whole.
    expect(under(names, 60, 100)).toEqual({ lines: 1 });
    expect(under(names, 50, 100)).toEqual({ lines: 2 });
    expect(under(["Westfoldings", "Harbourmasters"], 50, 100).slant).toBeDefined();
    // What lies between two years is known.
    expect(under(["2019", "2020", "2021", "2022"], 20, 100)).toEqual({ lines: 1 });
  });
  test("that are slanted all stand, end at their bands, and leave the chart neither below nor at its left", () => {
    const texts = ["Westfoldings-on-the-water", "Westfoldings", "B. Quill"];
    const scale = categoryScale(texts, [20, 80]);
    const found = slantedWords(scale, 60);
    expect(found.map(({ place }) => place)).toEqual([30, 50, 70]);
    found.forEach(({ place, text }) => {
      expect(textWidth(text, TEXT) * Math.SQRT1_2).toBeLessThanOrEqual(Math.min(place, 60) + 1e-9);
    });
    expect(found.map(({ text }) => text)[2]).toBe("B. Quill");
    expect(new Set(found.map(({ text }) => text)).size).toBe(3);
  });
  const word = fc.stringMatching(/^[A-Z][a-z]{0,9}( [A-Z][a-z]{0,9})?$/);
  test("never touch one another, nor leave the plot", () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(word, { minLength: 1, maxLength: 14 }),
        fc.integer({ min: 60, max: 600 }),
        (texts, length) => {
          const found = levelWords(
            categoryScale(texts, [0, length]),
            [0, length],
            linesOf(texts, length / texts.length),
          );
          const halves = found.map(({ words }) => Math.max(...words.map((line) => textWidth(line, TEXT))) / 2);
          found.forEach(({ place }, at) => {
            const half = halves[at] as number;
            if (half * 2 < length) {
              expect(place - half).toBeGreaterThanOrEqual(-1e-9);
              expect(place + half).toBeLessThanOrEqual(length + 1e-9);
            }
            const before = found[at - 1];
            if (before) expect(place - before.place - half - (halves[at - 1] as number)).toBeGreaterThanOrEqual(3.9);
          });
        },
      ),
    );
  });
});

test("texts cut to a width are no wider, and stay as they are where they fit", () => {
  fc.assert(
    fc.property(
      fc.array(fc.string({ maxLength: 30 }), { maxLength: 8 }),
      fc.integer({ min: 20, max: 200 }),
      (texts, width) => {
        cutApart(texts, width, TEXT).forEach((cut, at) => {
          const text = texts[at] as string;
          if (textWidth(text, TEXT) <= width) expect(cut).toBe(text);
          else expect(textWidth(cut, TEXT)).toBeLessThanOrEqual(width + 1e-9);
        });
      },
    ),
  );
});
