import { expect, test } from "vitest";
import { Model } from "../model/model";
import { Rects } from "../scene/shapes/rects";
import { compileText } from "../testing/compile-text";
import { shapeIn } from "../testing/drawn";
import { drawChart } from "./draw";
import { chartRows } from "./rows";

/** A chart over a table that steps make of `t`, once one kind of rows is picked. */
function drawnFor(steps: string, kind: string) {
  const compiled = compileText(`still: 1
report: T
tables:
  t:
    rows: |
      shop,kind,n
      a,x,9
      b,x,8
      c,x,1
      a,y,1
      b,y,1
      c,y,5
  best:
    from: t
    steps: ${steps}
charts:
  kinds: {from: t, draw: bars, y: kind, x: sum(n)}
  one: {from: best, draw: bars, x: shop, y: sum(n)}
links: [click on kinds -> filter one]
`);
  expect(compiled.findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
  const model = new Model(compiled.plan, compiled.tables);
  model.engine.select("kinds", { keys: [{ kind }] });
  const input = model.chartInput("one", 400, 200, new Set());
  if (!input) throw new Error("no chart");
  const drawn = drawChart(input);
  const texts = drawn.scene.texts.map(({ text }) => text);
  return { rows: chartRows(input, drawn), texts, marks: shapeIn(drawn, Rects) };
}

test("where the first rows of a table that was run again are others, the axis has these", () => {
  const { rows, texts, marks } = drawnFor("[{group: {by: [shop], get: {n: sum(n)}}}, {sort: -n}, {first: 2}]", "y");
  expect(rows).toEqual([
    { x: "a", y: 1 },
    { x: "c", y: 5 },
  ]);
  expect(texts).toEqual(expect.arrayContaining(["a", "c"]));
  expect(texts).not.toContain("b");
  expect([...marks.x, ...marks.width].every(Number.isFinite)).toBe(true);
});

test("a category that only the rows left make stands beside those of all rows", () => {
  const { texts, marks } = drawnFor(
    "[{group: {by: [shop], get: {n: sum(n)}}}, {add: {shop: 'if(n > 8, upper(shop), shop)'}}]",
    "y",
  );
  expect(texts).toEqual(expect.arrayContaining(["A", "B", "c", "a", "b"]));
  expect([...marks.x, ...marks.width].every(Number.isFinite)).toBe(true);
});
