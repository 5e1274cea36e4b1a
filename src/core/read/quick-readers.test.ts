import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { readDuration, readIsoDatetime } from "../table/time-text";
import { isCode } from "./numbers";
import { datetimeIn, durationIn, numberIn, type RangeReader } from "./quick-readers";

/** Reads a cell between other cells, which must not be looked at. */
const within = (read: RangeReader, cell: string) => read(`9:59,${cell},5.7-3`, 5, 5 + cell.length);

const digits = (least: number, most: number) =>
  fc.string({ unit: fc.constantFrom(..."0123456789"), minLength: least, maxLength: most });
const scrap = fc.string({ unit: fc.constantFrom(..."0123456789-.: T+eZ"), maxLength: 20 });

describe("cells read where they stand", () => {
  test.each([
    ["0", 0],
    ["-0.5", -0.5],
    ["12.30", 12.3],
    ["999999999999999", 999999999999999],
    ["0.1", 0.1],
    ["-7", -7],
  ])("%s is a number", (cell, value) => {
    expect(within(numberIn, cell)).toBe(value);
  });
  test.each(["", "-", ".5", "5.", "007", "-01", "1e3", "1,5", "+4", "1.2.3", "1234567890123456", " 1"])(
    "%j is left to the slower reader",
    (cell) => {
      expect(within(numberIn, cell)).toBeNaN();
    },
  );
  test("numbers are exactly those of the language, to the last bit", () => {
    fc.assert(
      fc.property(fc.boolean(), digits(1, 9), digits(0, 6), (negative, whole, decimals) => {
        const cell = `${negative ? "-" : ""}${whole}${decimals ? `.${decimals}` : ""}`;
        const value = within(numberIn, cell);
        if (cell.length > 15 || isCode(cell) || /^-?0\d/.test(cell)) expect(value).toBeNaN();
        else expect(value).toBe(Number(cell));
      }),
    );
  });
  test.each(["2024-02-29 23:59", "2024-02-29T23:59:60", "1969-12-31 00:00:01"])("%s is a moment", (cell) => {
    expect(within(datetimeIn, cell)).toBe(readIsoDatetime(cell));
  });
  test.each([
    "2023-02-29 00:00",
    "2024-13-01 00:00",
    "2024-00-10 00:00",
    "2024-04-31 00:00",
    "2024-01-01 24:00",
    "2024-01-01 00:60",
    "2024-01-01 00:00:61",
    "2024-01-01 00:00Z",
    "2024-01-01",
    "2024/01/01 00:00",
  ])("%s is left to the slower reader", (cell) => {
    expect(within(datetimeIn, cell)).toBeNaN();
  });
  test.each(["0:00:00", "-1:30:05", "126:59:59", "00:00:07"])("%s is a length of time", (cell) => {
    expect(within(durationIn, cell)).toBe(readDuration(cell));
  });
  test.each(["1:60:00", "1:00:60", ":00:01", "-:00:01", "1:2:3", "12:30", "1:02:03.5"])(
    "%s is left to the slower reader",
    (cell) => {
      expect(within(durationIn, cell)).toBeNaN();
    },
  );
  const near = fc.tuple(
    fc.integer({ min: 1895, max: 2105 }),
    fc.integer({ min: 0, max: 13 }),
    fc.integer({ min: 0, max: 32 }),
    fc.integer({ min: 0, max: 25 }),
    fc.integer({ min: 0, max: 61 }),
  );
  const two = (value: number) => String(value).padStart(2, "0");
  test("what they read, the slower readers read alike", () => {
    fc.assert(
      fc.property(scrap, near, (text, [year, month, day, hour, minute]) => {
        for (const cell of [
          text,
          `${year}-${two(month)}-${two(day)} ${two(hour)}:${two(minute)}`,
          `${year}-${two(month)}-${two(day)}T${two(hour)}:${two(minute)}:${two(minute)}`,
        ]) {
          expect(within(datetimeIn, cell)).toBe(
            cell.length === 16 || cell.length === 19 ? readIsoDatetime(cell) : Number.NaN,
          );
        }
        for (const cell of [text, `${hour}:${two(minute)}:${two(hour)}`]) {
          const length = within(durationIn, cell);
          if (length === length) expect(length).toBe(readDuration(cell));
        }
      }),
      { numRuns: 1000 },
    );
  });
});
