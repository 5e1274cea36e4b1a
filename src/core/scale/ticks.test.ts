import { tickStep as publishedStep, ticks as publishedTicks } from "d3-array";
import { utcTicks } from "d3-time";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { momentTicks, tickStep, ticks } from "./ticks";

const number = fc.oneof(
  fc.integer({ min: -1000, max: 1000 }),
  fc.integer({ min: -1000, max: 1000 }).map((value) => value / 100),
  fc.double({ min: -1e9, max: 1e9, noNaN: true }),
  fc.double({ min: -1e-4, max: 1e-4, noNaN: true }).filter((value) => value === 0 || Math.abs(value) > 1e-200),
);
const ends = fc.tuple(number, number).map(([a, b]) => [Math.min(a, b), Math.max(a, b)] as const);
const count = fc.integer({ min: 1, max: 20 });

describe("round numbers between two ends", () => {
  test("are those of a published way of finding them", () => {
    fc.assert(
      fc.property(ends, count, ([low, high], wanted) => {
        expect(ticks(low, high, wanted)).toEqual(publishedTicks(low, high, wanted));
        expect(tickStep(low, high, wanted)).toBe(publishedStep(low, high, wanted));
      }),
    );
  });
  test("lie between the ends, though fractions are not exact", () => {
    expect(ticks(0.7, 1.3, 6)).toEqual([0.7, 0.8, 0.9, 1, 1.1, 1.2, 1.3]);
    expect(ticks(0, 3, 3)).toEqual([0, 1, 2, 3]);
    expect(ticks(2, 2, 5)).toEqual([2]);
    expect(ticks(0, 1, 0)).toEqual([]);
  });
  test("are found where one was asked for and none lies at a round step", () => {
    expect(ticks(1.1, 1.9, 1)).toEqual([1.5]);
  });
});

describe("moments between two ends", () => {
  const at = (text: string) => Date.parse(`${text}Z`) / 1000;
  const texts = (from: string, to: string, wanted: number) =>
    momentTicks(at(from), at(to), wanted).map((seconds) => new Date(seconds * 1000).toISOString().slice(0, 16));

  test("are those of a published way of finding them, but for weeks", () => {
    const moment = fc.integer({ min: at("1890-01-01T00:00"), max: at("2110-01-01T00:00") });
    const length = fc.oneof(...[1, 100, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9].map((max) => fc.integer({ min: 1, max })));
    fc.assert(
      fc.property(moment, length, count, (low, span, wanted) => {
        const published = utcTicks(new Date(low * 1000), new Date((low + span) * 1000), wanted);
        const own = momentTicks(low, low + span, wanted);
        // Weeks are the nearest step to what is wanted between these.
        const days = span / wanted / 86400;
        fc.pre(!(days > Math.sqrt(2 * 7) - 1e-9 && days < Math.sqrt(7 * 30) + 1e-9));
        expect(own).toEqual(published.map((date) => date.getTime() / 1000));
      }),
    );
  });
  test("are Mondays where weeks are counted, as these begin there", () => {
    expect(texts("2024-01-01T00:00", "2024-02-01T00:00", 4)).toEqual(
      ["01", "08", "15", "22", "29"].map((day) => `2024-01-${day}T00:00`),
    );
  });
  test("are every second day, halves of an hour, parts of a second", () => {
    expect(texts("2024-01-28T00:00", "2024-02-04T00:00", 4).map((text) => text.slice(8, 10))).toEqual([
      "28",
      "30",
      "01",
      "03",
    ]);
    expect(texts("2024-01-01T09:10", "2024-01-01T11:00", 4).map((text) => text.slice(11))).toEqual([
      "09:30",
      "10:00",
      "10:30",
      "11:00",
    ]);
    expect(momentTicks(0, 1, 5)).toEqual([0, 0.2, 0.4, 0.6, 0.8, 1]);
    expect(momentTicks(Number.NaN, Number.NaN, 5)).toEqual([]);
  });
});
