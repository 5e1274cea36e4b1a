import { describe, expect, test } from "vitest";
import type { PartName } from "../chart/part-names";
import type { TextEdit } from "../finding/finding";
import { compileText } from "../testing/compile-text";
import { picturePartsOf } from "./parts";

const SHEET = `still: 1
report: R
tables:
  t:
    rows: |
      k,c,v,d
      a,x,1.5,2024-01-10
      b,y,2.5,2024-02-10
      b,x,4,2024-02-20
charts:
  bars: {from: t, draw: bars, y: k, x: sum(v), color: c}  # my bars
  bins:
    from: t
    draw: bars
    x: bin(v, 20)
    y: count()
  months:
    from: t
    x: by_month(d)
    y: mean(v)
    layers: [{draw: line}, {draw: points}]
  list: {from: t, draw: table}
`;

const applied = (text: string, edits: readonly TextEdit[]) =>
  [...edits]
    .sort((a, b) => b.start - a.start)
    .reduce((now, { start, end, text: by }) => now.slice(0, start) + by + now.slice(end), text);

/** The sheet after a choice, which must compile. */
function chosen(text: string, chart: string, part: PartName, group: string, says: string): string {
  const parts = picturePartsOf(compileText(text), chart);
  const choice = parts
    .find((one) => one.part === part)
    ?.groups.find(({ name }) => name === group)
    ?.choices.find((one) => one.says === says);
  if (!choice) throw new Error(`no choice ${part} ${group} ${says}`);
  const after = applied(text, choice.edits);
  expect(compileText(after).findings.filter(({ severity }) => severity === "error")).toEqual([]);
  const now = picturePartsOf(compileText(after), chart)
    .find((one) => one.part === part)
    ?.groups.find(({ name }) => name === group)
    ?.choices.filter(({ isNow }) => isNow);
  expect(now?.map((one) => one.says)).toEqual([says]);
  return after;
}

describe("the parts of a chart, and what each can be", () => {
  test("are those that it has, with what stands there", () => {
    expect(picturePartsOf(compileText(SHEET), "bars").map(({ part, words }) => [part, words])).toEqual([
      ["title", "Bars"],
      ["x", "v"],
      ["y", "k"],
      ["color", "c"],
      ["marks", "bars"],
    ]);
    expect(picturePartsOf(compileText(SHEET), "list")).toEqual([]);
  });
  test.each([
    ["bars", "x", "scale", "sqrt", "axes: {x: {scale: sqrt}}"],
    ["bars", "x", "summed up by", "median", "x: median(v)"],
    ["bars", "x", "runs", "to the left", "axes: {x: {reverse: true}}"],
    ["bars", "y", "runs", "from the bottom", "axes: {y: {reverse: true}}"],
    ["bars", "y", "order", "largest first", "sort: {y: -sum(v)}"],
    ["bars", "color", "colours", "wharf", "colors: wharf"],
    ["bars", "color", "legend stands", "in top right", "legend: {at: in_top_right}"],
    ["bars", "color", "an entry, pressed,", "makes them faint", "legend: {press: fade}"],
    ["bars", "marks", "stacked", "percent", "stacking: percent"],
    ["bars", "title", "title", "none", "title: none"],
    ["bins", "x", "bins", "40", "x: bin(v, 40)"],
    ["bins", "marks", "drawn", "area", "draw: area"],
    ["months", "x", "grain", "quarter", "x: by_quarter(d)"],
    ["months", "y", "begins", "at zero", "from_zero: true"],
  ] as const)("%s, %s: %s %s", (chart, part, group, says, written) => {
    const after = chosen(SHEET, chart, part, group, says);
    expect(after).toContain(written);
    expect(after).toContain("# my bars");
  });
  test("a choice that stands already changes nothing of what the author wrote", () => {
    const live = SHEET.replace("bars: {", 'bars: {title: "By kind, {count()}", ');
    for (const chart of ["bars", "bins", "months"])
      for (const { groups } of picturePartsOf(compileText(live), chart))
        for (const { choices } of groups)
          for (const { isNow, edits, says } of choices) expect(edits.length === 0, `${chart} ${says}`).toBe(isNow);
    const none = chosen(live, "bars", "title", "title", "none");
    expect(chosen(none, "bars", "title", "title", "shown")).not.toContain("title:");
  });
  test("a choice taken back leaves the text as it was", () => {
    const sorted = chosen(SHEET, "bars", "y", "order", "largest first");
    expect(chosen(sorted, "bars", "y", "order", "by name")).not.toContain("-sum(v)");
  });
});
