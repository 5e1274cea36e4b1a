import { utcFormat } from "d3-time-format";
import fc from "fast-check";
import { expect, test } from "vitest";
import { strftime } from "./strftime";

const letters = [..."aAbBcdefgGHIjLmMpqQsSuUVwWxXyYZ%"];

test.each(letters)("the letter %s writes what a package of standing writes", (letter) => {
  fc.assert(
    fc.property(
      fc.date({ min: new Date("0001-01-01"), max: new Date("9999-12-31"), noInvalidDate: true }),
      fc.constantFrom("", "-", "_", "0"),
      (date, sign) => {
        const pattern = `on %${sign}${letter}, so`;
        expect(strftime(pattern)(date)).toBe(utcFormat(pattern)(date));
      },
    ),
  );
});

test("weeks of the days around every new year", () => {
  for (let year = 1960; year < 2040; year++)
    for (let day = -8; day < 9; day++) {
      const date = new Date(Date.UTC(year, 0, 1 + day));
      const pattern = "%G-W%V-%u %U %W %j %q %g";
      expect(strftime(pattern)(date), date.toISOString()).toBe(utcFormat(pattern)(date));
    }
});

test("what is no letter is written as it is", () => {
  for (const [pattern, written] of [
    ["100 %", "100 %"],
    ["%!", "!"],
    ["%k %-k", "k k"],
    ["no letters", "no letters"],
  ] as const)
    expect(strftime(pattern)(new Date(0))).toBe(written);
});
