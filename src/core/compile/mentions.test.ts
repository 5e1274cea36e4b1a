import { describe, expect, test } from "vitest";
import { figureTexts } from "../chart/figure-texts";
import { Model } from "../model/model";
import type { Answer } from "../query/answer";
import { channelValues } from "../query/values";
import { type Scalar, valueAt } from "../table/column";
import { compileText } from "../testing/compile-text";

const sheetOf = (told: string, more = "") => `still: 1
report: T
tables:
  t:
    rows: |
      id,g,x
      1,a,10
      2,a,20
      3,b,30
      4,b,40
${more}charts:
  dots: {from: t, draw: points, x: id, y: x}
  bars: {from: t, draw: bars, x: g, y: count()}
  told: ${told}
links:
  - brush x on dots -> fade bars
  - click on bars as group -> fade dots
`;

function modelOf(told: string): Model {
  const compiled = compileText(sheetOf(told));
  expect(compiled.findings.filter(({ severity }) => severity === "error")).toEqual([]);
  return new Model(compiled.plan, compiled.tables);
}

/** The values of a channel of the piece `told` as it stands. */
function shown(model: Model, channel: string): Scalar[] {
  const found = model.plainAnswer("told");
  const chart = model.chartInput("told", 400, 300, new Set())?.layers[0];
  const [answer, all] = [found?.answer ?? chart?.current, found?.all ?? chart?.all] as [Answer, Answer];
  const column = channelValues(channel, answer, all);
  return Array.from({ length: column.kind === "text" ? column.codes.length : column.values.length }, (_, at) =>
    valueAt(column, at),
  );
}

describe("formulas that speak of what is picked", () => {
  test("AGG of NAME is taken over the rows of that selection, and over all while nothing is picked", () => {
    const model = modelOf("{from: t, draw: figure, value: sum(x) of dots, against: sum(x) of all}");
    expect([shown(model, "value"), shown(model, "against")]).toEqual([[100], [100]]);
    model.engine.select("dots", { x: [2, 4] });
    expect([shown(model, "value"), shown(model, "against")]).toEqual([[50], [100]]);
    model.engine.select("dots", undefined);
    expect(shown(model, "value")).toEqual([100]);
  });
  test("NAME.column is the value that all picked rows have, else missing", () => {
    const model = modelOf("{from: t, draw: figure, value: first(group.g)}");
    expect(shown(model, "value")).toEqual([null]);
    model.engine.select("group", { keys: [{ g: "b" }] });
    expect(shown(model, "value")).toEqual(["b"]);
    model.engine.select("group", { keys: [{ g: "a" }, { g: "b" }] });
    expect(shown(model, "value")).toEqual([null]);
  });
  test("picked(NAME) is true for the rows that are picked", () => {
    const model = modelOf("{from: t, draw: points, x: id, y: x, color: picked(dots)}");
    expect(shown(model, "color")).toEqual([false, false, false, false]);
    model.engine.select("dots", { x: [2, 4] });
    expect(shown(model, "color")).toEqual([false, true, true, false]);
    expect(model.colorScale("told")).toMatchObject({ type: "categories", names: ["false", "true"] });
  });
  test("a chart may keep only what is picked elsewhere", () => {
    const model = modelOf("{from: t, draw: bars, keep: picked(dots) or id = 1, x: g, y: sum(x)}");
    model.engine.select("dots", { x: [3, 5] });
    expect(shown(model, "y")).toEqual([10, 70]);
  });
  test("the pieces that speak of a selection are known, for drawing them anew", () => {
    expect(modelOf("{from: t, draw: figure, value: sum(x) of dots}").speakingOf("dots")).toEqual(["told"]);
    expect(modelOf("{from: t, draw: figure, value: sum(x)}").speakingOf("dots")).toEqual([]);
  });
  test("columns that only a selection's value needs are packed", () => {
    const compiled = compileText(sheetOf("{from: t, draw: figure, value: count(), against: count() of dots}"));
    expect([...(compiled.tables.get("t")?.columns.keys() ?? [])].sort()).toEqual(["g", "id", "x"]);
  });
});

describe("what is wrong is said", () => {
  const messages = (told: string, more = "") =>
    compileText(sheetOf(told, more))
      .findings.filter(({ severity }) => severity === "error")
      .map(({ message }) => message);
  test("names that nothing picks", () => {
    expect(messages("{from: t, draw: figure, value: sum(x) of dotz}")[0]).toContain("did you mean dots?");
    expect(messages("{from: t, draw: figure, value: first(group.gg)}")[0]).toContain('no column "gg"; did you mean g?');
    expect(messages("{from: t, draw: points, x: id, y: x, color: picked(nobody)}")[0]).toContain(
      'no selection "nobody"',
    );
  });
  test("a mark of rows beside an aggregate, and a column beside the number of a figure", () => {
    expect(messages('{from: t, draw: bars, x: g, y: "if(picked(dots), sum(x), 0)"}')[0]).toMatch(
      /picked\(dots\) has several values beside an aggregate; write it inside/,
    );
    expect(messages('{from: t, draw: bars, x: g, y: "sum(if(picked(dots), x, 0))"}')).toEqual([]);
    expect(messages("{from: t, draw: figure, value: sum(x) + x}")[0]).toContain(
      "x has several values beside an aggregate",
    );
  });
  test("steps know nothing of what readers pick", () => {
    expect(messages("{from: t, draw: table}", "    steps:\n      - keep: picked(dots)\n")[0]).toContain(
      "known in charts, not in steps",
    );
  });
});

describe("what a figure is compared with", () => {
  const compare = (value: string, against: string) => {
    const model = modelOf(`{from: t, draw: figure, value: ${value}, against: ${against}}`);
    const plan = model.piece("told")?.plan;
    const found = model.plainAnswer("told");
    if (plan?.type !== "figure" || !found) throw new Error("no figure");
    return figureTexts(plan, found.answer, found.all).compare;
  };
  test("the same, also where only the last bits differ; all is called all in a formula of several", () => {
    expect(compare("sum(x) / 3", "'(sum(x) of all) / 3'")).toBe("the same as all");
    expect(compare("sum(x) / 3", "'(sum(x) of all) / 3 + 0.0000000001'")).toBe("the same as all");
    expect(compare("mean(x)", "'(sum(x) of all) / 2'")).toBe("25 under all");
    // Some is not none, and less than all not all.
    expect(compare("sum(x)", "'(sum(x) of all) * 900'")).toMatch(/^0\.1 % of/);
    expect(compare("sum(x)", "'(sum(x) of all) * 40000'")).toMatch(/^under 0\.01 % of/);
    expect(compare("sum(x)", "'(sum(x) of all) * 1.001'")).toMatch(/^99\.9 % of/);
    expect(compare("sum(x)", "'sum(x) of all'")).toBe("100 % of all");
  });
});
