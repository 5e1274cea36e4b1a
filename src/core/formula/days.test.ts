import { expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { chartRows } from "../chart/rows";
import { Model } from "../model/model";
import { compileText } from "../testing/compile-text";

const SHEET = `still: 1
report: R
tables:
  t:
    rows: "k,a,b\\nu,2026-03-04,2026-03-20\\nv,2026-03-11,2026-04-20\\n"
    steps:
      - add: {late: b > $today, since: days($today - a)}
controls:
  today: {set: "2026-03-25", as: date}
charts:
  plan:
    from: t
    y: k
    title: As of {$today}
    layers: [{draw: bars, x: a, x_to: b}, {draw: rules, x: $today}, {draw: points, x: date($today)}]
  list: {from: t, draw: bars, y: k, x: sum(since), keep: late}
  words: {from: t, draw: bars, y: k, x: count(), keep: 'text(b, "%Y-%m-%d") > text($today, "%Y-%m-%d")'}
`;

test("a setting that is a day is a date wherever it stands, also where it is read as one", () => {
  const { findings, plan, tables } = compileText(SHEET);
  expect(findings.filter(({ severity }) => severity === "error")).toEqual([]);
  const model = new Model(plan, tables);
  const rows = (name: string) => {
    const input = model.chartInput(name, 400, 200, new Set());
    return input ? chartRows(input, drawChart(input)) : [];
  };
  expect(rows("list")).toEqual([{ x: 14, y: "v" }]);
  expect(rows("words").map(({ y }) => y)).toEqual(["v"]);
  expect(model.titleOf("plan")).toBe("As of 25 Mar 2026");
  const middles = () =>
    drawChart(model.chartInput("plan", 400, 200, new Set()) as never).panels[0]?.layers.map(
      ({ shapes }) => shapes[0]?.middle(0).x,
    );
  const [, rule, point] = middles() ?? [];
  expect(rule).toBeGreaterThan(0);
  expect(point).toBe(rule);
  model.engine.setSetting("today", "2026-03-10");
  expect(rows("list").map(({ x, y }) => [y, x])).toEqual([
    ["u", 6],
    ["v", -1],
  ]);
  expect(middles()?.[1]).toBeLessThan(rule as number);
});
