import fc from "fast-check";
import { inflateSync } from "fflate";
import { describe, expect, test } from "vitest";
import { fromBase64, toBase64 } from "../table/base64";
import { type Column, type NumericKind, textColumn } from "../table/column";
import { makeTable } from "../table/table";
import { sheetOver } from "../testing/compile-text";
import { blockText, buildDashboard } from "./build";
import { packTable } from "./pack";
import { unpackTable } from "./unpack";

const VIEWER = 'console.log("viewer")';

function built(text: string, files: Record<string, string> = {}, draft = false) {
  const bytes = new Map(Object.entries(files).map(([name, content]) => [name, new TextEncoder().encode(content)]));
  return buildDashboard(
    { text, fileName: "t.still.yaml", readFile: (path) => bytes.get(path) },
    { viewer: () => VIEWER, draft },
  );
}

describe("packing and unpacking is the identity", () => {
  const numbers = fc.oneof(
    fc.array(fc.oneof(fc.integer(), fc.constant(Number.NaN))),
    fc.array(fc.integer({ min: -1e9, max: 1e9 }).map((value) => value / 100)),
    fc.array(fc.double()),
    fc.array(fc.float()),
    fc.array(fc.integer({ min: 0, max: 3 })),
    fc
      .integer({ min: 0, max: 1e10 })
      .chain((start) => fc.array(fc.nat(100)).map((steps) => steps.map((step, i) => start + i * 60 + step))),
    fc.array(fc.constantFrom(0, -0, 1, Number.NaN, 2 ** 53, -(2 ** 53), 1e300, Number.MIN_VALUE)),
  );
  const back = (column: Column) => {
    const table = makeTable(column.kind === "text" ? column.codes.length : column.values.length, [["c", column]]);
    const packed = packTable("t", table);
    const sent = JSON.parse(JSON.stringify(packed.table)) as typeof packed.table;
    return unpackTable(
      sent,
      packed.blocks.map((block) => inflateSync(block)),
    ).columns.get("c");
  };
  test("of numbers, to the last bit", () => {
    fc.assert(
      fc.property(numbers, fc.constantFrom<NumericKind>("number", "datetime", "boolean"), (list, kind) => {
        const values = Float64Array.from(list);
        const column = back({ kind, values });
        expect(column?.kind).toBe(kind);
        const found = column && column.kind !== "text" ? column.values : new Float64Array(0);
        expect([...found].every((value, row) => Object.is(value, values[row]))).toBe(true);
        expect(found.length).toBe(values.length);
      }),
      { numRuns: 500 },
    );
  });
  test("of texts, with only the dictionary that is used", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.option(
            fc.string({ unit: "binary", maxLength: 8 }).map((text) => text.toWellFormed()),
            { nil: null },
          ),
        ),
        (texts) => {
          const column = back(textColumn(texts, texts.length));
          if (column?.kind !== "text") throw new Error("not a text");
          expect([...column.codes].map((code) => (code < 0 ? null : column.dictionary[code]))).toEqual(texts);
          expect(new Set(column.dictionary).size).toBe(new Set(texts.filter((text) => text !== null)).size);
        },
      ),
    );
  });
  test("of base64, as everybody else writes it", () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 100 }), (bytes) => {
        expect(toBase64(bytes)).toBe(Buffer.from(bytes).toString("base64"));
        expect([...fromBase64(toBase64(bytes))]).toEqual([...bytes]);
      }),
    );
  });
});

describe("the file", () => {
  const hostile = [
    "</script><script>alert(1)</script>",
    '<img src=x onerror="alert(1)">',
    `"quotes" 'and' more`,
    "line\u2028separator\u2029",
    "\u202eright to left",
    "&lt;",
    "<!--",
    "]]>",
  ];
  const csv = `name,n\n${hostile.map((text, i) => `"${text.replaceAll('"', '""')}",${i}`).join("\n")}\n`;
  const sheet = `still: 1
report: "</title><script>alert(2)</script>"
about: "**bold** <b>x</b> [no](javascript:alert(3)) ![p](http://example.invalid/x.png)"
tables: {t: {read: a.csv}}
charts:
  names: {from: t, draw: bars, y: name, x: sum(n), color: name, title: "<h1>t</h1>"}
  list: {from: t, draw: table, columns: [name, n]}
  total: {from: t, draw: figure, value: sum(n)}
links: [click on names -> filter all]
`;
  test("holds hostile cells and titles as text only", () => {
    const { html = "", findings } = built(sheet, { "a.csv": csv });
    expect(findings.filter(({ severity }) => severity === "error")).toEqual([]);
    const held = (text: string) => html.includes(text);
    for (const never of ["<img", "<script>alert", "<h1>t</h1>", 'href="javascript', "<b>x</b>"])
      expect(held(never), never).toBe(false);
    expect(held("<strong>bold</strong>")).toBe(true);
    expect(html.match(/<script/g)?.length).toBe(html.match(/<\/script>/g)?.length);
    expect(html.split("<script>").length).toBe(2);
  });
  test("has no style attribute, no handler, no address, and a policy before all else", () => {
    const { html = "" } = built(sheet, { "a.csv": csv });
    const markup = html.replace(/<style>.*?<\/style>/s, "").replace(/<script[^>]*>.*?<\/script>/gs, "");
    for (const never of [/\sstyle=/, /<[^>"]+\son[a-z]+=/, /\ssrc=["h]/, /url\(/])
      expect(never.test(markup), String(never)).toBe(false);
    expect(html.indexOf('http-equiv="Content-Security-Policy"')).toBeLessThan(html.indexOf("<title>"));
    const policy = /content="([^"]+)"/.exec(html.slice(html.indexOf("Content-Security-Policy")))?.[1] ?? "";
    expect(policy).toContain("default-src 'none'");
    expect(policy).toContain("base-uri 'none'; form-action 'none'");
    expect(policy).not.toContain("unsafe");
  });
  test("hashes exactly the script and the style that it holds", async () => {
    const { html = "" } = built(sheet, { "a.csv": csv });
    for (const [directive, pattern] of [
      ["script-src", /<script>([\s\S]*?)<\/script>/],
      ["style-src", /<style>([\s\S]*?)<\/style>/],
    ] as const) {
      const content = pattern.exec(html)?.[1] ?? "";
      const digest = Buffer.from(await crypto.subtle.digest("SHA-256", new TextEncoder().encode(content))).toString(
        "base64",
      );
      expect(html.includes(`${directive} 'sha256-${digest}'`), directive).toBe(true);
    }
  });
  test("is the same twice", () => {
    expect(built(sheet, { "a.csv": csv }).html === built(sheet, { "a.csv": csv }).html).toBe(true);
  });
  test("leaves the sheet out when asked to, and else gives it back", () => {
    const { html = "" } = built(sheet, { "a.csv": csv });
    const kept = /<script type="application\/json" id="sheet">(.*?)<\/script>/s.exec(html)?.[1] ?? "null";
    expect(JSON.parse(kept)).toBe(sheet);
    expect(built(`${sheet}style: {sheet: leave_out}\n`, { "a.csv": csv }).html?.includes('id="sheet"')).toBe(false);
  });
  test("packs the columns that something needs and no other", () => {
    const text = sheetOver(
      "used,secret,also,key\n1,s,2,k",
      "    steps:\n      - add: {sum: used + also}\ncharts:\n  a: {from: calls, draw: points, x: sum, y: sum}\n",
    );
    expect(built(text).packing.map(({ column }) => column)).toEqual(["sum", "its text"]);
    const filtered = sheetOver(
      "used,secret,also,key\n1,canary,2,k",
      '    steps:\n      - keep: secret != ""\ncharts:\n  a: {from: calls, draw: bars, x: key, y: sum(used)}\n',
    );
    const result = built(filtered);
    expect(result.packing.map(({ column, neededBy }) => [column, neededBy])).toEqual([
      ["key", ["a"]],
      ["count()", ["a"]],
      ["sum(used)", ["a"]],
      ["its text", ["opening the file again"]],
    ]);
    expect(result.html).not.toContain("canary");
  });
  test("of a sheet with errors is not written, but its sound part can be proofed", () => {
    const text = sheetOver(
      "v\n1\n2",
      "charts:\n  good: {from: calls, draw: bars, x: v, y: count()}\n  bad: {from: calls, draw: bars, x: w, y: count()}\npages:\n  - {page: P, grid: good bad}\n",
    );
    expect(built(text).html).toBeUndefined();
    const { html = "" } = built(text, {}, true);
    expect(html.includes('data-piece="good"')).toBe(true);
    expect(/data-piece="bad".*calls has no column "w"/s.test(html)).toBe(true);
  });
  test("text in data blocks stays JSON and cannot end them", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme" }), (text) => {
        const written = blockText(JSON.stringify(`${text}</script>\u2028`));
        expect(written).not.toContain("<");
        expect(JSON.parse(written)).toBe(`${text}</script>\u2028`);
      }),
    );
  });
});
