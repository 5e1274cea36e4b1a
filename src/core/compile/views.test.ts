import { expect, test } from "vitest";
import { compileText } from "../testing/compile-text";

const viewed = (address: string) => {
  const text = `still: 1
report: R
tables:
  t:
    rows: |
      k,v
      a,1
      b,2
controls: {kind: {pick: k, from: t}}
charts:
  dots: {from: t, draw: points, x: v, y: v}
  list: {from: t, draw: table, page: [10, 50]}
  more: {from: t, draw: table}
links: [brush x on dots -> filter list]
pages: [{page: P, side: [kind], grid: dots both, areas: {both: {tabs: [list, more]}}}]
views: {Kept: "${address}"}
`;
  const { plan, findings } = compileText(text);
  return { views: plan.views, said: findings.map(({ code, message }) => `${code}: ${message}`) };
};

test("a view is an address, whatever stands before its #", () => {
  expect(viewed("report.html#dots=x:1..2").views).toEqual([{ name: "Kept", address: "dots=x:1..2" }]);
});

test("all that readers can set is known: pages, tabs, controls, brushes, tables, how charts are looked at", () => {
  const address =
    "#page=P&side=open&both=more&kind=a&dots=x:1..2&dots.zoom=x:1..2&dots.fit=left&dots.legend=a&list.sort=-v&list.search=a&list.page=2&list.length=50&list.columns=v,k";
  expect(viewed(address).said).toEqual([]);
});

test("what could not be read has its own finding, and no other", () => {
  const { findings } = compileText(`still: 1
report: R
tables: {t: {rows: "k,v\\na,1", steps: [{keep: nothing > 1}]}}
controls: {kind: {pick: k, from: t}}
charts: {dots: {from: t, draw: points, x: v, y: v}}
views: {Kept: "#kind=a&dots.zoom=x:1..2"}
`);
  expect(findings.map(({ code }) => code)).toEqual(["unknown-column"]);
});

test("a part that means nothing here is told, with the nearest name", () => {
  expect(viewed("#dot=x:1..2").said).toEqual([
    'unknown-view: the view names "dot", which is nothing here; did you mean dots?',
  ]);
});
