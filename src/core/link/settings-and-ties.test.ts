import { describe, expect, test } from "vitest";
import { modelOf, shown } from "../testing/shown";

/** Rows that look something up, and then follow a setting. */
const TIED = `still: 1
report: R
tables:
  v:
    rows: "c,n\\na,1\\na,2\\nb,3\\nz,9\\nb,200"
    steps:
      - keep: n < 100
      - join: {table: k, on: c, get: [town]}
      - add: {late: n > $limit}
      - keep: n != $limit
  k: {rows: "c,town\\na,X\\nb,Y"}
controls: {limit: {set: 2, as: slider, range: [0, 9]}}
charts:
  where: {from: k, draw: bars, x: c, y: count()}
  list: {from: v, draw: table, columns: [c, n, late]}
links:
  - click on where -> filter all
  - rows on list -> filter where
`;

describe("a table that looks something up and follows a setting", () => {
  test("is reached from the look-up table, under every value of the setting", () => {
    const model = modelOf(TIED);
    expect(shown(model, "list")).toEqual(['["a",1,false]', '["b",3,true]', '["z",9,true]']);
    model.engine.select("where", { keys: [{ c: "a" }] });
    expect(shown(model, "list")).toEqual(['["a",1,false]']);
    model.engine.setSetting("limit", 1);
    expect(shown(model, "list")).toEqual(['["a",2,true]']);
  });

  test("reaches the look-up table, by the rows that it has then", () => {
    const model = modelOf(TIED);
    model.engine.select("list", { rows: [1] });
    expect(shown(model, "where")).toEqual(['["b",1]']);
  });
});

test.each([
  ["at once", ""],
  ["by a step that drops others", "\n      - drop: [n]"],
  ["by a step that renames them", "\n      - rename: {beds: places}"],
])("looked-up columns that nothing shows are neither packed nor missed %s", (_, more) => {
  const model = modelOf(`still: 1
report: R
tables:
  v: {rows: "c,n\\na,1\\nb,3"}
  w:
    from: v
    steps:
      - join: {table: k, on: c, get: [town, beds]}
      - add: {m: n}${more}
      - keep: m > $limit
  k: {rows: "c,town,beds\\na,X,2\\nb,Y,4"}
controls: {limit: {set: 1, as: slider, range: [0, 9]}}
charts: {one: {from: w, draw: bars, x: town, y: sum(m)}}
`);
  expect(shown(model, "one")).toEqual(['["Y",3]']);
  model.engine.setSetting("limit", 0);
  expect(shown(model, "one")).toEqual(['["X",1]', '["Y",3]']);
});

describe("n of m rows", () => {
  const counts = (text: string, set: Record<string, number | string> = {}) => {
    const model = modelOf(text);
    for (const [name, value] of Object.entries(set)) model.engine.setSetting(name, value);
    return model.counts();
  };

  test("m is what stands above the first step that follows a setting, n what passes all of them", () => {
    expect(counts(TIED).v).toEqual({ left: 3, all: 4 });
    expect(counts(TIED, { limit: 8 }).v).toEqual({ left: 4, all: 4 });
    const cut = TIED.replace(
      "      - add: {late: n > $limit}\n      - keep: n != $limit",
      "      - first: $limit",
    ).replace("c, n, late", "c, n");
    expect(counts(cut).v).toEqual({ left: 2, all: 4 });
    expect(counts(cut, { limit: 3 }).v).toEqual({ left: 3, all: 4 });
  });

  test("m is not less where a table that is looked up follows the setting", () => {
    const text = `still: 1
report: R
tables:
  v: {rows: "c,n\\na,1\\nb,3\\nc,4", steps: [join: {table: kk, on: c, get: [w], unmatched: drop}]}
  k: {rows: "c,w\\na,1\\nb,2"}
  kk: {from: k, steps: [keep: w >= $least]}
controls: {least: {set: 1, as: slider, range: [0, 9]}}
charts: {list: {from: v, draw: table}}
`;
    expect(counts(text).v).toEqual({ left: 2, all: 3 });
    expect(counts(text, { least: 2 }).v).toEqual({ left: 1, all: 3 });
  });

  test("of a table that is chosen, m are its own rows", () => {
    const text = `still: 1
report: R
tables:
  a: {rows: "k,n\\nx,1\\ny,2"}
  b: {rows: "k,n\\nx,5\\ny,6\\nz,7"}
  t: {from: $which, steps: [keep: n > $least]}
controls:
  which: {set: a, as: radio, of: [a, b]}
  least: {set: 0, as: slider, range: [0, 9]}
charts: {list: {from: t, draw: table}}
`;
    expect(counts(text).t).toEqual({ left: 2, all: 2 });
    expect(counts(text, { which: "b", least: 5 }).t).toEqual({ left: 2, all: 3 });
  });
});
