import { describe, expect, it } from "vitest";
import { CompileCache } from "../compile/cache";
import { compile } from "../compile/compile";
import { Model } from "../model/model";
import { compileText, sheetOver } from "../testing/compile-text";
import { AnswerCache } from "./cache";

const SHEET = sheetOver(
  "k,v,d\na,1,2024-01-01\nb,2,2024-02-01\na,5,2024-03-01",
  'controls:\n  n: {set: 2, as: slider, range: [1, 9]}\n  k: {pick: k, from: calls}\ncharts:\n  bars: {from: calls, draw: bars, y: k, x: sum(v)}\n  bins: {from: calls, draw: bars, x: "bin(v, $n)", y: count()}\n  dots: {from: calls, draw: points, x: d, y: v}\n  total: {from: calls, draw: figure, value: mean(v)}\n',
);

const shown = (model: Model) =>
  ["bars", "bins", "dots"].map((name) =>
    Array.from(model.chartInput(name, 400, 300, new Set())?.layers[0]?.all.counts ?? []),
  );

describe("answers kept from build to build", () => {
  it("are those that asking afresh gives", () => {
    const compiled = compileText(SHEET);
    const cache = new AnswerCache();
    const fresh = shown(new Model(compiled.plan, compiled.tables));
    for (let build = 0; build < 3; build++) {
      cache.next();
      expect(shown(new Model(compiled.plan, compiled.tables, cache.answer))).toEqual(fresh);
    }
  });

  it("are the very same object while columns and question stay, and another when either changes", () => {
    const cache = new CompileCache();
    const bytes = new TextEncoder().encode("k,v\na,1\nb,2\n");
    const sheet = (more: string) =>
      `still: 1\nreport: R\ntables:\n  t: {read: a.csv}\ncontrols:\n  n: {set: 2, as: slider, range: [1, 9]}\ncharts:\n  c: {from: t, draw: bars, x: "bin(v, $n)", y: count()}\n${more}`;
    const answer = (text: string) => {
      cache.answers.next();
      const { plan, tables } = compile({ text, fileName: "x", readFile: () => bytes, cache });
      return new Model(plan, tables, cache.answers.answer).chartInput("c", 400, 300, new Set())?.layers[0]?.all;
    };
    const first = answer(sheet(""));
    expect(answer(sheet("# a comment\n"))).toBe(first);
    expect(answer(sheet("  d: {from: t, draw: table, columns: [k]}\n"))).not.toBe(first);
    expect(answer(sheet("").replace("set: 2", "set: 3"))).not.toBe(first);
    expect(answer(sheet("").replace("count()", "sum(v)"))).not.toBe(first);
    expect(answer(sheet("").replace("read: a.csv", "read: a.csv, columns: {v: number}"))).not.toBe(first);
  });

  it("are forgotten when nobody has asked for some builds", () => {
    const compiled = compileText(SHEET);
    const cache = new AnswerCache();
    const ask = (plan = compiled.plan) =>
      new Model(plan, compiled.tables, cache.answer).chartInput("bars", 400, 300, new Set())?.layers[0]?.all;
    cache.next();
    const first = ask();
    expect(ask()).toBe(first);
    for (let build = 0; build < 6; build++) cache.next();
    // Another question at the same columns clears away what is old.
    new Model(compiled.plan, compiled.tables, cache.answer).chartInput("dots", 400, 300, new Set());
    expect(ask()).not.toBe(first);
  });
});
