import { afterEach, expect, test } from "vitest";
import { setNumberMarks, withDecimalMark, withoutMarks } from "./number-format";

afterEach(() => setNumberMarks());

test.each([
  ["1,234.5", "1234.5"],
  ["-1,000,000", "-1000000"],
  [" 20.5 ", "20.5"],
  ["1,5", "1,5"],
  ["1,0005", "1,0005"],
])("with a point, %s is typed for %s", (typed, plain) => {
  expect(withoutMarks(typed)).toBe(plain);
});

test.each([
  ["1.234,5", "1234.5"],
  ["20,5", "20.5"],
  ["20.5", "20.5"],
  ["-0,25", "-0.25"],
])("with a comma, %s is typed for %s", (typed, plain) => {
  setNumberMarks({ decimal: ",", thousands: "." });
  expect(withoutMarks(typed)).toBe(plain);
});

test("what a field shows is read back as it was", () => {
  setNumberMarks({ decimal: ",", thousands: " " });
  for (const value of [0, -3.25, 1e21, 1234567.891])
    expect(Number(withoutMarks(withDecimalMark(String(value))))).toBe(value);
});
