import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { categoryScale } from "../scale/scales";
import { cutApart, textWidth } from "../scene/text-width";
import { levelWords, linesUnder, TEXT } from "./tick-words";

const linesOf = (texts: readonly string[], band: number) => linesUnder(texts.length, (at) => texts[at] as string, band);

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
