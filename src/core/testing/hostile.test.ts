import fc from "fast-check";
import { parquetWriteBuffer } from "hyparquet-writer";
import { describe, expect, test } from "vitest";
import writeWorkbook from "write-excel-file/node";
import { prepareFiles } from "../compile/prepare";
import { buildDashboard } from "../dashboard/build";
import { distanceKilometres } from "../formula/functions/geography";
import { parseFormula } from "../formula/parse";
import { printFormula } from "../formula/print";
import { readGpx } from "../read/gpx";
import { readJson } from "../read/json";
import { valueAt } from "../table/column";
import type { Table } from "../table/table";
import { HOSTILE_REPORTS, ORDINARY_REPORT } from "./hostile";
import { readAs, soundProblem } from "./readers";
import { workbook } from "./workbook";

/** Builds a report as a terminal or a server does. */
async function build(sheet: string, files: Record<string, Uint8Array | string>) {
  const bytes = new Map(
    Object.entries(files).map(([path, content]) => [
      path,
      typeof content === "string" ? new TextEncoder().encode(content) : content,
    ]),
  );
  const input = {
    text: sheet,
    fileName: "x.still.yaml",
    readFile: (path: string) => bytes.get(path),
    listFiles: () => [...bytes.keys()],
  };
  await prepareFiles(input);
  return buildDashboard(input, { viewer: () => "0" });
}

const column = (table: Table, name: string) =>
  Array.from({ length: table.rowCount }, (_, row) =>
    valueAt(table.columns.get(name) as Parameters<typeof valueAt>[0], row),
  );

describe("reports that ask for far more than they look like", () => {
  test.each(HOSTILE_REPORTS)("$name", async ({ sheet, files, codes }) => {
    const { findings, html } = await build(sheet, files);
    const errors = findings.filter(({ severity }) => severity === "error");
    if (codes.length === 0) expect([errors, html !== undefined]).toEqual([[], true]);
    else expect(codes).toContain(errors[0]?.code);
    for (const { message } of findings) {
      expect(message.length).toBeLessThan(2000);
      expect(message).not.toMatch(/call stack|Cannot read|Invalid (?:array|string)|undefined|NaN/);
    }
    expect(findings.length).toBeLessThan(30);
  });
  test("and an ordinary one after them", async () => {
    expect((await build(ORDINARY_REPORT.sheet, ORDINARY_REPORT.files)).html).toContain("<svg");
  });
});

describe("formulas of any length and depth", () => {
  const deep = fc.record({
    kind: fc.constantFrom("signs", "powers", "sums", "nots", "brackets", "calls", "lists"),
    length: fc.integer({ min: 1, max: 3000 }),
  });
  const written = ({ kind, length }: { kind: string; length: number }): string => {
    if (kind === "signs") return `${"-".repeat(length)}a`;
    if (kind === "powers") return Array.from({ length }, (_, at) => (at % 3 ? "a" : "-a")).join(" ^ ");
    if (kind === "sums") return Array.from({ length }, (_, at) => `a${at % 7}`).join(" + ");
    if (kind === "nots") return `${"not ".repeat(length)}p`;
    if (kind === "brackets") return `${"(".repeat(length)}a${")".repeat(length)}`;
    return kind === "calls"
      ? `${"abs(".repeat(length)}a${")".repeat(length)}`
      : `a in ${"[".repeat(length)}1${"]".repeat(length)}`;
  };
  test("are read, and written the same, or have a problem in words", () => {
    fc.assert(
      fc.property(deep, (one) => {
        const parsed = parseFormula(written(one));
        if (parsed.ok) {
          const again = parseFormula(printFormula(parsed.value.formula));
          expect(again.ok && printFormula(again.value.formula)).toBe(printFormula(parsed.value.formula));
        } else expect(parsed.problem.code).toMatch(/^too-(?:deep|long)$/);
      }),
      { numRuns: 60 },
    );
  });
});

describe("workbooks of other makers", () => {
  const cell = fc.oneof(
    fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e12, max: 1e12 }).map((value) => value + 0),
    fc.integer({ min: -1000, max: 1000 }),
  );
  const rows = fc.array(
    fc.record({
      n: cell,
      open: fc.boolean(),
      day: fc.integer({ min: -20_000, max: 40_000 }),
      word: fc
        .stringMatching(/^[a-zäöü&<>"'é 0-9]{1,12}$/)
        .filter((text) => /[a-z]/.test(text) && text.trim() === text),
    }),
    { minLength: 1, maxLength: 12 },
  );
  test("are read as they were written", async () => {
    await fc.assert(
      fc.asyncProperty(rows, async (list) => {
        const heads = ["n", "open", "day", "word"].map((value) => ({ value, type: String }));
        const cells = list.map(({ n, open, day, word }) => [
          { value: n, type: Number },
          { value: open, type: Boolean },
          { value: new Date(day * 86_400_000), type: Date, format: "yyyy-mm-dd" },
          { value: word, type: String },
        ]);
        const bytes = new Uint8Array(await (await writeWorkbook([heads, ...cells] as never)).toBuffer());
        const { result } = await readAs("x.xlsx", bytes);
        expect(column(result.table, "n")).toEqual(list.map(({ n }) => n));
        expect(column(result.table, "day")).toEqual(list.map(({ day }) => day * 86_400));
        expect(column(result.table, "open")).toEqual(list.map(({ open }) => open));
      }),
      { numRuns: 25 },
    );
  });
  const reference = fc.oneof(
    fc.constant(""),
    fc.constantFrom('r="A1"', 'r="ZZZ9"', 'r="XFD1048576"', 'r="1"', 'r=""', 'r="a1"', "r='B2'"),
  );
  const odd = fc.record({
    place: reference,
    type: fc.constantFrom("", 't="s"', 't="b"', 't="e"', 't="str"', 't="inlineStr"', 't="d"', 't="zz"'),
    style: fc.constantFrom("", 's="1"', 's="2"', 's="99"', 's="-1"', 's="x"'),
    value: fc.constantFrom(
      "",
      "<v>1</v>",
      "<v/>",
      "<v>1e400</v>",
      "<v>-1</v>",
      "<v>x &amp; y</v>",
      "<f>A1</f>",
      "<is><t>in</t></is>",
      "<v>999999999999</v>",
      "<v>1",
      "</c><c>",
    ),
  });
  test("of no maker at all are a table or a finding", async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.array(odd, { maxLength: 4 }), { maxLength: 6 }), async (list) => {
        const cells = list.map((row) =>
          row.map(({ place, type, style, value }) => `<c ${place} ${type} ${style}>${value}</c>`),
        );
        const { result, milliseconds } = await readAs("x.xlsx", workbook({ A: cells }, { strings: ["<t>one</t>"] }));
        expect(soundProblem(result)).toBeUndefined();
        expect(milliseconds).toBeLessThan(1000);
      }),
      { numRuns: 150 },
    );
  });
});

describe("Parquet of any types", () => {
  const types = [
    {
      leaf: { type: "INT64", converted_type: "DECIMAL", scale: 4, precision: 18 },
      value: fc.integer({ min: -999_999_999_999, max: 999_999_999_999 }).map((whole) => whole / 1e4),
      read: (value: unknown) => value,
    },
    {
      leaf: { type: "INT64", logical_type: { type: "TIMESTAMP", isAdjustedToUTC: true, unit: "MICROS" } },
      value: fc.bigInt({ min: -9n * 10n ** 15n, max: 9n * 10n ** 15n }),
      read: (value: unknown) => Math.floor(Number(value) / 1000) / 1000,
    },
    {
      leaf: { type: "BYTE_ARRAY", converted_type: "UTF8" },
      value: fc.string({ unit: "grapheme", maxLength: 8 }),
      read: (value: unknown) => value,
    },
    {
      leaf: { type: "DOUBLE" },
      value: fc.double({ noNaN: true, noDefaultInfinity: true }).map((value) => value + 0),
      read: (value: unknown) => value,
    },
    { leaf: { type: "BOOLEAN" }, value: fc.boolean(), read: (value: unknown) => value },
    {
      leaf: { type: "INT32", converted_type: "DATE" },
      value: fc.integer({ min: -100_000, max: 100_000 }).map((day) => new Date(day * 86_400_000)),
      read: (value: unknown) => (value as Date).getTime() / 1000,
    },
  ];
  test("gives back what was written into it", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc
          .integer({ min: 1, max: 12 })
          .chain((rows) =>
            fc.tuple(
              ...types.map(({ value }) =>
                fc.array(fc.option(value as fc.Arbitrary<unknown>, { freq: 5 }), { minLength: rows, maxLength: rows }),
              ),
            ),
          ),
        async (columns) => {
          const schema = [
            { name: "root", num_children: types.length },
            ...types.map(({ leaf }, at) => ({ name: `c${at}`, repetition_type: "OPTIONAL", ...leaf })),
          ];
          const bytes = new Uint8Array(
            parquetWriteBuffer({ schema, columnData: columns.map((data, at) => ({ name: `c${at}`, data })) } as never),
          );
          const { result } = await readAs("x.parquet", bytes);
          types.forEach(({ read }, at) => {
            expect(column(result.table, `c${at}`)).toEqual(
              (columns[at] as unknown[]).map((value) => (value === null ? null : read(value))),
            );
          });
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe("tracks and numbers", () => {
  const point = fc.record({
    lat: fc.integer({ min: -8900, max: 8900 }).map((value) => value / 100),
    lon: fc.integer({ min: -17900, max: 17900 }).map((value) => value / 100),
  });
  const track = fc.record({
    name: fc.constantFrom("Loop", "Ferry", ""),
    segments: fc.array(fc.array(point, { maxLength: 4 }), { maxLength: 3 }),
  });
  test("the way along a track is that of its segments, whatever stands before it", () => {
    fc.assert(
      fc.property(fc.array(track, { minLength: 1, maxLength: 4 }), (tracks) => {
        const written = tracks.map(
          ({ name, segments }) =>
            `<trk>${name ? `<name>${name}</name>` : ""}${segments.map((points) => `<trkseg>${points.map(({ lat, lon }) => `<trkpt lat="${lat}" lon="${lon}"/>`).join("")}</trkseg>`).join("")}</trk>`,
        );
        const { table, findings } = readGpx("x.gpx", `<gpx>${written.join("")}</gpx>`);
        const expected = tracks.flatMap(({ segments }) => {
          let along = 0;
          return segments.flatMap((points) =>
            points.map((here, at) =>
              at
                ? (along += distanceKilometres(points[at - 1]?.lat ?? 0, points[at - 1]?.lon ?? 0, here.lat, here.lon))
                : along,
            ),
          );
        });
        if (expected.length === 0) expect(findings[0]?.code).toBe("empty-file");
        else
          for (const [row, value] of column(table, "distance_km").entries())
            expect(value).toBeCloseTo(expected[row] as number, 8);
      }),
    );
  });
  test("no two whole numbers of JSON become one", () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.bigInt({ min: -(10n ** 24n), max: 10n ** 24n }), { minLength: 1, maxLength: 10 }),
        (ids) => {
          const { table } = readJson("x.json", `[${ids.map((id) => `{"id":${id}}`).join(",")}]`);
          expect(column(table, "id").map(String)).toEqual(
            table.columns.get("id")?.kind === "text" ? ids.map(String) : ids.map((id) => String(Number(id))),
          );
          expect(new Set(column(table, "id")).size).toBe(ids.length);
        },
      ),
    );
  });
});
