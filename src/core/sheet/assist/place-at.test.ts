import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { anatomy } from "./anatomy";
import { placeAt } from "./place-at";

/** The place of the bar in a text. */
function at(marked: string) {
  const offset = marked.indexOf("|");
  return placeAt(marked.slice(0, offset) + marked.slice(offset + 1), offset);
}

const where = (marked: string) => {
  const { path, what, word } = at(marked);
  return `${path.join("/")} ${what} ${word}`;
};

describe("where a cursor stands in a half-written sheet", () => {
  it.each([
    ["still: 1\nrep|", " key rep"],
    ["tables:\n  calls:\n    read: cal|", "tables/calls/read value cal"],
    ["tables:\n  calls:\n    steps:\n      - ke|", "tables/calls/steps/0 key ke"],
    [
      "tables:\n  calls:\n    steps:\n      - unique: [id]\n      - keep: tonnes > ho|",
      "tables/calls/steps/1/keep value ho",
    ],
    ["tables:\n  calls:\n    steps:\n      - keep: a\n        wh|", "tables/calls/steps/0 key wh"],
    [
      "tables:\n  calls:\n    steps:\n      - add:\n          rate: tonnes / ho|",
      "tables/calls/steps/0/add/rate value ho",
    ],
    ["tables:\n  a:\n    columns:\n      when: {type: date, re|", "tables/a/columns/when key re"],
    ["charts:\n  a:\n    legend: {press: rem|", "charts/a/legend/press value rem"],
    ["charts:\n  a:\n    axes: {x: {sc|", "charts/a/axes/x key sc"],
    ["charts:\n  a: {from: t,\n    x: bin(v, 2), y: co|", "charts/a/y value co"],
    ["charts:\n  a:\n    layers:\n      - draw: line\n      - dr|", "charts/a/layers/1 key dr"],
    ["charts:\n  a:\n    layers:\n    - draw: line\n    - dr|", "charts/a/layers/1 key dr"],
    ['charts:\n  a:\n    columns: [berth, "x, y", to|', "charts/a/columns/2 value to"],
    ["links:\n  - brush x on a -> filter b\n  - click on b|", "links/1 key click on b"],
    ["links:\n- brush|", "links/0 key brush"],
    ["pages:\n  - page: A\n    side: [one, tw|", "pages/0/side/1 value tw"],
    ["tables:\n  t:\n    from: a # not: here\ncharts:\n  |", "charts key "],
    ["tables:\n  t:\n    # a comment: with a key\n    fr|", "tables/t key fr"],
  ])("%j", (marked, expected) => {
    expect(where(marked)).toBe(expected);
  });

  it("knows the keys that the same map has already, and what stands inside brackets", () => {
    expect(at("charts:\n  a:\n    from: t\n    draw: bars\n    |").present).toEqual(["from", "draw"]);
    expect(at("controls:\n  c: {pick: x, from: t, a|").present).toEqual(["pick", "from"]);
    expect(at("controls:\n  c: {pick: x, from: t, a|").inFlow).toBe(true);
    expect(at("charts:\n  a:\n    from: t\n  b:\n    |").present).toEqual([]);
  });

  it("takes a block of text for one value", () => {
    const place = placeAt("pages:\n  - grid: |\n      a b\n      c d", 36);
    expect(place.path).toEqual(["pages", 0, "grid"]);
    expect(place.what).toBe("value");
  });

  it("agrees with the reading of YAML at every key and value of a whole sheet", () => {
    const text = readFileSync("examples/quay-calls/quay-calls.still.yaml", "utf8");
    const stretches = anatomy(text).filter(({ path }) => path.length > 0);
    expect(stretches.length).toBeGreaterThan(100);
    for (const { start, end, part, path } of stretches) {
      const isKey = (part === "key" || part === "name") && text[end] === ":";
      const place = placeAt(text, isKey ? end : start + 1);
      const shown = `${start} ${text.slice(start, end)}`;
      // A link is an item that could become a map; what it is, its words say.
      if (path[0] === "links" && path.length > 1) expect(place.path, shown).toEqual(path);
      else if (isKey) expect([...place.path, place.word].join("/"), shown).toBe(path.join("/"));
      else expect(place.path.join("/"), shown).toBe(path.join("/"));
    }
  });

  it("answers for every offset of every text, without throwing", () => {
    const piece = fc.constantFrom(
      "a",
      ":",
      " ",
      "\n",
      "  ",
      "- ",
      "{",
      "}",
      "[",
      "]",
      ",",
      '"',
      "'",
      "#",
      "|",
      "x: ",
      "$",
      "`",
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 60 }), fc.nat(80), (pieces, offset) => {
        const text = pieces.join("");
        const place = placeAt(text, Math.min(offset, text.length));
        expect(place.from).toBeLessThanOrEqual(Math.min(offset, text.length));
        expect(place.from).toBeGreaterThanOrEqual(0);
      }),
      { numRuns: 500 },
    );
  });
});
