import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { applyEdits } from "../finding/finding";
import { placeOf } from "../finding/place";
import { removeValue, renameKey, type SheetValue, setValue } from "./edit/edit";
import { parseLink } from "./link-sentence";
import { balanceOf, writeScalar } from "./quoting";
import { readSheet } from "./read-sheet";
import { type Path, readTree, type Tree } from "./tree";

const HEAD = "still: 1\nreport: R\n";
const CHART = "charts:\n  a:\n    from: t\n    draw: bars\n";

/** Findings of a sheet as `line:column code`, and the text with the first fix taken. */
function found(text: string) {
  const { findings } = readSheet(text);
  const first = findings[0];
  return {
    codes: findings.map(({ code, span }) => {
      const { line, column } = placeOf(text, span?.start ?? 0);
      return `${line}:${column} ${code}`;
    }),
    fixed: first?.fix ? applyEdits(text, first.fix.edits) : undefined,
    message: first?.message ?? "",
  };
}

describe("mistakes are named with their place and the nearest right name", () => {
  test("an unknown key", () => {
    const { codes, fixed, message } = found(`${HEAD}tabels: {}\n`);
    expect(codes).toEqual(["3:1 unknown-key"]);
    expect(message).toContain('did you mean "tables"');
    expect(fixed).toBe(`${HEAD}tables: {}\n`);
  });
  test("an unknown key deep inside, with the others unharmed", () => {
    const { codes, fixed } = found(`${HEAD}${CHART}    colour: cargo\n  b: {from: t, draw: line}\n`);
    expect(codes).toEqual(["7:5 unknown-key"]);
    expect(fixed).toContain("    color: cargo\n");
    expect(readSheet(`${HEAD}${CHART}    colour: cargo\n  b: {from: t, draw: line}\n`).charts.has("b")).toBe(true);
  });
  test("a word that is none of the few", () => {
    expect(found(`${HEAD}charts: {a: {from: t, draw: barz}}\n`)).toMatchObject({
      codes: ["3:29 wrong-value"],
      fixed: `${HEAD}charts: {a: {from: t, draw: bars}}\n`,
    });
  });
  test("wrong shapes and missing keys", () => {
    expect(found(`${HEAD}charts: {a: {draw: bars}}\n`).codes).toEqual(["3:10 key-missing"]);
    expect(found("still: 1\n").codes).toEqual(["1:1 key-missing"]);
    expect(found(`${HEAD}tables: [a]\n`).codes).toEqual(["3:9 wrong-shape"]);
    expect(found(`${HEAD}charts: {a: {from: t, draw: bars, axes: 3}}\n`).codes).toEqual(["3:41 wrong-shape"]);
    expect(found(`${HEAD}controls: {a: {set: 3, range: [1]}}\n`).codes).toEqual(["3:31 wrong-value"]);
  });
  test("names that are none", () => {
    expect(found(`${HEAD}charts: {By Berth: {from: t, draw: bars}}\n`)).toMatchObject({
      codes: ["3:10 bad-name"],
      fixed: `${HEAD}charts: {by_berth: {from: t, draw: bars}}\n`,
    });
    expect(found(`${HEAD}charts: {filter: {from: t, draw: bars}}\n`).codes).toEqual(["3:10 bad-name"]);
  });
  test("steps and sources say one thing each", () => {
    expect(found(`${HEAD}tables: {t: {read: a.csv, steps: [{keep: x, sort: y}]}}\n`).codes).toEqual(["3:35 step-keys"]);
    expect(found(`${HEAD}tables: {t: {read: a.csv, from: b}}\n`).codes).toEqual(["3:10 table-source"]);
  });
});

describe("texts that YAML cuts, swallows or refuses", () => {
  const keep = (value: string) => `${HEAD}tables:\n  t:\n    read: a.csv\n    steps:\n      - keep: ${value}\n`;
  test.each([
    ["a colon", keep('x = "a: b"'), "yaml"],
    ["a text in quotes first", keep('"a" = x'), "yaml"],
    ["a backtick first", keep("`odd name` > 1"), "yaml"],
    ["a percent sign first", keep("%x"), "yaml"],
    ["a greater sign first", keep("> 5"), "yaml"],
    ["a star first", keep("*x"), "yaml"],
    ["an and first", keep("&x y"), "yaml-extra"],
    ["an exclamation mark first", keep("!x y"), "yaml-extra"],
    ["a bracket first", keep("[a, b]"), "cut-text"],
    ["a comment that is none", keep("#x"), "swallowed-text"],
  ])("%s: an error whose fix is to quote it", (_, text, code) => {
    const { codes, fixed } = found(text);
    expect(codes[0]).toMatch(new RegExp(`^7:\\d+ ${code}`));
    expect(fixed).toBeDefined();
    const again = readTree(fixed as string);
    expect(again.findings).toEqual([]);
    const value = text.split("- keep: ")[1]?.trim();
    expect((again.tree as { tables: { t: { steps: { keep: string }[] } } }).tables.t.steps[0]?.keep).toBe(value);
  });
  test("one thing that YAML refuses is one finding, and two of them on lines of their own are two", () => {
    const list = `${HEAD}tables:\n  t:\n    read: a.csv\n    steps:\n      - add: {weekend: day in ["Sat", "Sun"]}\n      - first: 3\n`;
    const { codes, fixed } = found(list);
    expect(codes).toEqual(["7:31 yaml"]);
    expect(readTree(fixed as string).findings).toEqual([]);
    const two = keep('x = "a: b"').concat('      - keep: "a" = x\n');
    expect(found(two).codes).toHaveLength(2);
  });
  test("a key in backticks is written as it is", () => {
    const { fixed } = found(`${HEAD}tables: {t: {read: a.csv, columns: {\`Loan No\`: {label: Loan}}}}\n`);
    expect(fixed).toBe(`${HEAD}tables: {t: {read: a.csv, columns: {Loan No: {label: Loan}}}}\n`);
  });
  test("a call that YAML splits at its commas in braces", () => {
    const { codes, fixed } = found(`${HEAD}charts: {a: {from: t, draw: bars, x: if(a, b, c), y: count()}}\n`);
    expect(codes).toEqual(["3:38 split-text"]);
    expect(fixed).toBe(`${HEAD}charts: {a: {from: t, draw: bars, x: 'if(a, b, c)', y: count()}}\n`);
  });
  test("a call that YAML splits in a list", () => {
    const { codes, fixed } = found(
      `${HEAD}charts: {a: {from: t, draw: table, columns: [vessel, round(x, 1), berth]}}\n`,
    );
    expect(codes).toContain("3:54 split-text");
    expect(fixed).toContain("[vessel, 'round(x, 1)', berth]");
  });
  test("a link that YAML splits in a list, at whatever commas", () => {
    const links = (list: string) => found(`${HEAD}links: [${list}]\n`);
    const { codes, fixed } = links("click on a -> filter b, c, fade d, brush x on d -> filter e");
    expect(codes).toEqual(["3:9 split-text"]);
    expect(fixed).toContain("['click on a -> filter b, c, fade d', brush x on d -> filter e]");
    expect(links("click on a -> filter b, cross-filter t").codes).toEqual([]);
    expect(links("click on a -> filter b, {link: hover on a -> fade b}").codes).toEqual([]);
  });
  test("a comment after a balanced formula is just a comment", () => {
    expect(found(keep("x > 1 # large ones")).codes).toEqual([]);
  });
  test("duplicate keys", () => {
    expect(found(`${HEAD}report: S\n`).codes[0]).toMatch(/doubled-key$/);
  });
  test("the same tree as JSON is a sheet too", () => {
    const text = JSON.stringify({
      still: "1",
      report: "R",
      tables: { t: { read: "a.csv" } },
      charts: { a: { from: "t", draw: "bars", x: "bin(w, 3)" } },
    });
    expect(readSheet(text).findings).toEqual([]);
    expect(readSheet(text).charts.get("a")?.x).toBe("bin(w, 3)");
  });
  test("scalars are their source text, not YAML's reading of it", () => {
    const sheet = readSheet(`${HEAD}tables: {t: {rows: [{a: 1.0, b: 0x10, c: no, d: 2024-01-01, e: "x"}]}}\n`);
    expect(sheet.tables.get("t")?.rows).toEqual([{ a: "1.0", b: "0x10", c: "no", d: "2024-01-01", e: "x" }]);
  });
  test("nothing a person can type makes the reader throw", () => {
    fc.assert(
      fc.property(
        fc.string({ unit: fc.constantFrom(..."still: 1\n-{}[],#&*!|>'\"%@`ab ".split("")), maxLength: 60 }),
        (text) => {
          expect(Array.isArray(readSheet(text).findings)).toBe(true);
          expect(Array.isArray(readSheet(`${HEAD}${text}`).findings)).toBe(true);
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe("brackets and quotes", () => {
  test.each([
    ["a(b)", "balanced"],
    ["a(b", "open bracket"],
    ["a)", "extra close"],
    ['"a', "open quote"],
    ['"a(" + b', "balanced"],
  ])("%s is %s", (text, balance) => expect(balanceOf(text)).toBe(balance));
});

describe("links", () => {
  test("gesture, source, by, name, effects", () => {
    expect(
      parseLink("click on by_berth by berth, cargo as picked -> filter trend, landed, fade 0.2 waiting").sentence,
    ).toMatchObject({
      gesture: "click",
      source: { name: "by_berth" },
      by: [{ name: "berth" }, { name: "cargo" }],
      as: { name: "picked" },
      effects: [
        { effect: "filter", targets: [{ name: "trend" }, { name: "landed" }] },
        { effect: "fade", amount: 0.2, targets: [{ name: "waiting" }] },
      ],
    });
  });
  test("two-word gestures, and no space before the arrow", () => {
    expect(parseLink("brush xy on a->filter all").sentence).toMatchObject({ gesture: "brush xy" });
    expect(parseLink("hover on a -> crosshair b").sentence).toMatchObject({ gesture: "hover" });
    expect(parseLink("cross-filter calls").sentence).toMatchObject({ type: "cross-filter", table: { name: "calls" } });
  });
  test.each([
    ["clik on a -> filter b", "unknown-gesture", 0, "click"],
    ["brush z on a -> filter b", "unknown-gesture", 0, "brush x"],
    ["click a -> filter b", "bad-link", 6, undefined],
    ["click on a -> filtr b", "unknown-effect", 14, "filter"],
    ["click on a filter b", "bad-link", 11, undefined],
    ["click on a -> b", "unknown-effect", 14, "filter b"],
    ["click on a -> fade b and filter c", "bad-link", 21, ","],
    ["click on a ->", "bad-link", 13, undefined],
    ["click on a -> filter b by k", "bad-link", 23, undefined],
    ["click on a -> fade b 0.2", "bad-link", 21, undefined],
    ["cross-filter", "bad-link", 12, undefined],
  ])("%s", (text, code, start, replacement) => {
    expect(parseLink(text).problem).toMatchObject({ code, start, ...(replacement ? { replacement } : {}) });
  });
});

describe("edits by gesture", () => {
  const text = `# a report
still: 1   # version
report: R

tables:
  calls:
    read: calls.csv  # from the office
    steps:
      - keep: tonnes > 0
        why: open calls
      - unique: [id]
charts:
  a: {from: calls, draw: bars, x: berth}   # first
  b:
    from: calls
    draw: line
`;
  const edited = (edits: ReturnType<typeof setValue>, from = text) => {
    expect(edits).toBeDefined();
    return applyEdits(from, edits ?? []);
  };
  test("a value is exchanged in its place", () => {
    expect(edited(setValue(text, ["tables", "calls", "steps", 0, "keep"], 'cargo = "a: b"'))).toBe(
      text.replace("tonnes > 0", "'cargo = \"a: b\"'"),
    );
  });
  test("a key is added behind its neighbours", () => {
    expect(edited(setValue(text, ["charts", "b", "x"], "by_month(day)"))).toBe(
      text.replace("    draw: line\n", "    draw: line\n    x: by_month(day)\n"),
    );
    expect(edited(setValue(text, ["charts", "a", "y"], "round(x, 1)"))).toBe(
      text.replace("x: berth}", "x: berth, y: 'round(x, 1)'}"),
    );
  });
  test("a step is added below the last", () => {
    expect(edited(setValue(text, ["tables", "calls", "steps", 2], { keep: "x > 1" }))).toBe(
      text.replace("- unique: [id]\n", "- unique: [id]\n      - {keep: x > 1}\n"),
    );
  });
  test("a whole missing branch is made", () => {
    expect(edited(setValue(text, ["charts", "b", "legend", "press"], "fade"))).toBe(
      text.replace("    draw: line\n", "    draw: line\n    legend: {press: fade}\n"),
    );
  });
  test("a key, an item and a flow key are taken away with their lines", () => {
    expect(edited(removeValue(text, ["tables", "calls", "steps", 1]))).toBe(text.replace("      - unique: [id]\n", ""));
    expect(edited(removeValue(text, ["tables", "calls", "steps", 0, "why"]))).toBe(
      text.replace("        why: open calls\n", ""),
    );
    expect(edited(removeValue(text, ["charts", "a", "draw"]))).toBe(text.replace("draw: bars, ", ""));
    expect(edited(removeValue(text, ["charts", "a", "x"]))).toBe(text.replace(", x: berth", ""));
  });
  test("a key is renamed and nothing else", () => {
    expect(edited(renameKey(text, ["charts", "a"], "first_one"))).toBe(text.replace("  a: {", "  first_one: {"));
  });

  const scalar = fc.oneof(
    fc.string({ maxLength: 12 }),
    fc.constantFrom(
      "a: b",
      "# x",
      "- y",
      "[a, b]",
      "it's",
      'say "x"',
      "{",
      "null",
      "~",
      "true",
      " lead",
      "x #y",
      "two\nlines",
      "%",
      "\u2028",
      "größe",
    ),
  );
  const value: fc.Arbitrary<SheetValue> = fc.oneof(
    scalar,
    fc.array(scalar, { maxLength: 3 }),
    fc.dictionary(fc.constantFrom("p", "q", "r s"), scalar, { maxKeys: 3 }),
  );
  const paths: Path[] = [
    ["report"],
    ["tables", "calls", "read"],
    ["tables", "calls", "steps", 0, "keep"],
    ["tables", "calls", "steps", 1],
    ["tables", "calls", "steps", 2],
    ["charts", "a", "x"],
    ["charts", "a", "title"],
    ["charts", "b", "draw"],
    ["charts", "b", "title"],
    ["charts", "b"],
    ["style"],
    ["controls", "bins", "set"],
  ];
  const put = (tree: Tree, [head, ...rest]: Path, leaf: Tree): Tree => {
    if (head === undefined) return leaf;
    if (Array.isArray(tree)) {
      const list = [...tree];
      list[Number(head)] = put(list[Number(head)] ?? null, rest, leaf);
      return list;
    }
    const map = { ...((tree ?? {}) as { [key: string]: Tree }) };
    map[String(head)] = put(map[String(head)] ?? null, rest, leaf);
    return map;
  };
  test("keep every other byte: what is read back differs in that one place alone", () => {
    fc.assert(
      fc.property(fc.constantFrom(...paths), value, (path, leaf) => {
        const edits = setValue(text, path, leaf) ?? [];
        expect(edits).toHaveLength(1);
        const [{ start, end } = { start: 0, end: 0 }] = edits;
        const result = applyEdits(text, edits);
        expect(result.startsWith(text.slice(0, start))).toBe(true);
        expect(result.endsWith(text.slice(end))).toBe(true);
        const again = readTree(result);
        expect(again.findings.filter(({ code }) => code !== "split-text")).toEqual([]);
        expect(JSON.stringify(again.tree)).toBe(JSON.stringify(put(readTree(text).tree, path, leaf as Tree)));
      }),
      { numRuns: 400 },
    );
  });
  test("a scalar is written so that it is read back", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 20 }), fc.boolean(), (content, inFlow) => {
        const whole = inFlow ? `a: {b: ${writeScalar(content, true)}}` : `a: ${writeScalar(content, false)}`;
        const { tree } = readTree(whole);
        const back = inFlow ? (tree as { a: { b: Tree } }).a.b : (tree as { a: Tree }).a;
        expect(back ?? "").toBe(content);
      }),
    );
  });
});
