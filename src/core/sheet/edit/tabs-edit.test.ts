import { expect, test } from "vitest";
import { compileText } from "../../testing/compile-text";
import { intoTabs, outOfTabs } from "./tabs-edit";

const SHEET = `still: 1
report: R
tables: {t: {rows: "k,v\\na,1\\nb,2\\n"}}
charts:
  one: {from: t, draw: bars, x: k, y: sum(v)}
  two: {from: t, draw: bars, y: k, x: sum(v)}
  three: {from: t, draw: table, columns: [k]}
  four: {from: t, draw: figure, value: sum(v)}
pages:
  - page: P
    height: content
    columns: 1fr 1fr
    rows: 100px 200px 300px
    grid: |
      one    two
      three  three
      four   four
`;
const pageOf = (text: string) => {
  const compiled = compileText(text);
  expect(compiled.findings.filter(({ severity }) => severity !== "advice")).toEqual([]);
  const [page] = compiled.plan.pages;
  if (!page) throw new Error("no page");
  return page;
};
const into = (text: string, piece: string, target: string) => intoTabs(text, 0, pageOf(text), piece, target) ?? "";

test("a piece goes into tabs with another and leaves its cells, and its row where it was alone there", () => {
  const text = into(SHEET, "three", "one");
  expect(text.slice(text.indexOf("    rows"))).toBe(`    rows: 100px 300px
    grid: |
      one_tabs  two
      four      four
    areas: {one_tabs: {tabs: [one, three]}}
`);
  const more = into(text, "two", "one_tabs");
  expect(more).toContain("    columns: 1fr 1fr\n");
  expect(more).toContain("      one_tabs  .\n      four      four\n");
  expect(more).toContain("{tabs: [one, three, two]}");
  expect(pageOf(more).areas[0]?.shared).toMatchObject({
    sharing: "tabs",
    items: [{ piece: "one" }, { piece: "three" }, { piece: "two" }],
  });
});

test("out of them again it has a row of its own, and the last one its cells", () => {
  const text = into(SHEET, "three", "one");
  const page = pageOf(text);
  const shared = page.areas.find((area) => area.shared)?.shared;
  if (!shared) throw new Error("nothing is shared");
  const out = outOfTabs(text, 0, page, shared, "three") ?? "";
  expect(out.slice(out.indexOf("    rows"))).toBe(`    rows: 100px 300px 320px
    grid: |
      one    two
      four   four
      three  three
`);
  pageOf(out);
});

test("nothing can be put into itself, or into what stacks", () => {
  const page = pageOf(SHEET);
  expect(intoTabs(SHEET, 0, page, "one", "one")).toBeUndefined();
  expect(intoTabs(SHEET, 0, page, "one", "none")).toBeUndefined();
  const stacked = SHEET.replace("one    two", "pile   pile").concat("    areas: {pile: {stack: [one, two]}}\n");
  expect(intoTabs(stacked, 0, pageOf(stacked), "three", "pile")).toBeUndefined();
});
