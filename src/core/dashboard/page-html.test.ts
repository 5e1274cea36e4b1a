import { describe, expect, test } from "vitest";
import { Model } from "../model/model";
import { compileText, sheetOver } from "../testing/compile-text";
import { pageHtml } from "./page-html";
import { dashboardCss } from "./style";

const CSV = `k,v,w
a,1,10
a,2,20
b,3,30`;

function htmlOf(rest: string) {
  const { plan, tables } = compileText(sheetOver(CSV, rest));
  return {
    html: pageHtml(new Model(plan, tables), { about: "", ground: "light", pictures: true }),
    css: dashboardCss(plan.pages, plan.style),
    plan,
  };
}

/** The markup of one piece. */
const section = (html: string, name: string) =>
  new RegExp(`<section[^>]*data-piece="${name}".*?</section>`, "s").exec(html)?.[0] ?? "";

describe("the first picture", () => {
  const CHARTS = `charts:
  bars: {from: calls, draw: bars, x: k, y: sum(v), title: Sums, subtitle: by letter, hint: Press a bar, credit: Made up}
  dots: {from: calls, draw: points, x: v, y: w, color: w}
  total: {from: calls, draw: figure, value: sum(w)}
  list: {from: calls, draw: table, columns: [k, w]}
`;
  test("has a section with its title as name for every piece", () => {
    const { html } = htmlOf(CHARTS);
    for (const name of ["bars", "dots", "total", "list"]) {
      expect(section(html, name)).toContain(`aria-labelledby="title-${name}"`);
      expect(section(html, name)).toContain(`<h2 id="title-${name}">`);
    }
  });
  test("is as high as the sheet says, where the rows of the page leave that free", () => {
    const heightIn = (rows: string) => {
      const chart = "charts:\n  bars: {from: calls, draw: bars, x: k, y: sum(v), height: 400}\n";
      const { html } = htmlOf(`${chart}pages:\n  - {page: P, height: content, rows: ${rows}, grid: bars}\n`);
      return Number(/<svg viewBox="0 0 \S+ ([\d.]+)"[^>]*role="img"/.exec(section(html, "bars"))?.[1]);
    };
    expect(heightIn("auto")).toBe(400 - 27);
    expect(heightIn("500px")).toBe(400 - 27);
    expect(heightIn("320px")).toBe(320 - 27);
  });
  test("draws charts, figures and rows without a script", () => {
    const { html } = htmlOf(CHARTS);
    expect(section(html, "bars")).toMatch(/<svg [^>]*role="img" aria-label="Sums">/);
    expect(section(html, "bars").match(/<path d="M[\d.]+ [\d.]+h[\d.]+v/g)?.length).toBe(2);
    expect(section(html, "dots").match(/<circle/g)?.length).toBe(3);
    expect(section(html, "total")).toContain('<p class="number"><span>60</span></p>');
    expect(section(html, "list").match(/<tr>/g)?.length).toBe(4);
    for (const word of ["by letter", "Press a bar", "Made up"]) expect(section(html, "bars")).toContain(word);
  });
  test("shows a ramp with its ends in words", () => {
    const legend = section(htmlOf(CHARTS).html, "dots");
    expect(legend).toContain('<svg width="96" height="10"');
    expect(legend).toMatch(/w 10<svg.*<\/svg>30/s);
  });
  test("says how many rows there are", () => {
    expect(htmlOf(CHARTS).html).toContain('<p class="sentence" role="status"><b>3</b> of 3 calls</p>');
  });
  test("of later pages waits for its page", () => {
    const { html } = htmlOf(`${CHARTS}pages:\n  - {page: One, grid: bars}\n  - {page: Two, grid: dots list}\n`);
    expect(html).toContain('<li><button type="button" aria-current="page" data-page="0">One</button></li>');
    expect(html).toContain('<li><button type="button" data-page="1">Two</button></li>');
    expect(html).toMatch(/id="page-1" hidden/);
    expect(section(html, "dots")).not.toContain("<circle");
    expect(section(html, "list")).not.toContain("<tr>");
  });
  test("of too many marks says that it comes, instead of weighing down the file", () => {
    const rows = Array.from({ length: 5000 }, (_, i) => `${i},${(i * 7) % 100}`).join("\n");
    const { plan, tables } = compileText(
      sheetOver(`v,w\n${rows}`, "charts: {dots: {from: calls, draw: points, x: v, y: w}}\n"),
    );
    const html = pageHtml(new Model(plan, tables), { about: "", ground: "light", pictures: true });
    expect(html).not.toContain("<circle");
    expect(html).toContain("5,000 marks, drawn when the page has woken");
  });
  test("of what waits says for what, and shows none of its rows", () => {
    const { html } = htmlOf(`${CHARTS}  picked: {from: calls, draw: table, wait_for: bars, empty: Press a bar first}
  sum: {from: calls, draw: figure, value: sum(w), wait_for: bars}
  each: {from: calls, draw: summary, wait_for: bars}
links: [click on bars -> filter picked]
`);
    expect(section(html, "picked")).toContain('<p class="nothing">Press a bar first</p>');
    expect(section(html, "picked").match(/<tr>/g)).toHaveLength(2);
    for (const name of ["sum", "each"]) expect(section(html, name)).toContain("Pick something first");
    expect(section(html, "sum")).not.toContain("60");
    expect(section(html, "each")).not.toContain("<td");
  });
  test("leaves a place for controls at the side and in the grid", () => {
    const { html } = htmlOf(
      `${CHARTS}controls: {k: {pick: k, from: calls}, n: {set: 1, range: [1, 2]}}\npages:\n  - {page: One, side: [k], grid: bars n}\n`,
    );
    expect(html).toContain('<aside class="side" aria-label="Controls"><div data-control="k"></div></aside>');
    expect(html).toMatch(/<div class="piece area-1" data-control="n">/);
  });
  test("shows a broken piece's finding in its own place", () => {
    const { html, plan } = htmlOf(
      `${CHARTS}  wrong: {from: calls, draw: bars, x: nobody, y: count()}\n  worse: {from: calls, drw: bars}\npages:\n  - {page: One, grid: bars wrong worse}\n`,
    );
    expect(Object.keys(plan.broken).sort()).toEqual(["worse", "wrong"]);
    expect(section(html, "wrong")).toContain("calls has no column");
    expect(section(html, "worse")).toContain("there is no key &quot;drw&quot;".replaceAll("&quot;", '"'));
    expect(section(html, "bars")).toContain("<svg");
  });
});

describe("the stylesheet", () => {
  const CHART = "charts: {a: {from: calls, draw: points, x: v, y: w}}\n";
  test("lays every area on its lines", () => {
    const { css } = htmlOf(
      `${CHART}pages:\n  - page: P\n    columns: 2fr 120px\n    rows: 96px 1fr\n    grid: |\n      a a\n      a a\n`,
    );
    expect(css).toContain(
      "#page-0 .grid{grid-template-columns:minmax(0,2fr) 120px;grid-template-rows:96px minmax(180px,1fr)}",
    );
    expect(css).toContain("#page-0 .area-0{grid-area:1/1/3/3;--on-paper:100%}");
  });
  test("shares out in percent what the gaps between columns leave", () => {
    const { css } = htmlOf(`${CHART}pages:\n  - page: P\n    columns: 30% 70%\n    grid: |\n      a .\n`);
    expect(css).toContain("grid-template-columns:calc((100% - 22px)*0.3) calc((100% - 22px)*0.7);");
    expect(css).toContain("#page-0 .area-0{grid-area:1/1/2/2;--on-paper:50%}");
  });
  test("has the ground that the sheet asks for", () => {
    expect(htmlOf(CHART).css).toContain("color-scheme:light");
    expect(htmlOf(`${CHART}style: {ground: dark}\n`).css).toContain("color-scheme:dark");
    expect(htmlOf(`${CHART}style: {ground: auto}\n`).css).toContain("@media (prefers-color-scheme:dark){:root{");
  });
  test("packs the type, or leaves it to the reader", () => {
    expect(htmlOf(CHART).css).toContain("data:font/woff2;base64,");
    const css = htmlOf(`${CHART}style: {type: system}\n`).css;
    expect(css).not.toContain("@font-face");
    expect(css).toContain("--sans:system-ui");
  });
  test("asks nothing of the network", () => {
    expect(htmlOf(CHART).css.replaceAll(/url\(data:[^)]*\)/g, "")).not.toMatch(/url\(|@import|https?:/);
  });
});
