import { describe, expect, test } from "vitest";
import { figureHtml } from "../chart/figure-html";
import { figureParts } from "../chart/figure-texts";
import { compileText } from "../testing/compile-text";
import { Model } from "./model";
import { summaryHtml, summaryLines, summaryRows } from "./summary";

const SHEET = (chart: string) => `still: 1
report: R
tables:
  t:
    rows: |
      k,c,n
      a,x,1
      b,x,5
      c,y,9
      d,y,5
      e,x,
      f,<b>,3
charts:
  by: {from: t, draw: bars, x: c, y: count()}
  one: ${chart}
links:
  - click on by -> filter one
`;

function modelOf(chart: string) {
  const compiled = compileText(SHEET(chart));
  expect(compiled.findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
  return new Model(compiled.plan, compiled.tables);
}

const problem = (chart: string) =>
  compileText(SHEET(chart)).findings.find(({ severity }) => severity === "error")?.message;

const choose = (model: Model, c: string) => model.engine.select("by", { keys: [{ c }] });

describe("a summary", () => {
  const chart = "{from: t, draw: summary, columns: [n, c]}";
  test("sums every column up over the rows that pass", () => {
    const model = modelOf(chart);
    expect(summaryRows(summaryLines(model, "one"))).toEqual([
      {
        ...{ column: "n", kind: "number", known: 5, missing: 1, distinct: 4 },
        ...{ least: 1, q1: 3, median: 5, q3: 5, most: 9, mean: 4.6 },
      },
      {
        ...{ column: "c", kind: "text", known: 6, missing: 0, distinct: 3 },
        ...{ least: null, q1: null, median: null, q3: null, most: null, mean: null },
      },
    ]);
    choose(model, "x");
    expect(summaryRows(summaryLines(model, "one"))[0]).toMatchObject({ known: 2, missing: 1, mean: 3 });
  });
  test("takes values as text only", () => {
    const html = summaryHtml(summaryLines(modelOf(chart), "one"), "light");
    expect(html).toContain("&lt;b&gt;");
    expect(html).not.toContain("<b>");
  });
  test("takes no aggregates", () => {
    expect(problem("{from: t, draw: summary, columns: [sum(n)]}")).toContain("write them bare");
  });
});

describe("figures of a column", () => {
  const parts = (model: Model) => {
    const plan = model.piece("one")?.plan;
    const found = model.plainAnswer("one");
    if (plan?.type !== "figure" || !found) throw new Error("no figure");
    return figureParts(plan, found, model.sparkAnswer("one"));
  };
  test("stand once for each value that has rows left", () => {
    const model = modelOf("{from: t, draw: figure, value: sum(n), by: c}");
    expect(parts(model).map(({ by, texts }) => [by, texts.value])).toEqual([
      ["<b>", "3"],
      ["x", "6"],
      ["y", "14"],
    ]);
    expect(figureHtml(parts(model), true, "light")).toContain("&lt;b&gt;");
    choose(model, "y");
    expect(parts(model).map(({ by, texts }) => [by, texts.value])).toEqual([["y", "14"]]);
  });
  test("have a small line along what spark: names, of the rows left", () => {
    const model = modelOf("{from: t, draw: figure, value: sum(n), spark: k}");
    expect(parts(model)[0]?.spark).toEqual([1, 5, 9, 5, 0, 3]);
    expect(figureHtml(parts(model), false, "light")).toContain('class="spark"');
    choose(model, "y");
    expect(parts(model)[0]?.spark).toEqual([0, 0, 9, 5, 0, 0]);
  });
  test("take no aggregate to repeat by", () => {
    expect(problem("{from: t, draw: figure, value: sum(n), by: sum(n)}")).toContain("takes a column");
  });
});
