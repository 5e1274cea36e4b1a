import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { Kind } from "../table/column";
import { type ColumnWish, inferColumn } from "./infer";
import { numberReader } from "./numbers";

function inferred(texts: string[], wish: ColumnWish = {}) {
  const cells: (string | null)[] = [...texts];

  return inferColumn("c", cells, wish);
}

const many = (texts: string[], times = 40) =>
  Array.from({ length: times }, (_, i) => texts[i % texts.length] as string);

describe("kinds of a column", () => {
  test.each<[Kind, string[]]>([
    ["number", ["1", "2.5", "-3", "+4", "1e3", ".5"]],
    ["number", ["1,000", "12,345.6", "7"]],
    ["number", [" 5 ", "6"]],
    ["text", ["007", "012"]],
    ["text", ["1-2", "3-4"]],
    ["text", ["yes", "no", "perhaps"]],
    ["boolean", ["yes", "no"]],
    ["boolean", ["TRUE", "FALSE"]],
    ["date", ["2024-02-29", "2023-01-01"]],
    ["text", ["2023-02-29", "2023-02-30"]],
    ["datetime", ["2024-02-29 10:00", "2023-01-01T09:30:15Z"]],
    ["date", ["31.12.2024", "1.1.2025"]],
    ["date", ["12/31/2024", "1/1/2025"]],
    ["date", ["2024-12", "2025-01"]],
    ["date", ["12/2024", "1/2025"]],
    ["date", ["Dec 2024", "January 2025"]],
    ["text", ["13/2024", "14/2025"]],
    ["text", ["Lot 2024", "May 25"]],
    ["duration", ["1:02:03", "130:00:00"]],
    ["duration", ["1:02", "2:03"]],
    ["text", ["Infinity", "NaN"]],
    ["text", ["0x10", "0b1"]],
  ])("%s: %j", (kind, texts) => {
    expect(inferred(many(texts)).report.kind).toBe(kind);
  });
  test("a column of nothing is text", () => {
    expect(inferred(["", " ", ""]).report).toMatchObject({ kind: "text", missing: 3 });
  });
  test("up to a twentieth of odd cells does not change the kind", () => {
    expect(inferred([...many(["1", "2"], 95), ...many(["?"], 5)]).report).toMatchObject({ kind: "number", unread: 5 });
    expect(inferred([...many(["1", "2"], 94), ...many(["?"], 6)]).report).toMatchObject({ kind: "text", unread: 0 });
  });
  test("examples are the first few, with their rows", () => {
    const { report } = inferred([...many(["1"], 200), "a", "b", "c", "d", "e", "f"]);
    expect(report.unread).toBe(6);
    expect(report.examples.map(({ row, text }) => `${row} ${text}`)).toEqual([
      "201 a",
      "202 b",
      "203 c",
      "204 d",
      "205 e",
    ]);
  });
});

describe("moments", () => {
  test("a time of day on twelve hours is the length since midnight", () => {
    const { column, report } = inferred(many(["7:10 AM", "12:05 am", "12:30 PM", "11:59:30 p.m."]));
    expect(column.kind === "duration" && [...column.values].slice(0, 4)).toEqual([25800, 300, 45000, 86370]);
    expect(report).toMatchObject({ kind: "duration", note: "times of day are lengths since midnight" });
    expect(inferred(many(["13:10 AM", "0:05 PM"])).report.kind).toBe("text");
  });
  test("a month stands for its first day, however it is written", () => {
    const first = Date.UTC(2024, 2, 1) / 1000;
    for (const text of ["2024-03", "2024/03", "03/2024", "3/2024", "Mar 2024", "March 2024", "mar-2024"]) {
      const { column, report } = inferred(many([text]));
      expect(column.kind === "date" && column.values[0]).toBe(first);
      expect(report.note).toBe("a month stands for its first day");
    }
  });
  const seconds = (texts: string[], wish: ColumnWish = {}) => {
    const { column, report } = inferred(texts, wish);
    return {
      kind: report.kind,
      note: report.note,
      unread: report.unread,
      values: column.kind === "text" ? [] : [...column.values],
    };
  };
  const day = Date.UTC(2024, 0, 1) / 1000;
  test("a bare date among times is its midnight, however many there are of either", () => {
    expect(seconds(["2024-01-01", "2024-01-01 10:30"])).toMatchObject({
      kind: "datetime",
      unread: 0,
      values: [day, day + 37800],
    });
    expect(seconds([...many(["2024-01-01"], 99), "2024-01-01T10:30:00Z"])).toMatchObject({
      kind: "datetime",
      unread: 0,
    });
    expect(seconds([...many(["2024-01-01 10:30"], 99), "2024-01-01"]).values.at(-1)).toBe(day);
    expect(seconds(["13.1.2024", "13.1.2024 10:30"]).values[0]).toBe(day + 12 * 86400);
    expect(seconds(["3 Mar 2024", "3 Mar 2024 10:30"]).kind).toBe("datetime");
    expect(seconds(["2024-01-01", "2024-01-02"]).kind).toBe("date");
  });
  test("in letters that the sheet gives too", () => {
    expect(seconds(["01/02/2024", "01/02/2024 10:30"], { type: "datetime", read: "%d/%m/%Y %H:%M" })).toMatchObject({
      unread: 0,
      values: [day + 31 * 86400, day + 31 * 86400 + 37800],
    });
    expect(seconds(["1.2.", "01/02/2024 10:30"], { type: "datetime", read: "%d/%m/%Y %H:%M" }).unread).toBe(1);
  });
  test("finer ones are cut down to milliseconds, before 1970 too, and that is said", () => {
    const found = seconds(["2024-01-01 00:00:00.1239", "1969-12-31T23:59:59.9999", "2024-01-01 00:00:00.5"]);
    expect(found.values).toEqual([day + 0.123, -0.001, day + 0.5]);
    expect(found.note).toBe("times finer than milliseconds are cut down to them");
    expect(seconds(["2024-01-01 00:00:00.1230"]).note).toBeUndefined();
  });
  test("a moment is the same number whichever way it is written", () => {
    fc.assert(
      fc.property(fc.integer({ min: -5_000_000_000_000, max: 5_000_000_000_000 }), (milliseconds) => {
        const text = new Date(milliseconds).toISOString();
        const [date, time = ""] = text.slice(0, -1).split("T");
        const german = `${(date as string).split("-").reverse().join(".")} ${time}`;
        expect(seconds([text, "2024-01-01 00:00"]).values[0]).toBe(milliseconds / 1000);
        expect(seconds([german, "13.1.2024"]).values[0]).toBe(milliseconds / 1000);
        expect(seconds([`${date} ${time}`], { type: "datetime", read: "%Y-%m-%d %H:%M:%S.%f" }).values[0]).toBe(
          milliseconds / 1000,
        );
      }),
      { numRuns: 100 },
    );
  });
});

describe("what the sheet asks for is done", () => {
  test.each<[ColumnWish, string[], (number | string | null)[]]>([
    [{ type: "text" }, ["007", "1.0"], ["007", "1.0"]],
    [{ type: "number" }, ["007", "x"], [7, null]],
    [{ type: "boolean" }, ["1", "0", "yes"], [1, 0, 1]],
    [{ type: "date" }, ["2024-03-01 10:00", "1.3.2024"], [1709251200, 1709251200]],
    [{ type: "datetime" }, ["2024-03-01", "2024-03-01 00:01"], [1709251200, 1709251260]],
    [{ type: "duration" }, ["0:01:00", "60"], [60, null]],
    [{ type: "duration", read: "%M:%S" }, ["1:30", "2:00"], [90, 120]],
    [{ type: "date", read: "%d %B %Y" }, ["1 March 2024", "March 2024"], [1709251200, null]],
  ])("%j of %j", (wish, texts, expected) => {
    const { column } = inferred(texts, wish);
    const found = texts.map((_, row) => {
      if (column.kind === "text") return column.dictionary[column.codes[row] as number] ?? null;
      const value = column.values[row] as number;
      return Number.isNaN(value) ? null : value;
    });
    expect(found).toEqual(expected);
  });
});

describe("numbers", () => {
  test("that JavaScript writes are read back to the last bit", () => {
    fc.assert(
      fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), (value) => {
        expect(numberReader(".")(String(value))).toBe(value + 0 === 0 ? value + 0 : value);
      }),
    );
  });
  test.each(["", "1,23", "1,2345", "--1", "1.2.3", "1e", "12a", "١"])("%j is none", (text) => {
    expect(numberReader(".")(text)).toBeNaN();
  });
});
