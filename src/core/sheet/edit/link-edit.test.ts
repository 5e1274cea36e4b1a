import { describe, expect, test } from "vitest";
import { applyEdits } from "../../finding/finding";
import type { EffectName } from "../../link/effects/index";
import { addLink, type LinkSource, setLinkEffect } from "./link-edit";

const SHEET = `still: 1
links:
  # what berths do
  - click on bars by berth -> filter all   # keep
  - {link: "brush x on dots as near -> fade 0.3 bars, months, filter list", start: [1, 2]}
charts: {}
`;

const ALL = ["dots", "months", "list"];
const bars: LinkSource = { sentences: [0], head: "click on bars by berth", all: () => ALL };
const dots: LinkSource = { sentences: [1], head: "brush x on dots", all: () => ["bars", "months", "list"] };

const written = (source: LinkSource, target: string, effect: EffectName | undefined, text = SHEET) =>
  applyEdits(text, setLinkEffect(text, source, target, effect) ?? []);
const lines = (text: string) => text.split("\n").slice(2, 6);

describe("what a source does to a target", () => {
  test("leaves what all means, and comes back to it", () => {
    const less = written(bars, "months", undefined);
    expect(lines(less)).toEqual([
      "  # what berths do",
      "  - click on bars by berth -> filter dots, list   # keep",
      ...SHEET.split("\n").slice(4, 6),
    ]);
    expect(written(bars, "months", "filter", less)).toBe(SHEET);
  });
  test("is one thing at a time", () => {
    expect(lines(written(bars, "dots", "highlight"))[1]).toBe(
      "  - click on bars by berth -> filter months, list, highlight dots   # keep",
    );
    expect(lines(written(dots, "bars", "filter"))[2]).toBe(
      "  - {link: 'brush x on dots as near -> fade 0.3 months, filter list, bars', start: [1, 2]}",
    );
  });
  test("stays with its amount where it is asked for again", () => {
    expect(written(dots, "bars", "fade")).toContain("fade 0.3 months, bars, filter list");
  });
  test("goes with its sentence where nothing is left, and is said anew where nothing was", () => {
    const text = "links:\n  - click on bars -> filter list\n  - cross-filter calls\n";
    const own: LinkSource = { sentences: [0], head: "click on bars", all: () => ["list", "dots"] };
    expect(written(own, "list", undefined, text)).toBe("links:\n  - cross-filter calls\n");
    expect(written({ ...own, sentences: [] }, "dots", "fade", text)).toBe(
      "links:\n  - click on bars -> filter list\n  - cross-filter calls\n  - click on bars -> fade dots\n",
    );
  });
  test("is one effect of several sentences of one gesture", () => {
    const text = "links:\n  - click on bars -> filter list\n  - click on bars -> fade list, dots\n";
    const own: LinkSource = { sentences: [0, 1], head: "click on bars", all: () => [] };
    expect(written(own, "list", "highlight", text)).toBe(
      "links:\n  - click on bars -> highlight list\n  - click on bars -> fade dots\n",
    );
  });
});

test("a link more begins the list where there is none", () => {
  const added = (text: string) => applyEdits(text, addLink(text, "cross-filter calls") ?? []);
  expect(added("still: 1\n")).toBe("still: 1\n\nlinks:\n  - cross-filter calls\n");
  expect(added("still: 1\nlinks:\nstyle: {}\n")).toBe("still: 1\nlinks:\n  - cross-filter calls\nstyle: {}\n");
  expect(added("links: [a]\n")).toBe("links: [a, cross-filter calls]\n");
  expect(added("links: x\n")).toBe("links: x\n");
});
