import { describe, expect, test } from "vitest";
import { applyEdits } from "../finding/finding";
import { MARK_NAMES } from "../mark/specs";
import { keysAt, schemasAt } from "./issues";
import { readSheet } from "./read-sheet";
import { topSchema } from "./schema";
import { chartSchema } from "./schema-charts";
import { controlSchema } from "./schema-controls";
import { tableSchema } from "./schema-tables";
import { tradeKey, tradeWord } from "./trade-words";

const HEAD = "still: 1\nreport: R\n";

/** The first finding of a sheet: its code, what it marks, its message and its fix. */
function first(text: string) {
  const { findings } = readSheet(HEAD + text);
  const [finding] = findings;
  const marked = (HEAD + text).slice(finding?.span?.start, finding?.span?.end);
  return {
    code: finding?.code,
    marked,
    message: finding?.message ?? "",
    fix: finding?.fix?.edits[0]?.text,
    count: findings.length,
  };
}

describe("the keys that may stand at a path", () => {
  test("of objects, of lists of objects, of names, and through unions", () => {
    expect(keysAt(topSchema, [])).toContain("charts");
    expect(keysAt(topSchema, ["charts", "any_name"])).toContain("draw");
    expect(keysAt(chartSchema, ["layers", 3])).toContain("opacity");
    expect(keysAt(tableSchema, ["columns", "c"])).toContain("unit");
    expect(keysAt(tableSchema, ["steps", 0, "group"])).toEqual(["by", "get"]);
    expect(keysAt(chartSchema, ["axes", "x"])).toContain("from_zero");
    expect(keysAt(chartSchema, ["title"])).toEqual([]);
    expect(keysAt(chartSchema, ["nothing", "below"])).toEqual([]);
  });
  test("a union offers each of its shapes", () => {
    expect(
      schemasAt(controlSchema, ["start"])
        .map((schema) => schema._zod.def.type)
        .sort(),
    ).toEqual(["array", "object", "string"]);
  });
});

describe("what is wrong is said in plain words at its place", () => {
  test("a word where a list of such words is taken", () => {
    expect(first("charts: {a: {from: t, draw: bars, zoom: wheel}}\n")).toEqual({
      code: "wrong-value",
      marked: "wheel",
      message: '"wheel" is not one of none, nor a list [drag, wheel, pan] or part of it',
      fix: "[wheel]",
      count: 1,
    });
    expect(first("charts: {a: {from: t, draw: bars, zoom: dragg}}\n").fix).toBe("[drag]");
    expect(first("charts: {a: {from: t, draw: bars, zoom: nome}}\n").fix).toBe("none");
  });
  test.each<[string, string, string, string, string | undefined]>([
    ["a key of steps", "tables: {t: {read: a.csv, steps: [{keap: x}]}}\n", "unknown-key", "keap", "keep"],
    [
      "a key of a group",
      "tables: {t: {read: a.csv, steps: [{group: {by: k, gets: {n: count()}}}]}}\n",
      "unknown-key",
      "gets",
      "get",
    ],
    ["a key of a column", "tables: {t: {read: a.csv, columns: {c: {lable: C}}}}\n", "unknown-key", "lable", "label"],
    [
      "a key of an axis",
      "charts: {a: {from: t, draw: bars, axes: {x: {scal: log}}}}\n",
      "unknown-key",
      "scal",
      "scale",
    ],
    ["a key of a layer", "charts: {a: {from: t, layers: [{draw: line, colr: k}]}}\n", "unknown-key", "colr", "color"],
    ["a key of a page", "pages: [{page: P, gird: a}]\n", "unknown-key", "gird", "grid"],
    ["a key of a legend", "charts: {a: {from: t, draw: bars, legend: {pres: fade}}}\n", "unknown-key", "pres", "press"],
    ["a kind of column", "tables: {t: {read: a.csv, columns: {c: numbr}}}\n", "wrong-value", "numbr", "number"],
    ["a kind in a map", "tables: {t: {read: a.csv, columns: {c: {type: dat}}}}\n", "wrong-value", "dat", "date"],
    [
      "a look of a control",
      "controls: {c: {pick: k, from: t, as: checkbox}}\n",
      "wrong-value",
      "checkbox",
      "checkboxes",
    ],
    ["a scale", "charts: {a: {from: t, draw: bars, axes: {x: {scale: lienar}}}}\n", "wrong-value", "lienar", "linear"],
    ["a palette", "charts: {a: {from: t, draw: bars, colors: quai}}\n", "wrong-value", "quai", "quay"],
    ["a ground", "style: {ground: drak}\n", "wrong-value", "drak", "dark"],
    ["a switch", "charts: {a: {from: t, draw: bars, axes: {x: {grid: maybe}}}}\n", "wrong-value", "maybe", undefined],
    ["a colour", 'charts: {a: {from: t, draw: bars, colors: ["red"]}}\n', "wrong-value", '"red"', '"#c0392b"'],
    ["a number", "charts: {a: {from: t, draw: bars, axes: {x: {ticks: half}}}}\n", "wrong-value", "half", undefined],
    ["a list for a map", "charts: {a: [1]}\n", "wrong-shape", "[1]", undefined],
    ["a text for a list", "pages: [{page: P, side: cargo}]\n", "wrong-shape", "cargo", "[cargo]"],
    ["an unclear text for a list", "pages:\n  - page: P\n    side: a, b\n", "wrong-shape", "a, b", undefined],
    ["a map for a text", "charts: {a: {from: t, draw: bars, title: {x: 1}}}\n", "cut-text", "{x: 1}", "'{x: 1}'"],
    ["a key without a value", "charts:\n  a:\n    from:\n    draw: bars\n", "empty-value", "from", undefined],
    [
      "a step of nothing",
      "tables: {t: {read: a.csv, steps: [{why: because}]}}\n",
      "step-keys",
      "{why: because}",
      undefined,
    ],
  ])("%s", (_, text, code, marked, fix) => {
    const found = first(text);
    expect(found).toMatchObject({ code, marked });
    expect(found.fix).toBe(fix);
    expect(found.count).toBe(1);
  });
  test("a key that is nowhere near any other lists those that there are", () => {
    expect(first("charts: {a: {from: t, draw: bars, xyzzy: 1}}\n").message).toContain("known here: draw, layers, from");
  });
  test("a wrong word lists the right ones", () => {
    expect(first("charts: {a: {from: t, draw: xyzzy}}\n").message).toBe(
      `"xyzzy" is not one of ${[...MARK_NAMES, "figure", "table", "summary"].join(", ")}`,
    );
  });
  test.each<[string, string, string | undefined]>([
    ["legend: bottom", "the place of a legend stands under at", "{at: bottom}"],
    ["legend: false", "legend: {at: none}", "{at: none}"],
    ["top: 10", '"top" says of which axis', "{x: 10}"],
    ["sort: desc", "which axis is put in order", "{x: -sum(v)}"],
    ["sort: ascending", "which axis is put in order", "{x: sum(v)}"],
    ["sort: {colour: -sum(v)}", 'did you mean "color"?', "color"],
    ["height: 300px", "a number is expected", "300"],
    ["palette: kelp", 'did you mean "colors"?', "colors"],
    ["axes: {y: {label: Foo}}", 'did you mean "title"?', "title"],
    ["axes: {y: {min: 0}}", "both ends stand together: range: [0, 10]", undefined],
    ["small_multiples: k", 'did you mean "panels"?', "panels"],
    ["axes: {y: log}", "a map is expected here", "{scale: log}"],
    ["cells: {v: bar}", "a map is expected here", "{bar: true}"],
    ["axes: {y: {scale: logarithmic}}", "is not one of", "log"],
  ])("what is common elsewhere is told as it is here: %s", (key, message, fix) => {
    const found = first(`charts: {a: {from: t, draw: bars, x: k, y: sum(v), ${key}}}\n`);
    expect(found.message).toContain(message);
    expect(found.fix).toBe(fix);
  });
  test.each<[string, string, string | undefined]>([
    ["group: [berth]", "a group has keys and measures", "{by: [berth], get: {n: count()}}"],
    ["group: {by: k, get: [sum(v), count()]}", "each measure has a name", "{v: sum(v), n: count()}"],
    ["add: rate = v / 2", "a column has its name before it", "{rate: v / 2}"],
    ["unpivot: [a, b]", "the heads and the values", "{columns: [a, b], name: name, value: value}"],
    ["sort: {v: desc, k: asc}", "- before a column is descending", "[-v, k]"],
    ["join: berths", "join: {table: berths, on: COLUMN", undefined],
    ["fill: 0", "fill: {COLUMN: 0}", undefined],
    ["sample: 200", "a sample has so many rows", "{rows: 200}"],
    ["unique: call_id", "by a list of columns", "[call_id]"],
    ["top: 10", 'did you mean "first"?', "first"],
  ])("a step that is written short is told whole: %s", (step, message, fix) => {
    const found = first(`tables:\n  t:\n    read: a.csv\n    steps:\n      - ${step}\n`);
    expect(found.message).toContain(message);
    expect(found.fix).toBe(fix);
  });
  test("a column that is named otherwise is told the step that does so", () => {
    const found = (column: string, key: string) =>
      first(`tables: {t: {read: a.csv, columns: {${column}: {${key}: price}}}}\n`).message;
    expect(found("Preis", "as")).toBe(
      'there is no key "as" here; label: says what readers see; a step gives a column another name: ' +
        "steps: [{rename: {Preis: NAME}}]",
    );
    expect(found('"a: b"', "rename")).toContain('steps: [{rename: {"a: b": NAME}}]');
  });
  test.each<[string, string, string | undefined]>([
    ["tables: {t: calls.csv}", "stands under read", "{read: calls.csv}"],
    ["tables: {t: {read: a.csv, steps: {keep: x}}}", "each step is an item of a list: - keep", undefined],
    ["notes: {n: Some text}", "stand under text", '{text: "Some text"}'],
    ["pages: [{page: P, grid: [[a, b], [c, c]]}]", "a grid is a text", '"a b\\nc c"'],
    ["pages: {Overview: {grid: a}}", "items begin with - page: Overview", undefined],
    ["controls: {c: {pick: [k, l], from: t}}", "pick: any and of: [k, l]", undefined],
    ["controls: {c: {pick: k, from: t, as: dropdown}}", "is not one of", "menu"],
    ["tables: {t: {read: a.csv, columns: {c: {type: timestamp}}}}", "is not one of", "datetime"],
    ["style: {theme: dark}", 'did you mean "ground"?', "ground"],
    ["style: {accent: Red}", "a colour is written as", '"#c0392b"'],
  ])("what is written short is told whole: %s", (text, message, fix) => {
    const found = first(`${text}\n`);
    expect(found.message).toContain(message);
    expect(found.fix).toBe(fix);
  });
  test("a sheet without its version is given one", () => {
    const { findings } = readSheet("report: R\n");
    expect(findings[0]).toMatchObject({
      code: "key-missing",
      fix: { edits: [{ start: 0, end: 0, text: "still: 1\n" }] },
    });
  });
  test("a sheet in JSON without its version is given one that leaves it JSON", () => {
    const text = '{"report": "R"}';
    const { findings } = readSheet(text);
    expect(JSON.parse(applyEdits(text, findings[0]?.fix?.edits ?? []))).toEqual({ still: 1, report: "R" });
  });
  test("several marks are layers, all columns need no list, and a list has no order of its own", () => {
    const told = (chart: string) => first(`charts: {a: {from: t, ${chart}}}\n`).message;
    expect(told("draw: [line, points], x: k, y: v")).toContain("layers: [{draw: line}, {draw: points}]");
    expect(told("draw: table, columns: all")).toContain("without columns: a data table shows all");
    expect(told("draw: table, columns: [v], sort: [-v]")).toContain("a step of that table makes: sort: [-v]");
  });
  test("a ramp among the colours of values is told where it stands", () => {
    const told = (colors: string) => first(`charts: {a: {from: t, draw: heatmap, colors: ${colors}}}\n`).message;
    expect(told("{ramp: tide, middle: 5}")).toContain("colors: tide, and its middle beside it, middle: 0");
    expect(told("{grain: tide}")).not.toContain("middle");
  });
  test("an order without its axis is given the one of categories", () => {
    const text = (sort: string) => `still: 1
report: R
tables: {t: {rows: "k,v\\na,1\\nb,2"}}
charts:
  one: {from: t, draw: bars, y: k, x: sum(v), sort: ${sort}}
`;
    const errors = (own: string) => readSheet(own).findings.filter(({ severity }) => severity === "error");
    for (const own of [text("-sum(v)"), text('"-sum(v)"'), text("-sum(v)").replace("y: k", "y: lower(k)")]) {
      const [found] = errors(own);
      expect(found?.message).toMatch(/^"sort" says which axis is put in order: sort: \{y: "?-sum\(v\)"?\}$/);
      expect(errors(applyEdits(own, found?.fix?.edits ?? []))).toEqual([]);
    }
    const [list] = errors(text("-v").replace("draw: bars", "draw: table"));
    expect(list?.message).toMatch(/a step of that table makes: sort: \[-v\]$/);
    expect(list?.fix).toBeUndefined();
  });
  test("a picture by its name in the trade is told by its mark", () => {
    const pie = first("charts: {a: {from: t, draw: Pie chart}}\n");
    expect(pie.message).toMatch(/"Pie chart" is not one of .*; a pie is slices$/);
    expect(pie.fix).toMatch(/slices/);
    expect(first("charts: {a: {from: t, layers: [{draw: scatterplot}]}}\n").fix).toMatch(/points/);
    // No word that draws something is told for another.
    for (const mark of MARK_NAMES) expect(tradeWord(mark)).toBeUndefined();
    for (const word of ["histogram", "map", "kpi", "loess"])
      expect([...MARK_NAMES, "figure", "table", "summary"]).toContain(tradeWord(word)?.meant);
  });
  test("names of keys that are written as a map are told how to stand", () => {
    const found = first("tables: {t: {read: a.csv, steps: [{group: {by: {day: by_day(d)}, get: {n: count()}}}]}}\n");
    expect(found.message).toContain("a name of your own stands behind one: by_day(d) as day");
    expect(found.fix).toBe('["by_day(d) as day"]');
  });
  test("a key by another common word for it is told where it is known", () => {
    const join = first("tables: {t: {read: a.csv, steps: [{look_up: {table: u, on: k, get: [v]}}]}}\n");
    expect(join.message).toBe('there is no key "look_up" here; did you mean "join"?');
    expect(join.fix).toBe("join");
    expect(first("tables: {t: {read: a.csv, steps: [{where: v > 1}]}}\n").fix).toBe("keep");
    expect(tradeKey("where", ["draw", "from"])).toBeUndefined();
    expect(tradeKey("Order_By", ["sort"])).toBe("sort");
    expect(tradeKey("limit", ["top", "x"])).toBe("top");
    expect(tradeKey("limit", ["first"])).toBe("first");
  });
  test("several mistakes are all told, each at its own place", () => {
    const { findings } = readSheet(`${HEAD}charts: {a: {from: t, draw: barz, colour: k}, b: {drw: line}}\nstyl: {}\n`);
    expect(findings.map(({ code }) => code).sort()).toEqual([
      "key-missing",
      "unknown-key",
      "unknown-key",
      "unknown-key",
      "wrong-value",
    ]);
  });
  test("hostile names are names like any other", () => {
    const text = `${HEAD}charts: {__proto__: {from: t, draw: bars}, constructor: {from: t, draw: bars}}\n`;
    const sheet = readSheet(text);
    expect(sheet.findings.map(({ code }) => code)).toEqual(["bad-name"]);
    expect([...sheet.charts.keys()]).toEqual(["constructor"]);
    expect(({} as Record<string, unknown>).from).toBeUndefined();
  });
});
