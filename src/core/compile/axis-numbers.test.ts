import { describe, expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { Model } from "../model/model";
import { compileText, sheetOver } from "../testing/compile-text";

const CSV = "d,n,took\n2024-01-05,3,0:10:00\n2024-02-20,9,1:05:00\n2024-03-02,5,0:45:00";

function compiled(axes: string, x = "n", controls = "") {
  return compileText(
    sheetOver(CSV, `${controls}charts: {one: {from: calls, draw: points, x: ${x}, y: n, axes: {x: ${axes}}}}\n`),
  );
}

const errorsOf = (...of: Parameters<typeof compiled>) =>
  compiled(...of)
    .findings.filter(({ severity }) => severity === "error")
    .map(({ message }) => message);

function domainOf(model: Model): readonly number[] | undefined {
  const input = model.chartInput("one", 400, 300, new Set());
  return input && drawChart(input).panels[0]?.x?.domain;
}

const modelOf = (...of: Parameters<typeof compiled>) => {
  const { plan, tables } = compiled(...of);
  return new Model(plan, tables);
};

describe("the ends of an axis", () => {
  test("are numbers, days, or lengths of time by the clock", () => {
    const day = 86_400;
    expect(domainOf(modelOf("{range: [0, 20]}"))).toEqual([0, 20]);
    const [from, to] = domainOf(modelOf("{range: [2024-01-01, 2024-12-31]}", "d")) as [number, number];
    expect((to - from) / day).toBe(365);
    expect(domainOf(modelOf("{range: [2024, 1735603200]}", "d"))).toEqual([from, to]);
    expect(domainOf(modelOf('{range: ["0:00:00", "2:00:00"]}', "took"))).toEqual([0, 7200]);
  });
  test("are those that a reader sets, as are its ticks", () => {
    const controls =
      "controls: {most: {set: 20, as: slider, range: [10, 50]}, since: {set: 2024-01-01, as: date}, many: {set: 3, as: stepper}}\n";
    const model = modelOf("{range: [0, $most], ticks: $many}", "n", controls);
    const ticks = () => {
      const input = model.chartInput("one", 400, 300, new Set());
      return input ? drawChart(input).panels[0]?.x?.ticks.length : undefined;
    };
    expect(domainOf(model)).toEqual([0, 20]);
    const few = ticks() ?? 0;
    model.engine.setSetting("most", 45);
    model.engine.setSetting("many", 12);
    expect(domainOf(model)).toEqual([0, 45]);
    expect(ticks()).toBeGreaterThan(few);
    const days = modelOf("{range: [$since, 2024-12-31]}", "d", controls);
    const before = domainOf(days) as [number, number];
    days.engine.setSetting("since", "2023-01-01");
    const after = domainOf(days) as [number, number];
    expect([before[0] - after[0], before[1] - after[1]]).toEqual([365 * 86_400, 0]);
  });
  test("that cannot stand there are told, with what can", () => {
    expect(errorsOf("{range: [0, most]}")[0]).toContain("a number, a date or a setting such as $most is expected");
    expect(errorsOf("{range: [0, $most]}")[0]).toContain('there is no setting "most"');
    expect(errorsOf("{range: [0, 2024-01-01]}")[0]).toContain('a number is expected, not "2024-01-01"');
    expect(errorsOf("{range: [2024-13-01, 2024-12-31]}", "d")[0]).toContain("a day such as 2024-03-01");
    const words = "controls: {most: {set: many, as: text}}\n";
    expect(errorsOf("{range: [0, $most]}", "n", words)[0]).toContain('$most holds "many"; a number is expected');
  });
});
