import { strToU8, unzipSync, zipSync } from "fflate";
import { describe, expect, test } from "vitest";
import { valueAt } from "../table/column";
import { numberCell as number, textCell as text, workbook } from "../testing/workbook";
import { decodeFile } from "./decode";
import { meaningOf } from "./number-formats";
import type { ReadOptions } from "./texts";
import { readXlsx } from "./xlsx";

async function read(bytes: Uint8Array, options: ReadOptions = {}) {
  await decodeFile("x.xlsx", bytes);
  const { table, report, findings } = readXlsx("x.xlsx", bytes, options);
  const columns = [...table.columns.values()];
  return {
    table,
    notes: report.notes,
    kinds: report.columns.map(({ kind }) => kind),
    findings,
    rows: Array.from({ length: table.rowCount }, (_, row) => columns.map((column) => valueAt(column, row))),
  };
}

const at = (...parts: [number, number, number, number?, number?, number?]) =>
  Date.UTC(parts[0], parts[1] - 1, ...(parts.slice(2) as [number])) / 1000;

describe("days and times in cells", () => {
  test("are kept to the millisecond, with their 00:00", async () => {
    const { rows, kinds } = await read(
      workbook({
        A: [
          [text("seen")],
          [number(45292 + 37800.25 / 86400, 2)],
          [number(45292, 2)],
          [number(45292 + 0.001 / 86400, 2)],
        ],
      }),
    );
    expect(kinds).toEqual(["datetime"]);
    expect(rows.map(([seen]) => seen)).toEqual([at(2024, 1, 1, 10, 30) + 0.25, at(2024, 1, 1), at(2024, 1, 1) + 0.001]);
    const midnights = await read(
      workbook({
        A: [
          [text("seen"), text("day")],
          [number(45292, 2), number(45292, 1)],
          [number(45293, 2), number(45293, 1)],
        ],
      }),
    );
    expect(midnights.kinds).toEqual(["datetime", "date"]);
  });
  test("lengths of time are that, over a day too", async () => {
    const cells = (value: number) => [number(value, 3), number(value, 4), number(value, 5)];
    const { rows, kinds } = await read(
      workbook(
        { A: [[text("a"), text("b"), text("c")], cells(0.5), cells(1.25), cells(90.5 / 86400)] },
        { formats: ["[h]:mm:ss", "h:mm", "mm:ss.0"] },
      ),
    );
    expect(kinds).toEqual(["duration", "duration", "duration"]);
    expect(rows).toEqual([
      [43200, 43200, 43200],
      [108000, 108000, 108000],
      [90.5, 90.5, 90.5],
    ]);
  });
  test("of the first weeks of 1900 stand where the sheet shows them", async () => {
    const { rows } = await read(
      workbook({ A: [[text("day")], ...[1, 31, 59, 61, 62].map((serial) => [number(serial, 1)])] }),
    );
    expect(rows.map(([day]) => new Date((day as number) * 1000).toISOString().slice(0, 10))).toEqual([
      "1900-01-01",
      "1900-01-31",
      "1900-02-28",
      "1900-03-01",
      "1900-03-02",
    ]);
  });
  test("of workbooks that count from 1904", async () => {
    expect((await read(workbook({ A: [[text("day")], [number(43830, 1)]] }, { from1904: true }))).rows[0]?.[0]).toBe(
      at(2024, 1, 1),
    );
  });
  test("a code in the style says what a number means", () => {
    const meanings = [
      "General",
      "0.00",
      '#,##0 "days"',
      "[Red]0.0;-0.0",
      "0.00E+00",
      "yyyy\\-mm\\-dd",
      "[$-407]d. mmmm yyyy",
      "dd/mm/yy hh:mm",
      "h:mm AM/PM",
      "[mm]:ss",
      "mmm",
      '0 "h"',
      "_-* #,##0_-",
    ].map((code) => meaningOf(164, code));
    expect(meanings).toEqual([
      "number",
      "number",
      "number",
      "number",
      "number",
      "date",
      "date",
      "datetime",
      "time",
      "time",
      "date",
      "number",
      "number",
    ]);
    expect([0, 9, 14, 20, 22, 46, 49].map((id) => meaningOf(id, undefined))).toEqual([
      "number",
      "number",
      "date",
      "time",
      "datetime",
      "time",
      "number",
    ]);
  });
});

describe("cells", () => {
  test("that do not say where they stand follow one another", async () => {
    const bare = (value: string) => `<c><v>${value}</v></c>`;
    const { rows } = await read(
      workbook({
        A: [
          [text("a"), text("b"), text("c")],
          [bare("1"), '<c r="C2"><v>3</v></c>'],
          [bare("4"), bare("5"), "<c/>"],
        ],
      }),
    );
    expect(rows).toEqual([
      [1, null, 3],
      [4, 5, null],
    ]);
  });
  test("with errors and formulas without a result are missing, and counted", async () => {
    const { rows, notes } = await read(
      workbook({
        A: [
          [text("a"), text("b")],
          ['<c @ t="e"><f>1/0</f><v>#DIV/0!</v></c>', "<c @><f>A1*2</f></c>"],
          [number(1), "<c @><f>A3*2</f><v>2</v></c>"],
        ],
      }),
    );
    expect(rows).toEqual([[1, 2]]);
    expect(notes).toContain("1 cell shows an error (#DIV/0!) and is missing");
    expect(notes.join("; ")).toContain("1 formula has no result in the file and is missing");
  });
  test("of shared texts, with runs, how they are pronounced, and signs that XML cannot hold", async () => {
    const strings = [
      "<t>name</t>",
      '<r><t>Sea </t></r><r><rPr><b/></rPr><t xml:space="preserve"> kale</t></r><rPh sb="0"><t>x</t></rPh>',
      "<t>a &lt; b &amp; c</t>",
      "<t>one_x000A_two</t>",
    ];
    const shared = (place: number) => `<c @ t="s"><v>${place}</v></c>`;
    const { rows } = await read(workbook({ A: [[shared(0)], [shared(1)], [shared(2)], [shared(3)]] }, { strings }));
    expect(rows).toEqual([["Sea  kale"], ["a < b & c"], ["one\ntwo"]]);
  });
  test("true and false, days in ISO form, texts of formulas", async () => {
    const { rows, kinds } = await read(
      workbook({
        A: [
          [text("open"), text("day"), text("said")],
          [
            '<c @ t="b"><v>1</v></c>',
            '<c @ t="d"><v>2024-01-01T00:00:00</v></c>',
            '<c @ t="str"><f>A1</f><v>x &amp; y</v></c>',
          ],
          ['<c @ t="b"><v>0</v></c>', '<c @ t="d"><v>2024-01-02T06:00:00</v></c>', '<c @ t="str"><v></v></c>'],
        ],
      }),
    );
    expect(kinds).toEqual(["boolean", "datetime", "text"]);
    expect(rows).toEqual([
      [true, at(2024, 1, 1), "x & y"],
      [false, at(2024, 1, 2, 6), null],
    ]);
  });
  test("whose elements have a prefix", async () => {
    const files = unzipSync(workbook({ A: [[text("a")], [number(7)]] }));
    const sheet = new TextDecoder()
      .decode(files["xl/worksheets/sheet1.xml"])
      .replace(/<(\/?)(?=\w)/g, "<$1x:")
      .replace("xmlns=", "xmlns:x=");
    files["xl/worksheets/sheet1.xml"] = strToU8(sheet);
    expect((await read(zipSync(files))).rows).toEqual([[7]]);
  });
});

describe("sheets", () => {
  test("that are hidden are not taken first, but when they are asked for", async () => {
    const bytes = workbook(
      { Lists: [[text("code")], [text("x")]], Calls: [[text("ship")], [text("Tern")]] },
      { hidden: ["Lists"] },
    );
    expect((await read(bytes)).rows).toEqual([["Tern"]]);
    expect((await read(bytes, { sheet: "Lists" })).rows).toEqual([["x"]]);
  });
  test("with a cell in their last corner take the room of their cells", async () => {
    const { rows, table, notes } = await read(
      workbook({
        A: [[text("a")], [number(1)], ['<c r="XFD1048576"><v>5</v></c>'.replace("<c", '</row><row r="1048576"><c')]],
      }),
    );
    expect([...table.columns.keys()]).toEqual(["a", "column_16384"]);
    expect(rows).toEqual([
      [1, null],
      [null, 5],
    ]);
    expect(notes).toContain("1048573 empty rows were left out");
  });
  test("with one cell a row and a column of its own are refused in words before they take memory", async () => {
    const diagonal = Array.from({ length: 9000 }, (_, row) => [`<c r="${letters(row)}${row + 1}"><v>1</v></c>`]);
    const { findings } = await read(workbook({ A: diagonal }));
    expect(findings[0]).toMatchObject({
      code: "too-large",
      message: expect.stringContaining("cells hold something; that is more room than a table may take"),
    });
  });
  test("of very many rows are read whole", async () => {
    const rows = Array.from({ length: 150_000 }, (_, row) => [number(row), text(`lot ${row % 7}`)]);
    const { table, kinds } = await read(workbook({ A: [[text("n"), text("lot")], ...rows] }));
    expect(kinds).toEqual(["number", "text"]);
    expect(table.rowCount).toBe(150_000);
    expect(valueAt(table.columns.get("n") as Parameters<typeof valueAt>[0], 149_999)).toBe(149_999);
  });
});

function letters(place: number): string {
  return place < 26 ? String.fromCharCode(65 + place) : letters(Math.floor(place / 26) - 1) + letters(place % 26);
}
