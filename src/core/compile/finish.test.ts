import { describe, expect, test } from "vitest";
import { buildDashboard } from "../dashboard/build";
import { Model } from "../model/model";
import { compileText } from "../testing/compile-text";

const ROWS = `still: 1
report: Groups
tables:
  t:
    rows: |
      k,c,v,d
      a,x,1.25,2024-01-10
      a,y,2.5,2024-02-10
      b,x,4,2024-02-20
      b,y,,2024-05-01
      lone,x,8,2024-05-02
`;
const CHARTS = `charts:
  sums: {from: t, draw: bars, y: c, x: sum(v), sort: {y: -mean(v)}}
  months: {from: t, draw: line, x: by_month(d), y: count(), color: c}
  total: {from: t, draw: figure, value: median(v), spark: by_month(d)}
  firsts: {from: t, draw: table, columns: [c, first(d), count()]}
`;
const ALONE = "style: {sheet: leave_out}\n";
const columnsOf = (text: string) =>
  Object.fromEntries([...compileText(text).tables].map(([name, { columns }]) => [name, [...columns.keys()]]));

describe("what nothing reaches", () => {
  test("is packed as its groups", () => {
    const groups = {
      "sums/groups": ["c", "count()", "sum(v)"],
      "sums/groups1": ["c", "count()", "mean(v)"],
      "months/groups": ["by_month(d)", "c", "count()"],
      "firsts/groups": ["c", "count()", "first(d)"],
    };
    const all = {
      t: [],
      ...groups,
      "total/groups": ["count()", "median(v)"],
      "total/groups1": ["by_month(d)", "count()", "median(v)"],
    };
    expect(columnsOf(ROWS + CHARTS + ALONE)).toEqual(all);
    expect(columnsOf(ROWS + CHARTS)).toEqual(all);
  });
  test.each(["tables: whole", "open: true"])("is packed with its rows where the style says %s", (style) => {
    const columns = columnsOf(`${ROWS}${CHARTS}style: {${style}}\n`);
    expect(Object.keys(columns)).toEqual(["t"]);
  });
  test("keeps its rows where a rule or a zoom comes to it, which its table ties to the source", () => {
    const links = "links: [brush x on dots -> zoom months]\n";
    const dots = "  dots: {from: t, draw: points, x: d, y: v}\n";
    const packed = (more: string) => Object.keys(columnsOf(ROWS + CHARTS + dots + links + more));
    expect(packed(ALONE)).toContain("months/groups");
    expect(packed("")).not.toContain("months/groups");
    expect(packed("")).toContain("firsts/groups");
  });
  test("is packed as its groups with the categories that come first, and with values in its words", () => {
    const first = (more: string) =>
      columnsOf(`${ROWS}charts: {a: {from: t, draw: bars, y: k, x: sum(v), color: k, sort: {y: -mean(v)}, ${more}}}\n`);
    expect(first("top: {y: 2, rest: others}")).toEqual({
      t: [],
      "a/groups": ["k or others", "k", "count()", "sum(v)"],
    });
    expect(first("top: {y: 2}, title: '{median(v)}'")).toEqual({
      t: [],
      "a/groups": ["k", "count()", "sum(v)"],
      "a/groups1": ["count()", "median(v)"],
    });
    // How many come first is for the reader to say: all rows are needed for that.
    const setting = "controls: {n: {set: 2, range: [1, 3], as: slider}}\n";
    const chart = "charts: {a: {from: t, draw: bars, y: k, x: sum(v), top: {y: $n}}}\n";
    expect(columnsOf(ROWS + setting + chart)).toEqual({ t: ["k", "v"] });
  });
  test("shows what it showed, and counts the rows that it stands for", () => {
    const [whole, groups] = [ROWS + CHARTS, ROWS + CHARTS + ALONE].map((text) => {
      const { plan, tables } = compileText(text);
      return new Model(plan, tables);
    }) as [Model, Model];
    expect(groups.counts()).toEqual({ t: { left: 5, all: 5 } });
    for (const { name } of whole.plan.pieces)
      for (const [at, asked] of whole.askedBy(name).entries()) {
        const own = groups.askedBy(name)[at];
        if (!own) throw new Error("no question");
        const [a, b] = [whole.engine.all(asked), groups.engine.all(own)];
        expect([...b.counts], name).toEqual([...a.counts]);
        expect(
          b.values.map((values) => [...values]),
          name,
        ).toEqual(a.values.map((values) => [...values]));
      }
  });
  test.each([
    ["a link", "links: [click on sums -> filter months]\n", ["total", "firsts"]],
    ["a control", "controls: {k: {pick: k, from: t}}\n", []],
    ["a control over some", "controls: {k: {pick: k, from: t, only: [total]}}\n", ["sums", "months", "firsts"]],
  ])("is all but what %s comes to", (_, more, left) => {
    const packed = Object.keys(columnsOf(ROWS + CHARTS + more + ALONE)).filter((name) => name.includes("/"));
    expect([...new Set(packed.map((name) => name.split("/")[0]))]).toEqual(left);
  });
  test("names its smallest group on the packing list", () => {
    const { packing } = buildDashboard(
      {
        text: `${ROWS}charts: {sums: {from: t, draw: bars, y: k, x: sum(v)}}\n${ALONE}`,
        fileName: "s",
        readFile: () => undefined,
      },
      { viewer: () => "0" },
    );
    expect(packing.find(({ smallest }) => smallest)).toMatchObject({
      table: "sums/groups",
      smallest: { rows: 1, group: "lone" },
    });
  });
  test("is told to readers as what it is, also where a piece has the name of its table", () => {
    const { html = "" } = buildDashboard(
      {
        text: `${ROWS}charts: {t: {from: t, draw: bars, y: c, x: sum(v), title: Sums}}\n`,
        fileName: "s",
        readFile: () => undefined,
      },
      { viewer: () => "0" },
    );
    expect(html).toContain(
      "No column of it is in this file. Of its groups alone: Sums. What no chart needs was left out.",
    );
  });
});
