import { describe, expect, test } from "vitest";
import type { DataTablePlan } from "../chart/plan";
import { Model } from "../model/model";
import { compileText, sheetOver } from "../testing/compile-text";

const CSV = "k,c,v\na,x,1\na,y,2\nb,x,4";

function modelOf(rest: string) {
  const { plan, tables, findings } = compileText(sheetOver(CSV, rest));
  return { model: new Model(plan, tables), plan, codes: findings.map(({ code }) => code) };
}

describe("settings that are lists", () => {
  const LISTS = `controls:
  keys: {set: [k], of: [k, c], label: By}
  kinds: {set: [x], of: "values(calls, c)"}
charts:
  t: {from: calls, draw: table, columns: [$keys, sum(v)]}
  n: {from: calls, draw: figure, value: sum(v), keep: c in $kinds}
`;

  test("stand among the columns of a data table, which groups by those that are taken, in their order", () => {
    const { model, codes } = modelOf(LISTS);
    expect(codes).toEqual([]);
    const shown = () => {
      const plan = model.piece("t")?.plan as DataTablePlan;
      return [plan.columns.map(({ key }) => key), model.plainAnswer("t")?.answer.counts.length];
    };
    expect(shown()).toEqual([["k", "sum(v)"], 2]);
    model.engine.setSetting("keys", '["c","k"]');
    expect(shown()).toEqual([["c", "k", "sum(v)"], 3]);
    model.engine.setSetting("keys", "[]");
    expect(shown()).toEqual([["sum(v)"], 1]);
  });

  test("stand after in", () => {
    const { model } = modelOf(LISTS);
    const rows = () => model.plainAnswer("n")?.answer.counts[0];
    expect(rows()).toBe(2);
    model.engine.setSetting("kinds", '["x","y"]');
    expect(rows()).toBe(3);
    model.engine.setSetting("kinds", "[]");
    expect(rows()).toBe(0);
  });

  test("pack every column that a reader may take", () => {
    const { tables } = compileText(sheetOver(CSV, LISTS));
    expect([...(tables.get("calls")?.columns.keys() ?? [])]).toEqual(["k", "c", "v"]);
  });

  test("stand nowhere else, and need all that may be in them", () => {
    const chart = "charts: {n: {from: calls, draw: figure, value: sum(v)}}\n";
    expect(modelOf(`controls: {a: {set: [x]}}\n${chart}`).codes).toContain("key-missing");
    expect(modelOf(`controls: {a: {set: [z], of: [x]}}\n${chart}`).codes).toContain("wrong-value");
    const scalar = "charts: {n: {from: calls, draw: figure, value: sum(v), keep: c = $a}}\n";
    expect(modelOf(`controls: {a: {set: [x], of: [x]}}\n${scalar}`).codes).toContain("list-here");
  });
});
