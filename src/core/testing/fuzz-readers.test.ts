import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { parseFormula } from "../formula/parse";
import { compileText } from "./compile-text";
import { accidents, damagedBytes, readAs, soundProblem } from "./readers";

/** Real files, one of every kind, for damaging them. */
const REAL_FILES = [
  "quay-calls/berths.csv",
  "throughput/throughput.csv",
  "survey/survey.gpx",
  "quay-calls/coast.geojson",
  "germination/trials.xlsx",
];

/** Bytes of a real file, short enough that reading it many times is quick. */
function realBytes(path: string): Uint8Array {
  const bytes = new Uint8Array(readFileSync(`examples/${path}`));
  return path.endsWith(".xlsx") ? bytes : bytes.slice(0, 6000);
}

const ENDINGS = ["csv", "tsv", "json", "ndjson", "geojson", "gpx", "xlsx", "parquet"] as const;

/** Far beyond what any of these small files may take; what hangs, hangs for longer. */
const HANGS = 1000;

describe("no reader throws, hangs or is silent", () => {
  test.each(ENDINGS)("random bytes as .%s", async (ending) => {
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 300 }), async (bytes) => {
        const { result, milliseconds } = await readAs(`x.${ending}`, bytes);
        expect(soundProblem(result)).toBeUndefined();
        expect(milliseconds).toBeLessThan(HANGS);
      }),
      { numRuns: 80 },
    );
  });
  test.each(REAL_FILES)("%s with accidents", async (path) => {
    const real = realBytes(path);
    expect(soundProblem((await readAs(path, real)).result)).toBeUndefined();
    await fc.assert(
      fc.asyncProperty(accidents, async (hits) => {
        const { result, milliseconds } = await readAs(path, damagedBytes(real, hits));
        expect(soundProblem(result)).toBeUndefined();
        expect(milliseconds).toBeLessThan(HANGS);
      }),
      { numRuns: path.endsWith(".xlsx") ? 25 : 80 },
    );
  });
  test("nested deeper than anything meant: brackets, elements, quotes", async () => {
    for (const [name, text] of [
      ["x.json", "[".repeat(50_000)],
      ["x.json", `${'{"a":'.repeat(5000)}1${"}".repeat(5000)}`],
      ["x.gpx", `<gpx>${"<trk>".repeat(20_000)}`],
      ["x.csv", `"${"a,".repeat(30_000)}`],
      [
        "x.geojson",
        `{"type":"FeatureCollection","features":[${'{"type":"Feature","geometry":{"type":"Polygon","coordinates":[[['.repeat(500)}`,
      ],
    ] as const) {
      const { result, milliseconds } = await readAs(name, new TextEncoder().encode(text));
      expect(soundProblem(result)).toBeUndefined();
      expect(milliseconds).toBeLessThan(HANGS);
    }
  });
  test("an archive that swells when it is unpacked is refused", async () => {
    const { zipSync } = await import("fflate");
    const sheet = new Uint8Array(30_000_000).fill(32);
    const { result } = await readAs(
      "x.xlsx",
      zipSync({ "xl/worksheets/sheet1.xml": [sheet, { level: 9 }], "xl/workbook.xml": sheet }),
    );
    expect(result.findings[0]?.severity).toBe("error");
  });
});

describe("texts of authors", () => {
  const scrap = fc.constantFrom(
    "a",
    "tonnes",
    "sum(",
    "(",
    ")",
    "[",
    "]",
    ",",
    '"',
    "`",
    "$n",
    "1.5",
    "1e",
    " ",
    " and ",
    "not ",
    " between ",
    " in ",
    "if(",
    "previous(",
    "of all",
    "-",
    "^",
    "<=",
    "as x",
    "missing",
    "é",
    "\u0000",
    "\\",
  );
  test("a formula is read or has a problem with a place in it", () => {
    fc.assert(
      fc.property(fc.array(scrap, { maxLength: 14 }), (scraps) => {
        const text = scraps.join("");
        const parsed = parseFormula(text);
        if (parsed.ok) return;
        expect(parsed.problem.message.length).toBeGreaterThan(5);
        expect(parsed.problem.start).toBeGreaterThanOrEqual(0);
        expect(parsed.problem.start).toBeLessThanOrEqual(text.length);
      }),
      { numRuns: 600 },
    );
  });
  const step = fc.oneof(
    fc
      .tuple(
        fc.constantFrom(
          "keep",
          "sort",
          "stack",
          "words",
          "add",
          "join",
          "unpivot",
          "pivot",
          "fill",
          "smooth",
          "sample",
          "first",
          "only",
          "fill_forward",
          "density",
          "group",
        ),
        fc.constantFrom(
          "a",
          "[a]",
          "{a: b}",
          "{columns: [a], name: n, value: v}",
          "{by: a, name: b, value: count()}",
          "{table: t, on: a, get: [b]}",
          "{of: a}",
          "{x: a, y: b}",
          "{rows: 3}",
          "3",
          "[]",
          "{}",
          "~",
          '""',
          "{a: a + 1}",
          "{by: [a], get: {n: count()}}",
          "{all_but: [a]}",
        ),
      )
      .map(([key, value]) => `      - ${key}: ${value}`),
    fc.string({ maxLength: 30 }).map((text) => `      - keep: ${text.replaceAll("\n", " ")}`),
  );
  test("any steps are run or found wrong at their place", () => {
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 4 }), (steps) => {
        const text = `still: 1\nreport: T\ntables:\n  t:\n    rows: |\n      a,b\n      1,x\n      ,y\n      2,\n    steps:\n${steps.join("\n")}\ncharts:\n  shown: {draw: table, from: t}\n`;
        const { findings, ok, stages } = compileText(text);
        for (const table of stages.get("t")?.tables ?? [])
          for (const column of table.columns.values())
            expect(column.kind === "text" ? column.codes.length : column.values.length).toBe(table.rowCount);
        for (const { severity, span } of findings)
          if (severity === "error" && span) expect(span.end).toBeLessThanOrEqual(text.length);
        if (!ok) expect(findings.some(({ severity, span }) => severity === "error" && span !== undefined)).toBe(true);
      }),
      { numRuns: 300 },
    );
  });
});
