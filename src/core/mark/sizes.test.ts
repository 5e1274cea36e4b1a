import { expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { chartRows } from "../chart/rows";
import { accountOf } from "../look/accounting";
import { Model } from "../model/model";
import "../link/all";
import { Words } from "../scene/shapes/words";
import { compileText } from "../testing/compile-text";

const compiled = compileText(`still: 1
report: R
tables:
  t: {rows: "k,a,n\\nwest,1,80\\neast,2,\\nnorth,3,20\\nsouth,4,0"}
charts:
  dots: {from: t, draw: points, x: a, y: a, size: n, label: k}
  round: {from: t, draw: bubbles, size: sum(n), label: k}
  most: {from: t, draw: words, size: max(n), label: k}
`);
const model = new Model(compiled.plan, compiled.tables);

function shown(chart: string) {
  const input = model.chartInput(chart, 400, 300, new Set());
  if (!input) throw new Error("no chart");
  const drawn = drawChart(input);
  return {
    rows: chartRows(input, drawn).map(({ label }) => label),
    words: drawn.scene.panels.flatMap(({ shapes }) =>
      shapes.flatMap((one) => (one instanceof Words ? one.parts.texts : [])),
    ),
  };
}

test("of a missing size nothing is drawn: no disc, no name, no row; a size of nothing is one", () => {
  expect(compiled.findings.filter(({ severity }) => severity === "error")).toEqual([]);
  expect(shown("dots")).toEqual({ rows: ["west", "north", "south"], words: ["west", "north", "south"] });
  // Nothing sums up to 0, and has no largest value; a word of no size is not written.
  expect(shown("round").rows).toHaveLength(4);
  expect(shown("most").rows).toEqual(["west", "north"]);
});

test("and it is told where they went", () => {
  expect(accountOf(compiled, model, "dots").slice(1)).toEqual([
    { count: 3, what: "have a size", lost: "1 missing one" },
    expect.objectContaining({ count: 3, what: "points drawn" }),
  ]);
});
