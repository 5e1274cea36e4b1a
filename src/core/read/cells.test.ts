import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { isoDate, isoDatetime } from "../table/calendar";
import { valueAt } from "../table/column";
import { readCsv, textOfBytes } from "./csv";
import { dayFirst, monthFirst, written } from "./dates";
import { inferColumn } from "./infer";
import { decimalOf, numberReader } from "./numbers";

/** A column of cells as it is read without a word from the sheet. */
function column(...cells: string[]) {
  const { column: found, report, info } = inferColumn("x", cells);
  return { kind: report.kind, values: cells.map((_, row) => valueAt(found, row)), note: report.note ?? "", info };
}

describe("numbers as people write them", () => {
  test.each([
    [".", "1,234,567.89", 1234567.89],
    [".", "1 234.5", 1234.5],
    [".", "1\u202f234.5", 1234.5],
    [".", "1'234.5", 1234.5],
    [".", "-5", -5],
    [".", "\u22125", -5],
    [".", "(1,200)", -1200],
    [".", "12 %", 0.12],
    [".", "12.3%", 0.123],
    [".", "€ 1,200.50", 1200.5],
    [".", "1200 EUR", 1200],
    [".", "-$5", -5],
    [".", "$-5", -5],
    [".", '"17"', 17],
    [".", "'17'", 17],
    [".", "+4", 4],
    [".", "1e3", 1000],
    [".", ".5", 0.5],
    [",", "1.234.567,89", 1234567.89],
    [",", "12,5", 12.5],
    [",", "0,001", 0.001],
    [",", "1 234,5", 1234.5],
    [",", "12,3 %", 0.123],
    [",", "12", 12],
    [",", "1.234", 1234],
    [",", "-1,5", -1.5],
  ] as const)("with %s: %s", (decimal, text, value) => {
    expect(numberReader(decimal)(text)).toBe(value);
  });
  test.each([
    [".", "1,23,4"],
    [".", "12,5"],
    [".", "1,2345"],
    [".", "twelve"],
    [".", "1-2"],
    [".", "5 kg"],
    [".", ""],
    [".", "1.2.3"],
    [".", "%"],
    [".", "$"],
    [",", "12.5"],
    [",", "1.2,3,4"],
    [".", "1e999"],
    [".", "Infinity"],
    [".", "NaN"],
    [".", "0x10"],
  ] as const)("with %s not: %s", (decimal, text) => {
    expect(numberReader(decimal)(text)).toBeNaN();
  });
  test("what is written with either mark is read back", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1_000_000_000, max: 1_000_000_000 }),
        fc.constantFrom(" ", ".", "'", "\u00a0"),
        (cents, group) => {
          const value = cents / 100;
          const [whole, part] = Math.abs(value).toFixed(2).split(".") as [string, string];
          const grouped = whole.replace(/\B(?=(?:\d{3})+$)/g, group);
          expect(numberReader(",")(`${cents < 0 ? "-" : ""}${grouped},${part}`) + 0).toBe(value + 0);
          expect(
            numberReader(".")(`${cents < 0 ? "-" : ""}${whole.replace(/\B(?=(?:\d{3})+$)/g, ",")}.${part}`) + 0,
          ).toBe(value + 0);
        },
      ),
    );
  });
  test("marks by example", () => {
    expect(["1.234,5", "1,5", "1 234,5", "1.234"].map(decimalOf)).toEqual([",", ",", ",", ","]);
    expect(["1,234.5", "1.5", "1,234", "1,234,567"].map(decimalOf)).toEqual([".", ".", ".", "."]);
    expect(decimalOf("12")).toBeUndefined();
  });
});

describe("kinds are found by looking at every cell", () => {
  test("a late odd cell is counted with its row, not first come first served", () => {
    const cells = [...Array.from({ length: 400 }, (_, row) => String(row)), "n.a."];
    const { column: found, report } = inferColumn("x", cells);
    expect([found.kind, report.unread, report.examples]).toEqual(["number", 1, [{ row: 401, text: "n.a." }]]);
  });
  test("leading zeros anywhere keep the whole column as text, and it is said", () => {
    const cells = [...Array.from({ length: 300 }, (_, row) => String(row + 1000)), "0042"];
    expect(column(...cells)).toMatchObject({ kind: "text", note: expect.stringContaining("leading zeros") });
    expect(column("0", "0.5", "-0.25").kind).toBe("number");
  });
  test("digits beyond what a number holds are text", () => {
    expect(column("12345678901234567", "1").kind).toBe("text");
  });
  test("decimal commas, and that they were taken for such", () => {
    expect(column("12,5", "1.234,75", "7")).toMatchObject({
      kind: "number",
      values: [12.5, 1234.75, 7],
      note: "read with decimal commas",
    });
  });
  test("a mark that could be either is said and not guessed silently", () => {
    expect(column("1,234", "5,678")).toMatchObject({
      kind: "number",
      values: [1234, 5678],
      note: expect.stringContaining('say {type: number, read: "1,5"}'),
    });
    expect(column("1,234", "5,678.5").note).toBe("");
    expect(inferColumn("x", ["1,234"], { type: "number", read: "1,5" }).column).toMatchObject({
      values: Float64Array.of(1.234),
    });
  });
  test("percent makes a format, one currency a unit, several are said", () => {
    expect(column("12 %", "3.5 %")).toMatchObject({
      values: [0.12, 0.035],
      info: { format: ".1~%" },
      note: expect.stringContaining("percent"),
    });
    expect(column("12 %", "3").note).toContain("1 cells have a percent sign and 1 have none");
    expect(column("€5", "€7.50")).toMatchObject({ values: [5, 7.5], info: { unit: "€" } });
    expect(column("€5", "$7").note).toContain("several currencies");
  });
  test("days and months", () => {
    const first = (...cells: string[]) => column(...cells).values.map((value) => isoDate(value as number));
    expect(first("13.4.2024", "1.2.2024")).toEqual(["2024-04-13", "2024-02-01"]);
    expect(first("4/13/2024", "1/2/2024")).toEqual(["2024-04-13", "2024-01-02"]);
    expect(first("2024/3/1")).toEqual(["2024-03-01"]);
    expect(first("3 Mar 2025", "Mon, 4 August 2025", "5-Sep-25")).toEqual(["2025-03-03", "2025-08-04", "2025-09-05"]);
    expect(first("March 3, 2025")).toEqual(["2025-03-03"]);
    expect(first("2024-03", "2024-11")).toEqual(["2024-03-01", "2024-11-01"]);
    expect(column("1.2.2024", "3.4.2024")).toMatchObject({
      kind: "text",
      note: expect.stringContaining("cannot be told apart"),
    });
    expect(first("1.1.2024", "2.2.2024")).toEqual(["2024-01-01", "2024-02-02"]);
    expect(dayFirst.date("31.2.2024")).toBeNaN();
    expect(monthFirst.date("13/1/2024")).toBeNaN();
    expect(written.date("3 Mai 2025")).toBeNaN();
  });
  test("with times, on twelve hours too", () => {
    const first = (...cells: string[]) =>
      column(...cells).values.map((value) => isoDatetime(value as number).slice(0, 16));
    expect(first("13.4.2024 06:05", "1.2.2024 23:59:30")).toEqual(["2024-04-13T06:05", "2024-02-01T23:59"]);
    expect(first("4/13/2024 12:05 AM", "4/14/2024 1:00 pm")).toEqual(["2024-04-13T00:05", "2024-04-14T13:00"]);
    expect(dayFirst.datetime("13.4.2024 13:00 pm")).toBeNaN();
    expect(dayFirst.datetime("13.4.2024 25:00")).toBeNaN();
  });
  test("an offset is applied, and the zone says what remains", () => {
    expect(column("2024-03-01T06:30:00+02:00").values[0]).toBe(Date.UTC(2024, 2, 1, 4, 30) / 1000);
    expect(column("2024-03-01T06:30:00+02:00").info).toEqual({ unit: "UTC" });
    const { column: found, info } = inferColumn(
      "x",
      ["2024-03-01T06:30:00Z", "2024-03-01T06:30:00"],
      {},
      { decimal: ".", zone: 3600, zoneName: "+01:00" },
    );
    expect([0, 1].map((row) => isoDatetime(valueAt(found, row) as number).slice(11, 16))).toEqual(["07:30", "06:30"]);
    expect(info).toEqual({ unit: "+01:00" });
  });
  test("lengths of time", () => {
    expect(column("1:30:00", "130:00:05")).toMatchObject({ kind: "duration", values: [5400, 468005], note: "" });
    expect(column("12:34", "0:05")).toMatchObject({
      kind: "duration",
      values: [754, 5],
      note: expect.stringContaining("minutes and seconds"),
    });
    // A timetable has hours and minutes; one odd minute among them is no reason to doubt it, most of them are.
    expect(column("9:00", "05:45", "21:30")).toMatchObject({
      kind: "duration",
      values: [32400, 20700, 77400],
      note: expect.stringContaining("times of day"),
    });
    expect(column("9:00", "5:43", "21:32", "3:07").values).toEqual([540, 343, 1292, 187]);
    const asked = inferColumn("x", ["9:00", "05:45", "n/a"], { type: "duration" }).column;
    expect([0, 1].map((row) => valueAt(asked, row))).toEqual([32400, 20700]);
    expect(column("24:00", "5:45").values).toEqual([1440, 345]);
    expect(column("1 d 2:00:00", "2 h 5 min", "40 s")).toMatchObject({ kind: "duration", values: [93600, 7500, 40] });
  });
  test("true and false", () => {
    expect(column("yes", "NO", "Yes").values).toEqual([true, false, true]);
    expect(column("TRUE", "false").kind).toBe("boolean");
  });
});

describe("files of cells", () => {
  const rowsOf = (text: string, options: Parameters<typeof readCsv>[2] = {}) => {
    const { table, report, findings } = readCsv("x.csv", text, options);
    return {
      rows: Array.from({ length: table.rowCount }, (_, row) =>
        [...table.columns.values()].map((own) => valueAt(own, row)),
      ),
      names: [...table.columns.keys()],
      notes: report.notes,
      findings,
    };
  };
  test("semicolons come with decimal commas", () => {
    expect(rowsOf("a;b\n1,5;2.000\n2,5;3.000\n").rows).toEqual([
      [1.5, 2000],
      [2.5, 3000],
    ]);
    expect(rowsOf("a;b\n1.5;x\n").rows).toEqual([[1.5, "x"]]);
  });
  test("tabs and bars, as a spreadsheet pastes them", () => {
    expect(rowsOf("a\tb\n1\tx, y\n").rows).toEqual([[1, "x, y"]]);
    expect(rowsOf("a|b\n1|2\n").rows).toEqual([[1, 2]]);
  });
  test("quoted cells hold separators, quotes and line breaks", () => {
    expect(rowsOf('a,b\n"x, ""y""","one\ntwo"\n').rows).toEqual([['x, "y"', "one\ntwo"]]);
  });
  test("encodings by their mark and by their look", () => {
    const utf16 = (text: string, little: boolean, mark: boolean) => {
      const codes = [...(mark ? "\ufeff" : ""), ...text].map((sign) => sign.charCodeAt(0));
      return Uint8Array.from(codes.flatMap((code) => (little ? [code & 255, code >> 8] : [code >> 8, code & 255])));
    };
    for (const little of [true, false])
      for (const mark of [true, false])
        expect(textOfBytes(utf16("a,b\n1,é\n", little, mark)).replace("\ufeff", "")).toBe("a,b\n1,é\n");
    expect(textOfBytes(Uint8Array.of(0x61, 0xe9))).toBe("aé");
    expect(textOfBytes(new TextEncoder().encode("\ufeffaé")).replace("\ufeff", "")).toBe("aé");
  });
  test("ragged rows are counted, commas too many are not", () => {
    expect(rowsOf("a,b\n1\n1,2,3\n1,2,,\n").notes).toEqual([
      "1 row has fewer cells than there are heads; the rest is missing",
      "1 row has more cells than there are heads; the rest was left out",
    ]);
  });
  test("heads that repeat further down are left out, doubled names told apart", () => {
    const { rows, notes } = rowsOf("a,b\n1,2\na,b\n3,4\n");
    expect(rows).toEqual([
      [1, 2],
      [3, 4],
    ]);
    expect(notes).toEqual(["1 row repeats the heads and was left out"]);
    expect(rowsOf("a,a,\n1,2,3\n").names).toEqual(["a", "a_2", "column_3"]);
  });
  test("no heads, or heads further down", () => {
    expect(rowsOf("1,x\n2,y\n", { header: "none" })).toMatchObject({
      names: ["column_1", "column_2"],
      rows: [
        [1, "x"],
        [2, "y"],
      ],
    });
    expect(rowsOf("Report,\n,\na,b\n1,2\n", { header: 3 })).toMatchObject({ names: ["a", "b"], rows: [[1, 2]] });
    expect(rowsOf("a,b\n", { header: 9 }).findings[0]?.message).toContain("no row 9");
  });
  test("a first row that looks like data is said, years over a wide table are not", () => {
    expect(rowsOf("1,2.5\n2,3.5\n").findings[0]).toMatchObject({ code: "heads-look-like-data" });
    expect(rowsOf("berth,2023,2024\nA,1,2\n").findings).toEqual([]);
    expect(rowsOf("1,2.5\n2,3.5\n", { header: 1 }).findings).toEqual([]);
  });
});
