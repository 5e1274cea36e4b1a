import { describe, expect, test } from "vitest";
import { isoDate } from "../table/calendar";
import { valueAt } from "../table/column";
import { guessSeparator, readCsv, textOfBytes } from "./csv";

const read = (text: string, options: Parameters<typeof readCsv>[2] = {}) => readCsv("t.csv", text, options);
const values = (text: string, name: string, options: Parameters<typeof readCsv>[2] = {}) => {
  const { table } = read(text, options);
  const column = table.columns.get(name);
  if (!column) throw new Error(`no column ${name}`);
  return Array.from({ length: table.rowCount }, (_, row) => valueAt(column, row));
};

describe("kinds are inferred from all rows", () => {
  test("numbers, also with thousands and in quotes", () => {
    expect(values('n\n1\n"1,234.5"\n-2e3\n', "n")).toEqual([1, 1234.5, -2000]);
  });
  test("leading zeros stay text", () => {
    expect(values("code\n007\n012\n", "code")).toEqual(["007", "012"]);
  });
  test("a text in row 3,000 is still seen", () => {
    const text = `n\n${"1\n".repeat(100)}${"x\n".repeat(20)}`;
    expect(read(text).report.columns[0]?.kind).toBe("text");
  });
  test("a few odd cells become missing and are counted with their rows", () => {
    const { report } = read(`n\n${"5\n".repeat(60)}about 7\n${"5\n".repeat(40)}`);
    expect(report.columns[0]).toMatchObject({ kind: "number", unread: 1, examples: [{ row: 61, text: "about 7" }] });
  });
  test("dates, datetimes, durations and booleans", () => {
    const { report } = read(
      "a,b,c,d\n2024-03-01,2024-03-01 06:30,1:30:00,true\n2024-03-02,2024-03-02T07:00:00Z,0:10:05,false\n",
    );
    expect(report.columns.map(({ kind }) => kind)).toEqual(["date", "datetime", "duration", "boolean"]);
  });
  test("days past 12 settle the order of day and month", () => {
    const { report, table } = read("d\n13/02/2024\n01/03/2024\n");
    expect(report.columns[0]?.note).toBe("read as day, month, year");
    const column = table.columns.get("d");
    expect(column && isoDate(valueAt(column, 1) as number)).toBe("2024-03-01");
  });
  test("dates whose order cannot be told stay text, and that is said", () => {
    const { report } = read("d\n01/02/2024\n03/04/2024\n");
    expect(report.columns[0]).toMatchObject({ kind: "text" });
    expect(report.columns[0]?.note).toContain("cannot be told apart");
  });
  test("the sheet's word goes before inference", () => {
    expect(values("n\n1\n2\n", "n", { columns: new Map([["n", { type: "text" }]]) })).toEqual(["1", "2"]);
    const wish = new Map([["t", { type: "datetime" as const, read: "%d.%m.%Y %H:%M" }]]);
    expect(values("t\n01.02.2024 10:00\n2024-02-01\n", "t", { columns: wish })).toEqual([
      Date.UTC(2024, 1, 1, 10) / 1000,
      null,
    ]);
  });
});

describe("cells", () => {
  test("empty and spaces are missing, other spellings only where the sheet says so", () => {
    expect(values("a,b\n1,x\n,y\n  ,z\n", "a")).toEqual([1, null, null]);
    expect(values("a\nx\n-\n", "a")).toEqual(["x", "-"]);
    expect(values("a\nx\n-\n", "a", { missingAs: ["-"] })).toEqual(["x", null]);
  });
  test("quotes, separators and line breaks inside cells", () => {
    expect(values('a,b\n"say ""hi"", you","two\nlines"\n', "a")).toEqual(['say "hi", you']);
    expect(values('a,b\n"say ""hi"", you","two\nlines"\n', "b")).toEqual(["two\nlines"]);
  });
  test("ragged rows are read and said", () => {
    const { report, table } = read("a,b\n1\n1,2,3\n");
    expect(table.rowCount).toBe(2);
    expect(report.notes).toHaveLength(2);
  });
  test("doubled and empty heads get names of their own", () => {
    expect([...read("a,a,\n1,2,3\n").table.columns.keys()]).toEqual(["a", "a_2", "column_3"]);
  });
  test("many doubled heads are numbered, and counted rather than listed", () => {
    const { table, report } = read(`${"a,".repeat(40)}a_2\n${"1,".repeat(40)}2\n`);
    expect([...table.columns.keys()].slice(-2)).toEqual(["a_40", "a_2_2"]);
    expect(report.notes).toHaveLength(6);
    expect(report.notes[5]).toBe("35 more heads stand twice and have a number behind them");
  });
});

describe("files", () => {
  test("separators are found", () => {
    expect(guessSeparator("a;b\n1,5;2\n")).toBe(";");
    expect(guessSeparator("a\tb\n1\t2\n")).toBe("\t");
    expect(guessSeparator("a\n1\n")).toBe(",");
  });
  test("encodings are found by mark, by sense, and at last as Latin-1", () => {
    expect(textOfBytes(new TextEncoder().encode("größe"))).toBe("größe");
    expect(textOfBytes(Uint8Array.of(0x67, 0x72, 0xf6))).toBe("grö");
    expect(textOfBytes(Uint8Array.of(0xff, 0xfe, 0x61, 0x00))).toBe("a");
  });
  test("an empty file is an error with a way out", () => {
    expect(read("").findings[0]).toMatchObject({ code: "empty-file", severity: "error" });
  });
  test("a table with heads and no rows has no rows", () => {
    expect(read("a,b\n").table.rowCount).toBe(0);
  });
  test("large files come in whole", () => {
    const rows = Array.from({ length: 60_000 }, (_, i) => `${i},name ${i % 7}`);
    const { table } = read(`n,t\n${rows.join("\n")}\n`);
    expect(table.rowCount).toBe(60_000);
    const column = table.columns.get("n");
    expect(column && valueAt(column, 59_999)).toBe(59_999);
  });
});
