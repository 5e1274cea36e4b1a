import { expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { Words } from "../scene/shapes/words";
import { textWidth } from "../scene/text-width";
import { compileText, sheetOver } from "../testing/compile-text";
import { modelOf } from "../testing/shown";

/** The shape of words that a chart draws over rows of a word and its number. */
function wordsOf(rows: readonly (readonly [string, number])[]): Words {
  const csv = `word,n\n${rows.map((row) => row.join(",")).join("\n")}`;
  const text = sheetOver(csv, "charts:\n  one: {from: calls, draw: words, label: word, size: sum(n)}\n");
  expect(compileText(text).findings).toEqual([]);
  const input = modelOf(text).chartInput("one", 400, 240, new Set());
  if (!input) throw new Error("no chart");
  const shape = drawChart(input).scene.panels[0]?.shapes[0];
  if (!(shape instanceof Words)) throw new Error("no words");
  return shape;
}

const ALIKE = Array.from({ length: 40 }, (_, at) => [`word${at}`, 10] as const);

test("words of which some would find no room are all made smaller", () => {
  const { parts } = wordsOf(ALIKE);
  expect([...parts.texts].sort()).toEqual(ALIKE.map(([word]) => word).sort());
  expect(wordsOf(ALIKE.slice(0, 2)).sizeOf(0)).toBeGreaterThan(2 * wordsOf(ALIKE).sizeOf(0));
});

test("two words in one line stand apart by more than a space", () => {
  const words = wordsOf(ALIKE);
  const { x, y, texts } = words.parts;
  const size = words.sizeOf(0);
  let beside = 0;
  for (let a = 0; a < texts.length; a++)
    for (let b = 0; b < a; b++) {
      if (Math.abs((y[a] as number) - (y[b] as number)) > size / 4) continue;
      const [own, other] = [a, b].map((at) => textWidth(texts[at] as string, size)) as [number, number];
      const gap = Math.abs((x[a] as number) - (x[b] as number)) - (own + other) / 2;
      expect(gap).toBeGreaterThan(textWidth(" ", size));
      beside += 1;
    }
  expect(beside).toBeGreaterThan(0);
});

test("areas of words differ as their values do", () => {
  const words = wordsOf([
    ["large", 100],
    ["small", 25],
  ]);
  const sizeOf = (text: string) => words.sizeOf(words.parts.texts.indexOf(text));
  expect(sizeOf("large") / sizeOf("small")).toBeCloseTo(2, 6);
});
