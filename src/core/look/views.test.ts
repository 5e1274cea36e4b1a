import { describe, expect, it } from "vitest";
import { buildDashboard } from "../dashboard/build";
import { Model } from "../model/model";
import type { NumericColumn } from "../table/column";
import { compileText } from "../testing/compile-text";
import { accountOf, type RowsOnTheWay, rowsOnTheWay } from "./accounting";
import { lighterWays } from "./lighter";
import { linkMatrix } from "./matrix";
import { pictureOf } from "./pictures";
import { weightsByPiece } from "./weights";

const SHEET = `still: 1
report: R
tables:
  calls:
    rows: |
      id,berth,tonnes,waited,day
      1,a,10,1,2024-01-01
      1,a,10,1,2024-01-01
      2,a,20,,2024-01-02
      3,b,0,3,2024-02-01
      4,b,40,4,2024-02-02
      5,,50,5,2024-02-03
    steps:
      - unique: [id]
      - keep: tonnes > 0
  other:
    rows: "k,v\\nx,1\\ny,2\\n"
controls:
  berth: {pick: berth, from: calls}
charts:
  bars: {from: calls, draw: bars, y: berth, x: sum(tonnes), keep: tonnes < 45}
  dots: {from: calls, draw: points, x: waited, y: tonnes, axes: {y: {range: [0, 45]}}}
  months: {from: calls, draw: bars, x: by_month(day), y: count()}
  total: {from: calls, draw: figure, value: sum(tonnes)}
  list: {from: calls, draw: table}
  apart: {from: other, draw: bars, x: k, y: sum(v)}
links:
  - brush x on dots -> filter bars, fade 0.3 months
  - click on bars by berth as picked -> filter list
`;

const LONG = `still: 1
report: Long
tables:
  wide:
    rows: "k,jan,feb\\nx,1,2\\ny,3,4\\n"
    steps: [{unpivot: {columns: [jan, feb], name: month, value: v}}]
charts:
  long: {from: wide, draw: bars, x: month, y: sum(v), title: "{sum(v)} in all"}
`;

const compiled = compileText(SHEET);
const model = new Model(compiled.plan, compiled.tables);

describe("where the rows of a piece went", () => {
  it("says it of bars, from the file to what is drawn", () => {
    expect(compiled.findings.filter(({ severity }) => severity === "error")).toEqual([]);
    expect(accountOf(compiled, model, "bars")).toEqual([
      { count: 6, what: "rows in calls", stage: 0 },
      { count: 4, what: "kept by its steps", lost: "2 by its steps: 1 duplicate, 1 not true", stage: 2 },
      { count: 3, what: "kept by the chart", lost: "1 by its keep", rows: "kept", lostRows: "not kept" },
      { count: 2, what: "groups" },
      { count: 2, what: "bars drawn" },
    ]);
  });

  it("says of a table made long what is there after its steps, not what they kept", () => {
    const long = compileText(LONG);
    expect(accountOf(long, new Model(long.plan, long.tables), "long").slice(0, 2)).toEqual([
      { count: 2, what: "rows in wide", stage: 0 },
      { count: 4, what: "rows after its steps", stage: 1 },
    ]);
  });

  it("counts points without a place and points off the scale apart", () => {
    const account = accountOf(compiled, model, "dots");
    expect(account.slice(2)).toEqual([
      { count: 3, what: "have a place", lost: "1 missing a value", rows: "placed", lostRows: "without a place" },
      { count: 2, what: "points drawn", lost: "1 off the scale", lostRows: "off the scale" },
    ]);
  });

  it("knows which rows these are", () => {
    const tonnes = compiled.stages.get("calls")?.tables.at(-1)?.columns.get("tonnes") as NumericColumn;
    const of = (name: string, which: RowsOnTheWay) =>
      [...rowsOnTheWay(compiled, model, name, which)].map((row) => tonnes.values[row]);
    expect(of("bars", "kept").length + of("bars", "not kept").length).toBe(4);
    expect(of("bars", "not kept").every((value) => (value ?? 0) >= 45)).toBe(true);
    expect(of("dots", "placed")).toHaveLength(3);
    expect(of("dots", "without a place")).toEqual([20]);
    expect(of("dots", "off the scale")).toHaveLength(1);
    expect(of("nothing", "kept")).toEqual([]);
  });

  it("says it of numbers and lists", () => {
    expect(accountOf(compiled, model, "total").at(-1)).toEqual({ count: 1, what: "number" });
    expect(accountOf(compiled, model, "list").at(-1)).toEqual({ count: 4, what: "rows listed" });
    expect(accountOf(compiled, model, "nothing")).toEqual([]);
  });
});

describe("who drives whom", () => {
  it("calls a piece by its name where its title speaks of values that are not known", () => {
    expect(linkMatrix(compileText(LONG)).targets.map(({ title }) => title)).toEqual(["Long"]);
  });

  const { targets, rows } = linkMatrix(compiled);
  const cells = (selection: string) =>
    rows
      .find((row) => row.selection === selection)
      ?.cells.map((cell) => (cell.type === "does" ? cell.word : cell.type));

  it("has a row for every source and a column for every piece, controls last", () => {
    expect(targets.map(({ name }) => name)).toEqual(["bars", "dots", "months", "total", "list", "apart"]);
    expect(rows.map(({ title, gesture }) => `${title}: ${gesture}`)).toEqual([
      "Dots: brush x",
      "Bars: click by berth",
      "berth: control",
    ]);
  });

  it("says in words what each source does, and why some cannot", () => {
    expect(cells("dots")).toEqual(["filters", "itself", "fades 0.3", "nothing", "nothing", "impossible"]);
    expect(cells("picked")).toEqual(["itself", "nothing", "nothing", "nothing", "filters", "impossible"]);
    expect(cells("berth")).toEqual(["filters", "filters", "filters", "filters", "filters", "impossible"]);
    expect(rows[0]?.cells[5]).toEqual({
      type: "impossible",
      choices: [],
      reason: "Apart is drawn from other, which shares no rows with calls",
    });
  });

  it("knows what can be done on each piece beside what is done already", () => {
    const gestures = targets.map(({ name, gestures: own }) => `${name}: ${own.join(", ")}`);
    expect(gestures).toEqual([
      "bars: brush x, lasso, hover x, hover",
      "dots: brush y, brush xy, lasso, click, hover x, hover",
      "months: brush x, brush y, brush xy, lasso, click, hover x, hover",
      "total: ",
      "list: click, hover, rows",
      "apart: brush y, lasso, click, hover x, hover",
    ]);
  });

  it("knows the sentence that makes each row", () => {
    expect(rows.map(({ sentences, head }) => [sentences, head])).toEqual([
      [[0], "brush x on dots"],
      [[1], "click on bars by berth"],
      [[], undefined],
    ]);
  });

  it("offers what can be done to each piece, and nothing else", () => {
    const choices = rows[0]?.cells.map((cell) => cell.choices.join(" "));
    expect(choices).toEqual([
      "filter fade highlight zoom crosshair",
      "fade highlight zoom crosshair",
      "filter fade highlight",
      "filter",
      "filter",
      "",
    ]);
    expect(rows[2]?.cells.every((cell) => cell.choices.length === 0)).toBe(true);
  });
});

describe("a piece as small as a stamp", () => {
  it("is its marks without axes, its number, or how many rows it lists", () => {
    const bars = pictureOf(model, "bars", 100, 60, "light");
    expect(bars.type === "svg" && bars.svg.includes("<svg") && !bars.svg.includes("<text")).toBe(true);
    expect(pictureOf(model, "total", 100, 60, "light")).toMatchObject({ type: "figure", value: "120" });
    expect(pictureOf(model, "list", 100, 60, "light")).toEqual({ type: "rows", rows: 4 });
    expect(pictureOf(model, "missing", 100, 60, "light")).toEqual({ type: "words", words: "broken" });
  });
});

describe("a table stage by stage", () => {
  it("keeps the rows after every step, also where a later step is broken", () => {
    const broken = compileText(SHEET.replace("- keep: tonnes > 0", "- keep: tons > 0\n      - sort: id"));
    const stages = broken.stages.get("calls");
    expect(stages?.tables.map(({ rowCount }) => rowCount)).toEqual([6, 5]);
    expect(stages?.brokenStep).toBe(1);
    expect(compiled.stages.get("calls")?.tables.map(({ rowCount }) => rowCount)).toEqual([6, 5, 4]);
    expect(compiled.stages.get("calls")?.brokenStep).toBeUndefined();
  });
});

describe("what would make a file lighter", () => {
  const text = `still: 1
report: R
tables:
  t: {rows: "k,v,note\\na,1,${"a long remark ".repeat(20)}\\nb,2,${"and another one ".repeat(20)}\\n"}
charts:
  sums: {from: t, draw: bars, y: k, x: sum(v)}
  list: {from: t, draw: table, columns: [k, v, note], keep: v > 0}
controls: {k: {pick: k, from: t, only: [list]}}
`;
  const waysOf = (sheet: string) => {
    const built = buildDashboard({ text: sheet, fileName: "s", readFile: () => undefined }, { viewer: () => "0" });
    return { built, ways: lighterWays(built, built.packing) };
  };
  const applied = (sheet: string, edits: readonly { start: number; end: number; text: string }[]) =>
    [...edits]
      .sort((a, b) => b.start - a.start)
      .reduce((now, { start, end, text: by }) => now.slice(0, start) + by + now.slice(end), sheet);
  it("is a column that one list alone shows, and does what it says", () => {
    const { built, ways } = waysOf(text);
    const way = ways.find(({ says }) => says.startsWith("leave note out of"));
    expect(way?.bytes).toBe(built.packing.find(({ column }) => column === "note")?.bytes);
    const after = waysOf(applied(text, way?.edits ?? []));
    expect(after.built.ok).toBe(true);
    expect(after.built.packing.map(({ column }) => column)).not.toContain("note");
  });
  it("is the sheet, where it could not draw from groups what is nothing but groups", () => {
    const bars = text.replace(/ {2}list:.*\n/, "").replace(/controls:.*\n/, "");
    expect(waysOf(bars).ways).toEqual([]);
    // A value in words that would be read as a formula.
    const alone = bars.replace("\\na,1", "\\n{a},1").replace("y: k, x: sum(v)", "y: k, x: sum(v), title: '{first(k)}'");
    const { ways } = waysOf(alone);
    expect(ways.map(({ says }) => says)).toEqual([
      "leave the sheet behind: one piece then go along as groups, without rows",
    ]);
    const after = waysOf(applied(alone, ways[0]?.edits ?? []));
    expect(new Set(after.built.packing.map(({ table }) => table))).toEqual(new Set(["sums/groups", "sums/groups1"]));
    expect(after.ways).toEqual([]);
  });
  it("is the first rows of a table that lists alone show", () => {
    const many = `still: 1
report: R
tables:
  t:
    rows: |
      a,b
${Array.from({ length: 1500 }, (_, at) => `      ${at},${(at * 7919) % 10007}`).join("\n")}
    steps: [{add: {c: a + b}}]
charts: {list: {from: t, draw: table, columns: [a, b, c]}}
`;
    const { built, ways } = waysOf(many);
    const way = ways.find(({ says }) => says === "keep the first 1,000 rows of t");
    const bytes = built.packing.filter(({ table }) => table === "t").reduce((sum, line) => sum + line.bytes, 0);
    expect(way?.bytes).toBeCloseTo(bytes / 3);
    const after = waysOf(applied(many, way?.edits ?? []));
    expect(after.built.packing.filter(({ table }) => table === "t").map(({ rows }) => rows)).toEqual([
      1000, 1000, 1000,
    ]);
    expect(after.ways.map(({ says }) => says)).not.toContain("keep the first 1,000 rows of t");
    const charted = many.replace("charts: {", "charts: {bars: {from: t, draw: bars, x: bin(a, 9), y: count()}, ");
    expect(waysOf(charted).ways.map(({ says }) => says)).not.toContain("keep the first 1,000 rows of t");
  });
});

describe("what a piece weighs", () => {
  it("is what it needs, and what nothing else needs", () => {
    const line = (column: string, bytes: number, ...neededBy: string[]) => ({
      table: "t",
      column,
      rows: 1,
      kind: "number",
      bytes,
      neededBy,
    });
    const packing = [line("a", 100, "bars", "list"), line("b", 40, "list"), line("s", 9, "opening the file again")];
    expect(weightsByPiece(packing, new Set(["bars", "list", "none"]))).toEqual([
      { name: "list", bytes: 140, alone: 40 },
      { name: "bars", bytes: 100, alone: 0 },
    ]);
  });
});
