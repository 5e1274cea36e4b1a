import { describe, expect, it } from "vitest";
import { MARK_NAMES } from "../../mark/specs";
import { anatomy } from "./anatomy";
import { complete, type Proposal } from "./complete";
import { helpFor } from "./help";
import type { Knowledge, KnownColumn } from "./knowledge";

const column = (name: string, kind: KnownColumn["kind"], samples: string[] = []): KnownColumn => ({
  name,
  kind,
  samples,
});
const READ = [
  column("berth", "text", ["Granary", "Salt Steps"]),
  column("tonnes", "number", ["12"]),
  column("gross weight", "number"),
];
const knowledge: Knowledge = {
  tables: new Map([
    ["calls", [READ, [...READ, column("rate", "number")]]],
    ["berths", [[column("code", "text")]]],
  ]),
  files: ["calls.csv", "berths.csv"],
  charts: ["waiting", "trend"],
  controls: ["cargo"],
  settings: ["bins"],
};

function proposed(marked: string): Proposal[] {
  const offset = marked.indexOf("¦");
  return complete(marked.slice(0, offset) + marked.slice(offset + 1), offset, knowledge).proposals;
}
const labels = (marked: string, kind?: Proposal["kind"]) =>
  proposed(marked)
    .filter((one) => kind === undefined || one.kind === kind)
    .map(({ label }) => label);

describe("what could be written at a place", () => {
  it("is the keys of this very map that it has not got yet", () => {
    expect(labels("sti¦")).toEqual([
      "still",
      "report",
      "about",
      "use",
      "tables",
      "controls",
      "charts",
      "notes",
      "links",
      "views",
      "editions",
      "pages",
      "style",
    ]);
    const keys = labels("tables:\n  t:\n    read: a.csv\n    ¦");
    expect(keys).toContain("steps");
    expect(keys).not.toContain("read");
    expect(labels("charts:\n  a:\n    legend: {¦")).toEqual(["at", "press", "refit"]);
    expect(labels("charts:\n  ¦")).toEqual([]);
    expect(proposed("charts:\n  a:\n    dra¦").find(({ label }) => label === "draw")).toMatchObject({
      insert: "draw: |",
      says: "What is drawn.",
    });
  });

  it("is the channels that this mark takes", () => {
    const keys = (draw: string) => labels(`charts:\n  a:\n    from: calls\n    draw: ${draw}\n    ¦`);
    expect(keys("bars")).toEqual(expect.arrayContaining(["x", "y", "color", "stacking"]));
    expect(keys("bars")).not.toContain("value");
    expect(keys("figure")).toEqual(expect.arrayContaining(["value", "against", "title"]));
    expect(keys("figure")).not.toContain("x");
    expect(keys("table")).toContain("columns");
    expect(keys("points")).not.toContain("stacking");
    expect(keys("boxes")).toEqual(expect.arrayContaining(["panels", "top", "margin"]));
    expect(keys("slices")).toEqual(expect.arrayContaining(["value", "ring"]));
    expect(keys("slices")).not.toContain("span");
    expect(keys("smooth")).toContain("span");
    expect(keys("figure")).toEqual(expect.arrayContaining(["by", "spark"]));
    expect(keys("table")).toEqual(expect.arrayContaining(["cells", "totals"]));
    expect(keys("summary")).not.toContain("totals");
  });

  it("is the fixed words, tables, files and pieces that may stand there", () => {
    expect(labels("charts:\n  a:\n    draw: ¦")).toEqual([...MARK_NAMES, "figure", "table", "summary"]);
    expect(labels("charts:\n  a:\n    from: ¦")).toEqual(["calls", "berths"]);
    expect(labels("tables:\n  t:\n    read: ¦")).toEqual(["calls.csv", "berths.csv"]);
    expect(labels("pages:\n  - page: A\n    side: [¦")).toEqual(["cargo"]);
    expect(labels("pages:\n  - page: A\n    grid: |\n      wai¦")).toEqual(["waiting", "trend", "cargo", "."]);
    expect(labels("controls:\n  c: {pick: berth, from: calls, only: [¦")).toEqual(["waiting", "trend"]);
  });

  it("is the columns at that very step, with kind and values, then functions and settings", () => {
    expect(labels("tables:\n  calls:\n    steps:\n      - keep: ¦", "column")).toEqual([
      "berth",
      "tonnes",
      "gross weight",
    ]);
    expect(labels("tables:\n  calls:\n    steps:\n      - keep: a\n      - keep: ¦", "column")).toContain("rate");
    const inChart = proposed("charts:\n  a:\n    from: calls\n    y: ¦");
    expect(inChart.find(({ label }) => label === "berth")?.detail).toBe("text: Granary · Salt Steps");
    expect(inChart.find(({ label }) => label === "gross weight")?.insert).toBe("`gross weight`");
    expect(inChart.find(({ label }) => label === "median")).toMatchObject({ insert: "median(|)", detail: "median(x)" });
    expect(inChart.map(({ label }) => label)).toContain("$bins");
    expect(labels("charts:\n  a:\n    y: ber¦\n    from: berths", "column")).toEqual(["code"]);
    expect(labels("tables:\n  calls:\n    steps:\n      - unique: [¦", "column")).toEqual([
      "berth",
      "tonnes",
      "gross weight",
    ]);
  });

  it("goes through a link's sentence word by word", () => {
    const link = (words: string) => labels(`charts:\n  waiting:\n    from: calls\nlinks:\n  - ${words}¦`);
    expect(link("")).toContain("brush xy");
    expect(link("brush x on ")).toEqual(["waiting", "trend"]);
    expect(link("click on waiting ")).toEqual(["->", "by", "as"]);
    expect(link("click on waiting by ")).toEqual(["berth", "tonnes", "gross weight", "rate"]);
    expect(link("click on waiting -> ")).toEqual(["filter", "fade", "highlight", "zoom", "crosshair"]);
    expect(link("click on waiting -> filter ")).toEqual([
      "waiting",
      "trend",
      "all",
      "filter",
      "fade",
      "highlight",
      "zoom",
      "crosshair",
    ]);
    expect(link("cross-filter ")).toEqual(["calls", "berths"]);
    const start = complete("links:\n  - brush x", 18, knowledge);
    // The two words of a gesture are replaced together.
    expect([start.from, start.to]).toEqual([11, 18]);
  });
});

describe("what a sheet is made of", () => {
  const text =
    'still: 1 # the version\ncharts:\n  a:\n    from: calls\n    x: bin(tonnes, $bins)\n    y: sum(`gross weight`)\n    title: "#1: a title" # said\nlinks:\n  - click on a by berth -> filter trend\n';
  const parts = anatomy(text).map(({ start, end, part }) => `${part} ${text.slice(start, end)}`);

  it("knows keys, names, formulas, sentences and comments apart", () => {
    expect(parts).toEqual(
      expect.arrayContaining([
        "key still",
        "comment # the version",
        "name a",
        "function bin",
        "column tonnes",
        "setting $bins",
        "column `gross weight`",
        'text "#1: a title"',
        "comment # said",
        "word click",
        "name a",
        "name berth",
        "word filter",
        "name trend",
      ]),
    );
    expect(parts.filter((part) => part.startsWith("comment"))).toHaveLength(2);
  });

  it("gives help for keys, functions, columns and settings from their one source", () => {
    const help = (word: string) => {
      const stretch = anatomy(text).find(({ start, end }) => text.slice(start, end) === word);
      return stretch && helpFor(text, stretch, knowledge);
    };
    expect(help("from")).toEqual({ head: "from: table", lines: ["The table that is drawn."] });
    expect(help("bin")?.head).toBe("bin(x, count)");
    expect(help("tonnes")).toEqual({ head: "tonnes: number", lines: ["such as 12"] });
    expect(help("$bins")?.lines[0]).toContain("A setting");
    expect(help("calls")?.lines[0]).toBe("4 columns after its steps");
  });

  it("leaves a text that cannot be read without colours, not without an answer", () => {
    expect(() => anatomy("a: [b\n  c: }")).not.toThrow();
    expect(anatomy("x".repeat(400_000))).toEqual([]);
  });
});
