import { describe, expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { figureTexts } from "../chart/figure-texts";
import type { ChartPlan, FigurePlan, LayerPlan } from "../chart/plan";
import { tooltipLines } from "../chart/tooltip";
import { LayerValues } from "../query/values";
import { writeAt } from "../query/write";
import { compileText, sheetOver } from "../testing/compile-text";
import { modelOf as shownModel } from "../testing/shown";
import { Model } from "./model";

const CSV = `berth,cargo,tonnes,waited,day,stay
A,grain,1000,1.25,2024-01-10,1:30:00
A,fuel,2000,2.5,2024-01-20,0:45:00
B,grain,500,8,2024-03-01,2:00:00
B,,1500,3.75,2024-03-02,`;

const COLUMNS = '    columns: {tonnes: {label: Cargo, unit: t, format: ",.0f"}, waited: {unit: h}}\n';

function modelOf(rest: string): Model {
  const compiled = compileText(sheetOver(CSV, rest, COLUMNS));
  expect(compiled.findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
  return new Model(compiled.plan, compiled.tables);
}

function figure(chart: string, setup: (model: Model) => void = () => undefined) {
  const model = modelOf(
    `charts:\n  one: ${chart}\n  dots: {from: calls, draw: points, x: waited, y: tonnes}\nlinks: [brush x on dots -> filter one]\n`,
  );
  setup(model);
  const found = model.plainAnswer("one");
  if (!found) throw new Error("no figure");
  const { value, unit, compare } = figureTexts(model.piece("one")?.plan as FigurePlan, found.answer, found.all);
  return `${value} ${unit} | ${compare}`;
}

describe("figures say their number and its comparison in words", () => {
  const few = (model: Model) => model.engine.select("dots", { x: [2, 4] });
  test("a sum as a part of all", () => {
    expect(figure("{from: calls, draw: figure, value: sum(tonnes), against: sum(tonnes) of all}")).toBe(
      "5,000 t | 100 % of all",
    );
    expect(figure("{from: calls, draw: figure, value: sum(tonnes), against: sum(tonnes) of all}", few)).toBe(
      "3,500 t | 70 % of all",
    );
  });
  test("a mean by its difference", () => {
    expect(figure("{from: calls, draw: figure, value: mean(waited), against: mean(waited) of all}")).toBe(
      "3.875 h | the same as all",
    );
    expect(figure("{from: calls, draw: figure, value: mean(waited), against: mean(waited) of all}", few)).toBe(
      "3.125 h | 0.75 h under all",
    );
    expect(figure("{from: calls, draw: figure, value: max(waited), against: min(waited)}")).toBe(
      "8 h | 6.75 h over min waited",
    );
  });
  test("a difference of percents that is written as nothing, and thousands without decimals", () => {
    const part = "mean(waited) / sum(waited)";
    expect(figure(`{from: calls, draw: figure, value: ${part}, against: ${part}, format: ".1%"}`)).toMatch(
      /^[\d.]+% {2}\| the same as /,
    );
    expect(figure("{from: calls, draw: figure, value: sum(waited) * 1000 / 7}")).toMatch(/^\d,\d{3} {2}\| $/);
    expect(figure("{from: calls, draw: figure, value: median(tonnes) + 999.5, against: median(tonnes)}")).toMatch(
      /^\d,\d{3} {2}\| 1,000 over /,
    );
    expect(figure("{from: calls, draw: figure, value: sum(waited) / 7}")).toMatch(/^\d\.\d{3} {2}\| $/);
  });
  test("a length of time, and nothing left", () => {
    expect(figure("{from: calls, draw: figure, value: sum(stay)}")).toBe("4:15:00  | ");
    expect(
      figure("{from: calls, draw: figure, value: mean(waited), against: mean(waited) of all}", (model) =>
        model.engine.select("dots", { x: [90, 99] }),
      ),
    ).toBe("– h | ");
  });
});

describe("tooltips say the channels in use", () => {
  const lines = (chart: string) => {
    const model = modelOf(`charts:\n  one: ${chart}\n`);
    const input = model.chartInput("one", 300, 200, new Set());
    if (!input) throw new Error("no chart");
    const drawn = drawChart(input);
    const layer = drawn.panels[0]?.layers[0];
    if (!layer) throw new Error("no layer");
    return tooltipLines(input.plan.layers[0] as LayerPlan, layer.values, layer.shapes[0]?.ids[0] as number).map(
      ({ label, text, unit }) => `${label}: ${text}${unit ? ` ${unit}` : ""}`,
    );
  };
  test("values with label, format and unit", () => {
    expect(lines("{from: calls, draw: points, x: waited, y: tonnes, color: cargo}")).toEqual([
      "waited: 1.25 h",
      "Cargo: 1,000 t",
      "cargo: grain",
    ]);
  });
  test("bins as from and to, periods by their names", () => {
    expect(lines('{from: calls, draw: bars, x: "bin(waited, 2)", y: count()}')).toEqual([
      "waited: 1.3 to 4.6 h",
      "calls: 3",
    ]);
    expect(lines("{from: calls, draw: bars, x: by_month(day), y: sum(tonnes)}")).toEqual([
      "day: January 2024",
      "Cargo: 3,000 t",
    ]);
    expect(lines("{from: calls, draw: bars, x: by_quarter(day), y: count()}")[0]).toBe("day: Jan to Mar 2024");
    expect(lines("{from: calls, draw: bars, x: by_week(day), y: count()}")[0]).toBe("day: week of 8 Jan 2024");
    expect(lines("{from: calls, draw: bars, x: by_year(day), y: count()}")[0]).toBe("day: 2024");
  });
  test("what the sheet asks for, and nothing where it says none", () => {
    expect(
      lines("{from: calls, draw: bars, x: berth, y: sum(tonnes), tooltip: [berth, mean(waited) as wait]}"),
    ).toEqual(["berth: A", "wait: 1.875 h"]);
    expect(lines("{from: calls, draw: bars, x: berth, y: sum(tonnes), tooltip: none}")).toEqual([]);
  });
});

describe("the model of a dashboard", () => {
  const REST = `controls:
  cargo: {pick: cargo, from: calls}
  wait: {pick: waited, from: calls, as: range, start: [2, 9]}
charts:
  bars: {from: calls, draw: bars, x: berth, y: sum(tonnes)}
  list: {from: calls, draw: table, columns: [berth, tonnes, hours(stay) as hours]}
links: [click on bars -> filter list]
`;
  test("starts as the sheet says", () => {
    const model = modelOf(REST);
    expect(model.counts()).toEqual({ calls: { left: 3, all: 4 } });
    expect(model.active().map(({ name }) => name)).toEqual(["wait"]);
  });
  test("a range from a control holds both its ends", () => {
    const model = modelOf(REST);
    model.engine.select("wait", { x: [2.5, 8] });
    expect(model.counts().calls?.left).toBe(3);
    model.engine.select("wait", { x: [2.5, 7.99] });
    expect(model.counts().calls?.left).toBe(2);
  });
  test("counts of a control's values follow every other pick, not its own", () => {
    const model = modelOf(REST);
    model.engine.select("cargo", { keys: [{ cargo: "grain" }] });
    const found = model.rows.ofControl("cargo");
    if (!found) throw new Error("no control");
    const values = new LayerValues(found.answer, found.all);
    const [names, counts] = [values.get("key"), values.numbers("n")];
    const shown = Object.fromEntries(
      [0, 1, 2].map((group) => [
        String(names?.kind === "text" ? (names.dictionary[names.codes[group] as number] ?? null) : ""),
        counts?.[group],
      ]),
    );
    expect(shown).toEqual({ grain: 1, fuel: 1, null: 1 });
    expect(model.counts().calls?.left).toBe(1);
  });
  test("cells of a data table are written with their formats", () => {
    const model = modelOf(REST);
    const found = model.plainAnswer("list");
    const plan = model.piece("list")?.plan;
    if (!found || plan?.type !== "table") throw new Error("no table");
    const values = new LayerValues(found.all, found.all);
    const row = (id: number) =>
      plan.columns.map(({ channel }) => {
        const [one, column] = [plan.query.channels[channel], values.get(channel)];
        return one && column ? writeAt(one, column, id) : "";
      });
    expect(row(1)).toEqual(["A", "2,000", "0.75"]);
    expect(row(3)).toEqual(["B", "1,500", "–"]);
  });
  test("a setting changes what depends on it and nothing else", () => {
    const model = modelOf(
      'controls: {n: {set: 2, range: [1, 9]}}\ncharts:\n  bins: {from: calls, draw: bars, x: "bin(waited, $n)", y: count()}\n  bars: {from: calls, draw: bars, x: berth, y: count()}\n',
    );
    const marks = (name: string) => {
      const input = model.chartInput(name, 300, 200, new Set());
      return input ? drawChart(input).panels[0]?.layers[0]?.shapes[0]?.ids.length : undefined;
    };
    expect([marks("bins"), marks("bars")]).toEqual([2, 2]);
    model.engine.setSetting("n", 5);
    expect([marks("bins"), marks("bars")]).toEqual([5, 2]);
  });
});

describe("words of tables, columns and tooltips", () => {
  test("a column has spellings of missing of its own", () => {
    const text = sheetOver(
      "k,v\na,1\nx,x\nb,3",
      "charts: {c: {from: calls, draw: table, columns: [v]}}\n",
      "    columns: {v: {missing_as: [x]}}\n",
    );
    const { plan, tables, findings } = compileText(text);
    expect(findings).toEqual([]);
    const table = [...tables.values()][0];
    expect(plan.tables[0]?.columns).toEqual({ v: "number" });
    expect(table?.rowCount).toBe(3);
  });

  test("the label of a table is the noun of its rows", () => {
    const text = sheetOver(
      "k,v\na,1\nb,3",
      "charts: {c: {from: calls, draw: bars, x: k, y: count()}}\n",
      "    label: port calls\n",
    );
    const { plan, tables } = compileText(text);
    const model = new Model(plan, tables);
    expect(model.nounOf("calls")).toBe("port calls");
    const chart = plan.pieces.map((piece) => piece.plan as ChartPlan);
    expect(chart.map(({ axes }) => axes.y?.title)).toEqual(["Port calls"]);
  });

  test("a tooltip can be a line of words with values, settings and what is picked", () => {
    const model = modelOf(
      `controls: {top: {set: 3, as: slider, range: [1, 9]}, cargo: {pick: cargo, from: calls}}
charts:
  c: {from: calls, draw: bars, x: berth, y: sum(tonnes), tooltip: "{berth}: {sum(tonnes)} t of {count()}, first {$top}, {cargo.cargo}"}\n`,
    );
    const input = model.chartInput("c", 400, 300, new Set());
    const layer = input?.layers[0];
    if (!layer) throw new Error("no layer");
    const lines = () =>
      tooltipLines(layer.plan, new LayerValues(layer.current, layer.all), 0, (part) => model.say(part));
    expect(lines()).toEqual([{ label: "", text: "A: 3,000 t of 2, first 3, all" }]);
    model.engine.select("cargo", { keys: [{ cargo: "fuel" }] });
    expect(lines()[0]?.text).toContain("first 3, fuel");
  });
});

test("few rows that are picked on a chart are called by the labels that they have there", () => {
  const model = shownModel(`still: 1
report: R
tables: {t: {rows: "k,a,b\\nu,1,3\\nv,2,5\\nw,4,9\\nx,5,9"}}
charts:
  named: {from: t, draw: points, x: a, y: b, label: k}
  plain: {from: t, draw: points, x: a, y: b}
links: [click on named -> filter plain, click on plain -> filter named]
`);
  const names = (source: string, rows: number[]) => {
    const plan = model.plan.selections.find(({ name }) => name === source);
    return plan && model.rowNames(plan, rows);
  };
  expect(names("named", [1])).toBe("k is v");
  expect(names("named", [0, 2])).toBe("k is u or w");
  expect(names("named", [0, 1, 2, 3])).toBeUndefined();
  expect(names("plain", [1])).toBeUndefined();
});
