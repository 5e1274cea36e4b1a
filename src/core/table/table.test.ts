import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { addMonths, civilOf, DAY, daysOf, isoDate, isoDatetime, periodAfter, periodStart } from "./calendar";
import { gather, textColumn, valueAt } from "./column";
import { ranks, sortedRows, textPlaces } from "./compare";
import { readDuration, readIsoDate, readIsoDatetime, timeReader } from "./time-text";

const seconds = (text: string) => Date.parse(`${text}Z`) / 1000;

describe("calendar", () => {
  test("agrees with the proleptic calendar for every day of four hundred thousand", () => {
    fc.assert(
      fc.property(fc.integer({ min: -200_000, max: 200_000 }), (day) => {
        const date = new Date(day * DAY * 1000);
        expect(civilOf(day)).toEqual({
          year: date.getUTCFullYear(),
          month: date.getUTCMonth() + 1,
          day: date.getUTCDate(),
        });
        expect(daysOf(date.getUTCFullYear(), date.getUTCMonth() + 1, date.getUTCDate())).toBe(day);
      }),
    );
  });
  test("periods begin where people think they do", () => {
    const moment = seconds("2024-03-06T14:35:10");
    expect(isoDatetime(periodStart("minute", moment))).toBe("2024-03-06T14:35:00");
    expect(isoDatetime(periodStart("hour", moment))).toBe("2024-03-06T14:00:00");
    expect(isoDate(periodStart("day", moment))).toBe("2024-03-06");
    expect(isoDate(periodStart("week", moment))).toBe("2024-03-04");
    expect(isoDate(periodStart("month", moment))).toBe("2024-03-01");
    expect(isoDate(periodStart("quarter", moment))).toBe("2024-01-01");
    expect(isoDate(periodStart("year", moment))).toBe("2024-01-01");
  });
  test("weeks start on Monday before 1970 too", () => {
    expect(isoDate(periodStart("week", seconds("1969-12-31T00:00:00")))).toBe("1969-12-29");
  });
  test("the next period is the next start", () => {
    expect(isoDate(periodAfter("month", seconds("2023-12-01T00:00:00")))).toBe("2024-01-01");
    expect(isoDate(periodAfter("quarter", seconds("2023-10-01T00:00:00"), 2))).toBe("2024-04-01");
  });
  test("months later hold the day back at a month's end", () => {
    expect(isoDate(addMonths(seconds("2024-01-31T06:00:00"), 1))).toBe("2024-02-29");
    expect(isoDatetime(addMonths(seconds("2024-01-31T06:00:00"), 13))).toBe("2025-02-28T06:00:00");
  });
});

describe("texts of time", () => {
  test("ISO dates that do not exist are not dates", () => {
    expect(readIsoDate("2023-02-29")).toBeNaN();
    expect(readIsoDate("2024-02-29")).toBe(seconds("2024-02-29T00:00:00"));
    expect(readIsoDate("24-02-29")).toBeNaN();
  });
  test("an offset in the text is applied", () => {
    expect(readIsoDatetime("2024-05-01T12:00:00+02:00")).toBe(seconds("2024-05-01T10:00:00"));
    expect(readIsoDatetime("2024-05-01T12:00:00-0530")).toBe(seconds("2024-05-01T17:30:00"));
    expect(readIsoDatetime("2024-05-01 12:00")).toBe(seconds("2024-05-01T12:00:00"));
    expect(readIsoDatetime("2024-05-01 25:00")).toBeNaN();
  });
  test("durations have hours without limit", () => {
    expect(readDuration("130:05:09")).toBe(130 * 3600 + 309);
    expect(readDuration("-0:00:01")).toBe(-1);
    expect(readDuration("1:60:00")).toBeNaN();
  });
  test("strptime letters", () => {
    const read = timeReader("%d %b %Y, %I.%M %p", "datetime");
    if (typeof read !== "function") throw new Error("expected a reader");
    expect(read("6 Mar 2024, 02.35 pm")).toBe(seconds("2024-03-06T14:35:00"));
    expect(read("6 Mar 2024, 02.35")).toBeNaN();
    expect(timeReader("%Y-%Q", "date")).toEqual({ unknown: "%Q" });
    expect(timeReader("%H:%M", "datetime")).toEqual({ unknown: "a date without %Y" });
    const length = timeReader("%H:%M:%S", "duration");
    expect(typeof length === "function" && length("130:05:09")).toBe(468309);
  });
});

describe("columns", () => {
  test("share equal texts and keep missing", () => {
    const column = textColumn(["b", null, "a", "b"], 4);
    expect(column.dictionary).toEqual(["b", "a"]);
    expect([0, 1, 2, 3].map((row) => valueAt(column, row))).toEqual(["b", null, "a", "b"]);
    expect(valueAt(gather(column, Int32Array.of(2, 1)), 0)).toBe("a");
  });
  test("sort by code unit with missing last both ways", () => {
    const column = textColumn(["b", null, "B", "a"], 4);
    expect([...sortedRows(4, [ranks(column)], [false])]).toEqual([2, 3, 0, 1]);
    expect([...sortedRows(4, [ranks(column)], [true])]).toEqual([0, 3, 2, 1]);
  });
  test("named values come first, in their order", () => {
    expect([...textPlaces(["a", "b", "c"], false, ["c", "b"])]).toEqual([2, 1, 0]);
  });
  test("the fast sort orders as comparing does, missing last, equal values in their order", () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.double(), fc.integer({ min: -3, max: 3 }), fc.constant(Number.NaN), fc.constant(-0)), {
          maxLength: 50,
        }),
        (list) => {
          const values = Float64Array.from(list);
          const plain = [...values.keys()].sort((a, b) => {
            const [x, y] = [values[a] as number, values[b] as number];
            if (Number.isNaN(x) || Number.isNaN(y)) return Number(Number.isNaN(x)) - Number(Number.isNaN(y)) || a - b;
            return x < y ? -1 : x > y ? 1 : a - b;
          });
          expect([...sortedRows(values.length, [values], [false])]).toEqual(plain);
        },
      ),
    );
  });
  test("sorting is stable", () => {
    expect([...sortedRows(4, [Float64Array.of(1, 0, 1, 0)], [false])]).toEqual([1, 3, 0, 2]);
    expect([...sortedRows(4, [Float64Array.of(1, 0, 1, 0)], [true])]).toEqual([0, 2, 1, 3]);
  });
});
