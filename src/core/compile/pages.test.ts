import { describe, expect, test } from "vitest";
import { pageHtml } from "../dashboard/page-html";
import { Model } from "../model/model";
import { compileText, sheetOver } from "../testing/compile-text";

const CHARTS = `charts:
  a: {from: calls, draw: bars, x: k, y: sum(v)}
  b: {from: calls, draw: table, columns: [k, v]}
  c: {from: calls, draw: figure, value: sum(secret)}
controls:
  k: {pick: k, from: calls}
links:
  - click on a -> filter b, c
`;

const compiled = (page: string) => compileText(sheetOver("k,v,secret\na,1,9\nb,2,8", `${CHARTS}pages:\n${page}`));

const codes = (page: string) => compiled(page).findings.map(({ code }) => code);

describe("areas of a page", () => {
  const TABS = "  - {page: P, grid: detail k, areas: {detail: {tabs: [a, pair]}, pair: {beside: [b, c]}}}\n";

  test("hold several pieces, one area in another", () => {
    const { plan, findings, tables } = compiled(TABS);
    expect(findings).toEqual([]);
    const [area] = plan.pages[0]?.areas ?? [];
    expect(area?.shared).toEqual({
      area: "detail",
      sharing: "tabs",
      items: [{ piece: "a" }, { area: "pair", sharing: "beside", items: [{ piece: "b" }, { piece: "c" }] }],
    });
    const html = pageHtml(new Model(plan, tables), { about: "", ground: "light", pictures: true });
    expect(html).toContain('<div role="tablist" aria-label="detail">');
    expect(html.match(/role="tab"/g)).toHaveLength(2);
    expect(html).toContain('aria-labelledby="tab-detail-1" hidden>');
  });

  test("that cannot be are told", () => {
    expect(codes("  - {page: P, grid: d, areas: {d: {tabs: [a, b, c], stack: [a]}}}\n")).toContain("area-ways");
    expect(codes("  - {page: P, grid: d, areas: {d: {tabs: [a, d]}}}\n")).toContain("cycle");
    expect(codes("  - {page: P, grid: d, areas: {d: {tabs: [a, nobody]}}}\n")).toContain("unknown-piece");
    expect(codes("  - {page: P, grid: a b c, areas: {d: {tabs: [k]}}}\n")).toContain("unplaced");
    expect(codes("  - {page: P, grid: a b c, areas: {a: {tabs: [k]}}}\n")).toContain("doubled-name");
  });
});

describe("what stands on several pages", () => {
  test("is there once, and has a place on every one of them", () => {
    const { plan, tables, findings } = compiled(
      "  - {page: P, grid: a b, side: [k]}\n  - {page: Q, grid: c d, side: [k], areas: {d: {tabs: [b, a]}}}\n",
    );
    expect(findings).toEqual([]);
    const html = pageHtml(new Model(plan, tables), { about: "", ground: "light", pictures: true });
    for (const name of ["a", "b", "c"]) expect(html.split(`data-piece="${name}"`)).toHaveLength(2);
    const [first = "", second = ""] = html.split('id="page-1"');
    expect(first).not.toContain("data-again");
    expect(second).toContain('<div data-again="k"></div>');
    expect(second).toContain('<div class="piece" data-again="b"></div>');
    expect(second).toContain('<div class="piece" data-again="a"></div>');
    expect(html.split("data-control=")).toHaveLength(2);
  });

  test("stands once on each", () => {
    expect(codes("  - {page: P, grid: a b c, side: [k, k]}\n")).toEqual(["doubled-piece"]);
    expect(codes("  - {page: P, grid: a b c k, side: [k]}\n")).toEqual(["doubled-piece"]);
    expect(codes("  - {page: P, grid: a b c d, side: [k], areas: {d: {tabs: [a, b]}}}\n")).toEqual([
      "doubled-piece",
      "doubled-piece",
    ]);
  });
});

test("a piece on no page is told, not packed and no target; a proof may keep it", () => {
  const { plan, tables, findings, unplaced } = compiled("  - {page: P, grid: a b, side: [k]}\n");
  expect(findings.map(({ code }) => code)).toEqual(["unplaced"]);
  expect(unplaced).toEqual(["c"]);
  expect(plan.pieces.map(({ name }) => name)).toEqual(["a", "b"]);
  expect(plan.selections.flatMap(({ effects }) => effects.map(({ target }) => target))).not.toContain("c");
  expect([...(tables.get("calls")?.columns.keys() ?? [])]).toEqual(["k", "v"]);
});
