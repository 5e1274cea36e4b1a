import { describe, expect, test } from "vitest";
import { compileText } from "../../testing/compile-text";

const LETTERS = "abcdefghijklmnop".split("");
/** Sixteen places; `n` goes up by one, `big` by factors, `low` begins below zero. */
const ROWS = Array.from({ length: 64 }, (_, at) => {
  const place = LETTERS[at % 16];
  return `      ${place},${at},${at < 60 ? 1 + at / 10 : 1000 * at},${at - 3}`;
}).join("\n");

const sheet = (chart: string, style = "") => `still: 1
report: R
tables:
  t:
    columns: {size: {order: [p, o, n, m, l, k, j, i, h, g, f, e, d, c, b, a]}}
    rows: |
      place,n,big,low
${ROWS}
    steps:
      - add: {size: place}
      - add: {few: 'if(n < 30, "x", "y")'}
${style}charts:
  one:
${chart
  .split("\n")
  .map((line) => `    ${line}`)
  .join("\n")}
`;

function advised(text: string) {
  const { findings } = compileText(text);
  expect(findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
  return findings.filter(({ severity, piece }) => severity === "advice" && piece === "one");
}
const codes = (chart: string, style = "") => advised(sheet(chart, style)).map(({ code }) => code);

/** The sheet after the fix of its first advice. */
function mended(text: string): string {
  const [edit] = advised(text)[0]?.fix?.edits ?? [];
  if (!edit) throw new Error("no fix");
  return text.slice(0, edit.start) + edit.text + text.slice(edit.end);
}

describe("advice on charts", () => {
  test("says that many slices cannot be compared", () => {
    expect(codes("from: t\ndraw: slices\ncolor: place\nvalue: sum(n)")).toContain("many-slices");
    expect(codes("from: t\ndraw: slices\ncolor: few\nvalue: sum(n)")).toEqual([]);
  });
  test("says when colours begin again, of the palette or of a list", () => {
    expect(codes("from: t\ndraw: points\nx: n\ny: n\ncolor: place")).toEqual(["many-colors"]);
    expect(codes('from: t\ndraw: points\nx: n\ny: n\ncolor: few\ncolors: ["#1d5f5a"]')).toEqual(["many-colors"]);
    expect(codes('from: t\ndraw: points\nx: n\ny: n\ncolor: few\ncolors: ["#1d5f5a", "#8f6210"]')).toEqual([]);
  });
  test("says what a log axis leaves out, and mends it", () => {
    const text = sheet("from: t\ndraw: points\nx: n\ny: low\naxes: {y: {scale: log}}");
    expect(advised(text)[0]?.message).toContain("4 rows of low at or below zero");
    expect(mended(text)).toContain("axes: {y: {scale: symlog}}");
    expect(advised(mended(text))).toEqual([]);
  });
  test("looks at the rows that the chart keeps, and leaves what a setting says", () => {
    expect(codes("from: t\nkeep: low > 0\ndraw: points\nx: n\ny: low\naxes: {y: {scale: log}}")).toEqual([]);
    const set = sheet("from: t\ndraw: points\nx: n\ny: low\naxes: {y: {scale: $s}}").replace(
      "charts:",
      "controls: {s: {set: log, of: [log, symlog]}}\ncharts:",
    );
    expect(advised(set).map(({ code, fix }) => [code, fix])).toEqual([["log-of-zero", undefined]]);
  });
  test("says that bars stand in the order of names, and sorts them", () => {
    for (const chart of ["from: t\ndraw: bars\ny: place\nx: sum(n)", "{from: t, draw: bars, y: place, x: sum(n)}"]) {
      const text = sheet(chart);
      expect(advised(text).map(({ code }) => code)).toEqual(["unsorted-bars"]);
      expect(mended(text)).toContain("sort: {y: -sum(n)}");
      expect(advised(mended(text))).toEqual([]);
    }
    expect(codes("from: t\ndraw: bars\ny: size\nx: sum(n)")).toEqual([]);
    expect(codes("from: t\ndraw: bars\ny: few\nx: sum(n)")).toEqual([]);
  });
  test("says when few values crowd the rest", () => {
    expect(codes("from: t\ndraw: points\nx: n\ny: big")).toEqual(["crowded-axis"]);
    expect(codes("from: t\ndraw: points\nx: n\ny: big\naxes: {y: {scale: log}}")).toEqual([]);
    expect(codes("from: t\ndraw: points\nx: n\ny: n + 1")).toEqual([]);
  });
  test("says which colours are lost on the ground", () => {
    const chart = 'from: t\ndraw: points\nx: n\ny: n\ncolor: few\ncolors: {x: "#f5f0e0", y: "#1d5f5a"}';
    expect(codes(chart)).toEqual(["faint-colors"]);
    expect(codes(chart, "style: {ground: dark}\n")).toEqual([]);
  });
  test("says that a chart groups by whole cells of several values", () => {
    const rows = "      tags,n\n      a;b,1\n      b,2\n";
    const text = (split: string, x: string) =>
      `still: 1\nreport: R\ntables:\n  t:\n    columns: {tags: {label: Tag${split}}}\n    rows: |\n${rows}charts:\n  one: {from: t, draw: bars, x: ${x}, y: sum(n)}\n`;
    const [found] = advised(text(', split: ";"', "tags"));
    expect(found?.code).toBe("whole-cells");
    expect(found?.message).toContain('each Tag here is a whole cell, such as "a;b"');
    expect(found?.message).toContain("words: {of: tags}");
    const [other] = advised(text(', split: ";"', "tags").replace("a;b", "a b;c"));
    expect(other?.message).toContain("check boxes that pick tags part them");
    expect(advised(text("", "tags"))).toEqual([]);
    expect(advised(text(', split: ";"', "n"))).toEqual([]);
  });
  test("says which colours are taken for one another, and one that is not", () => {
    const chart = "from: t\ndraw: points\nx: n\ny: n\ncolor: few\ncolors: ";
    const [found] = advised(sheet(`${chart}{x: "#1d5f5a", y: "#1f6b62"}`));
    expect(found?.code).toBe("colors-alike");
    expect(found?.message).toMatch(/x \(#1d5f5a\) and y \(#1f6b62\) can hardly be told apart.*; "#[0-9a-f]{6}" is far/);
    expect(found?.marks?.values).toEqual([["x"], ["y"]]);
    expect(codes(`${chart}{x: "#1d5f5a", y: "#a33b2a"}`)).toEqual([]);
    expect(codes(`${chart}{x: "#156", y: "#a32"}`)).toEqual([]);
    // Without colours of its own a chart has those of the palette.
    expect(codes("from: t\ndraw: points\nx: n\ny: n\ncolor: few")).toEqual([]);
  });
});

test("bars of moments of their own are advised to stand on periods that fit", () => {
  const found = (days: number) => {
    const rows = Array.from({ length: 60 }, (_, at) => {
      const moment = new Date(Date.UTC(2024, 0, 1) + Math.round((at * days * 86_400_000) / 60));
      return `      ${moment.toISOString().slice(0, 16).replace("T", " ")},1`;
    });
    const text = `still: 1\nreport: R\ntables:\n  t:\n    rows: |\n      w,n\n${rows.join("\n")}\ncharts:\n  one: {from: t, draw: bars, x: w, y: sum(n)}\n`;
    return advised(text).find(({ code }) => code === "bar-per-value")?.fix?.edits[0]?.text;
  };
  expect([2, 60, 200, 2000].map(found)).toEqual(["by_hour(w)", "by_day(w)", "by_week(w)", "by_month(w)"]);
});

describe("advice on what is measured", () => {
  /** Sixty rows: every place thirty times, a rate, a number that names, values far from zero. */
  const MEASURED = `still: 1
report: R
tables:
  t:
    rows: |
      place,k,rate,call_id,high,name
${Array.from({ length: 60 }, (_, at) => `      ${"ab"[at % 2]},${at % 3},0.${10 + at},${7000 + at},${95 + (at % 5)},n${at}`).join("\n")}
charts:
  one: CHART
`;
  const of = (chart: string) => MEASURED.replace("CHART", chart);
  test.each<[string, string, string | undefined]>([
    ["{from: t, draw: bars, y: place, x: sum(rate)}", "sum-of-rates", "x: mean(rate)"],
    ["{from: t, draw: bars, y: place, x: sum(call_id)}", "measured-names", "x: distinct(call_id)"],
    ["{from: t, draw: bars, x: place, y: mean(high), color: k, stacking: sum}", "stack-of-means", "stacking: beside"],
    ["{from: t, draw: points, x: place, y: high, axes: {y: {from_zero: true}}}", "zero-of-axis", "{from_zero: false}"],
    [
      "{from: t, draw: bars, x: place, y: mean(high), axes: {y: {from_zero: false}}}",
      "zero-of-axis",
      "{from_zero: true}",
    ],
    ["{from: t, draw: points, x: place, y: high}", "marks-on-marks", "y: high, size: count()"],
    ["{from: t, draw: line, x: k, y: high}", "line-of-raw-rows", "y: mean(high)"],
    ["{from: t, draw: line, x: k, y: high, color: rate}", "line-of-raw-rows", "color: rate, series: rate"],
    ["{from: t, draw: bars, x: rate, y: count()}", "bar-per-value", 'x: "bin(rate, 24)"'],
    [
      "{from: t, x: k, layers: [{draw: line, y: mean(high)}, {draw: line, y: mean(rate), axes: {y: {side: right}}}]}",
      "two-scales",
      undefined,
    ],
  ])("%s", (chart, code, after) => {
    const found = advised(of(chart));
    expect(found.map((one) => one.code)).toContain(code);
    if (after === undefined) return;
    const text = of(chart);
    const [edit] = found.find((one) => one.code === code)?.fix?.edits ?? [];
    if (!edit) throw new Error("no fix");
    const next = text.slice(0, edit.start) + edit.text + text.slice(edit.end);
    expect(next).toContain(after);
    expect(advised(next).map((one) => one.code)).not.toContain(code);
  });
  test("names beside very many marks", () => {
    const text = of("{from: t, draw: points, x: call_id, y: rate, label: name}");
    expect(advised(text).map(({ code }) => code)).toEqual([]);
    const more = text.replace("      a,0,0.10", `      a,0,0.5,1,1,more\n      b,0,0.6,2,1,other\n      a,0,0.10`);
    expect(advised(more).map(({ code }) => code)).toEqual(["many-labels"]);
  });
  test.each([
    "{from: t, draw: bars, y: place, x: mean(rate)}",
    "{from: t, draw: bars, y: place, x: count()}",
    "{from: t, draw: points, x: place, y: high, size: count()}",
    "{from: t, draw: points, x: call_id, y: high}",
    "{from: t, draw: line, x: call_id, y: high}",
    "{from: t, draw: bars, x: place, y: mean(high), color: k}",
  ])("nothing of %s", (chart) => {
    expect(advised(of(chart))).toEqual([]);
  });
  test("names the marks that it speaks of", () => {
    const marksOf = (chart: string) => advised(sheet(chart)).find(({ marks }) => marks)?.marks;
    expect(marksOf('from: t\ndraw: points\nx: n\ny: n\ncolor: few\ncolors: ["#1d5f5a"]')).toEqual({
      channels: ["color"],
      values: [["y"]],
    });
    expect(marksOf("from: t\ndraw: points\nx: big\ny: n")).toEqual({ channels: ["x"], range: [1, 6.7] });
    const places = marksOf(
      "from: t\ndraw: points\nx: n % 4\ny: n % 2".replaceAll("n % ", "mod(n, ").replaceAll(/(mod\(n, \d)/g, "$1)"),
    );
    expect(places).toMatchObject({ channels: ["x", "y"] });
    expect(places?.values?.map(String).sort()).toEqual(["0,0", "1,1", "2,0", "3,1"]);
  });
  test("says that a legend lies over marks, and moves it", () => {
    const chart = (corner: string) => `from: t\ndraw: points\nx: n\ny: n\ncolor: few\nlegend: {at: ${corner}}`;
    expect(codes(chart("in_top_left"))).toEqual([]);
    expect(codes(chart("top"))).toEqual([]);
    const [found] = advised(sheet(chart("in_bottom_left")));
    expect(found).toMatchObject({ code: "legend-on-marks", marks: { channels: ["x", "y"] } });
    expect(found?.message).toContain("19 of 64 marks lie in the corner");
    expect(
      codes(
        mended(sheet(chart("in_bottom_left")))
          .split("charts:\n  one:\n")[1]
          ?.replaceAll(/^ {4}/gm, "") ?? "",
      ),
    ).toEqual([]);
    // The first category stands at the top; where an axis is turned around nothing is said.
    const two = (corner: string) =>
      `from: t\ndraw: points\nx: n\ny: place\ncolor: few\nlegend: {at: ${corner}}\nkeep: (place = "a" and n < 5) or (place = "p" and n > 40)`;
    expect([codes(two("in_top_left")), codes(two("in_bottom_left"))]).toEqual([["legend-on-marks"], []]);
    const turned = chart("in_bottom_left").replace("draw: points", "draw: points\naxes: {x: {reverse: true}}");
    expect(codes(turned)).toEqual([]);
    // Of groups, where they stand.
    const months = "from: t\ndraw: line\nx: place\ny: sum(n)\ncolor: few\nlegend: {at: in_top_right}";
    expect(codes(months)).toEqual(["legend-on-marks"]);
  });
});
