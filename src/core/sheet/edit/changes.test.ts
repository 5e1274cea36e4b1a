import { describe, expect, it } from "vitest";
import { changesBetween } from "./changes";

const BASE =
  "still: 1\nreport: R\ncharts:\n  a: {from: t, draw: bars, x: k, y: count()}\n  b: {from: t, draw: table}\nlinks:\n  - click on a -> filter b\n";

describe("what changed between two states of a sheet", () => {
  it.each([
    ["nothing", BASE, []],
    ["a key of a chart", BASE.replace("draw: bars", "draw: line"), ["chart a: draw"]],
    ["several keys", BASE.replace("draw: bars, x: k", "draw: line, x: m, color: c"), ["chart a: draw, x, color"]],
    ["a chart more", BASE.replace("links:", "  c: {from: t}\nlinks:"), ["chart c added"]],
    ["a chart less", BASE.replace("  b: {from: t, draw: table}\n", ""), ["chart b taken away"]],
    [
      "the title and the links",
      BASE.replace("report: R", "report: S").replace("filter b", "fade b"),
      ["report changed", "links changed"],
    ],
    ["a new part", `${BASE}pages:\n  - page: A\n`, ["pages added"]],
    ["only a comment", `# said\n${BASE}`, ["spacing or comments"]],
    ["a text that is no sheet", "words", ["the text was rewritten"]],
  ])("%s", (_, after, changes) => {
    expect(changesBetween(BASE, after)).toEqual(changes);
  });
});
