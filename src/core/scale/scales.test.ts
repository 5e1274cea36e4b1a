import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { setNumberMarks } from "../formula/number-format";
import { categoryScale, continuousScale } from "./scales";
import "./all";

const day = (text: string) => Date.parse(`${text}Z`) / 1000;

function time(from: string, to: string, tickCount = 6): string[] {
  return continuousScale({
    kind: "datetime",
    scale: "time",
    domain: [day(from), day(to)],
    range: [0, 600],
    nice: false,
    tickCount,
  }).ticks.map(({ text }) => text);
}

function lengths(high: number, format?: string): string[] {
  return continuousScale({
    kind: "duration",
    scale: "linear",
    domain: [0, high],
    range: [0, 600],
    nice: true,
    tickCount: 5,
    ...(format ? { format } : {}),
  }).ticks.map(({ text }) => text);
}

describe("ticks of time", () => {
  test("are written as the coarsest unit that begins there", () => {
    expect(time("2023-01-01T00:00", "2026-01-01T00:00")).toContain("2024");
    expect(time("2023-01-01T00:00", "2024-01-01T00:00")).toEqual(["2023", "Apr", "Jul", "Oct", "2024"]);
    expect(time("2024-03-01T00:00", "2024-03-12T00:00")).toContain("4 Mar");
    expect(time("2024-03-01T00:00", "2024-08-12T00:00").slice(0, 3)).toEqual(["Mar 2024", "Apr", "May"]);
    expect(time("2024-03-01T00:00", "2024-03-01T12:00")).toContain("06:00");
    expect(time("2024-03-01T00:00", "2024-03-01T00:01")).toContain("00:00:30");
  });
});

describe("ticks of lengths of time", () => {
  test("stand at round clock values", () => {
    expect(lengths(10)).toEqual(["0:00:00", "0:00:02", "0:00:04", "0:00:06", "0:00:08", "0:00:10"]);
    expect(lengths(3600)).toContain("0:30:00");
    expect(lengths(36_000)).toContain("6:00:00");
    expect(lengths(400_000)).toContain("48:00:00");
  });
  test("follow the sheet's format", () => {
    expect(lengths(3600, "h:mm:ss")).toContain("0:30:00");
  });
});

describe("ticks of numbers", () => {
  const ticks = (low: number, high: number, more: object = {}) =>
    continuousScale({
      kind: "number",
      scale: "linear",
      domain: [low, high],
      range: [0, 300],
      nice: true,
      tickCount: 5,
      ...more,
    }).ticks.map(({ text }) => text);
  test("are short where numbers are large", () => {
    expect(ticks(0, 4e7)).toEqual(["0", "10M", "20M", "30M", "40M"]);
    expect(ticks(0, 4e6)).toEqual(["0", "1,000,000", "2,000,000", "3,000,000", "4,000,000"]);
  });
  test("have the power of the largest where they are tiny", () => {
    expect(ticks(0, 2e-8)).toEqual(["0", "0.5e-8", "1e-8", "1.5e-8", "2e-8"]);
    expect(ticks(-2e-6, 2e-6)).toEqual(["−2e-6", "−1e-6", "0", "1e-6", "2e-6"]);
    expect(ticks(0, 0.0004)).toEqual(["0.0000", "0.0001", "0.0002", "0.0003", "0.0004"]);
    expect(ticks(1e-9, 1e-4, { scale: "log", nice: false })).toContain("1e-5");
    expect(ticks(0.001, 10, { scale: "log", nice: false })).toContain("0.001");
  });
  test("of a log axis have the marks of numbers that are set", () => {
    setNumberMarks({ decimal: ",", thousands: "." });
    try {
      expect(ticks(0.1, 1e4, { scale: "log", nice: false })).toEqual(["0,1", "1", "10", "100", "1.000", "10.000"]);
    } finally {
      setNumberMarks();
    }
  });
  test("go below zero with a true minus", () => {
    expect(ticks(-2, 2)).toEqual(["−2", "−1", "0", "1", "2"]);
  });
  test("of one year alone stand at it and beside it, and of one amount begin at zero", () => {
    const of = (value: number, more: object = {}) => ticks(value, value, { whole: true, ...more });
    expect(of(2018, { columnFormat: "d" })).toEqual(["2017", "2018", "2019"]);
    expect(of(7, { nice: false })).toEqual(["6", "7", "8"]);
    expect(of(400)).toEqual(["0", "100", "200", "300", "400", "500"]);
    expect(of(5)).toEqual(["0", "1", "2", "3", "4", "5", "6"]);
    expect(of(0)).toEqual(["0", "1"]);
  });
  test("of a log axis stand at whole decades, or between where there are few", () => {
    const log = (low: number, high: number) => ticks(low, high, { scale: "log", nice: false });
    expect(log(1, 1e8)).toEqual(["1", "100", "10,000", "1M", "100M"]);
    expect(log(1, 100)).toEqual(["1", "2", "5", "10", "20", "50", "100"]);
    expect(log(0, 0).length).toBeGreaterThan(0);
  });
  test("of lengths of time on a log axis stand at lengths that people count in", () => {
    const log = (low: number, high: number) => ticks(low, high, { kind: "duration", scale: "log", nice: false });
    expect(log(1, 7200)).toEqual(["0:00:01", "0:00:10", "0:01:00", "0:10:00", "1:00:00"]);
    expect(log(3000, 1.2e6)).toEqual(["1:00:00", "6:00:00", "24:00:00", "72:00:00", "240:00:00"]);
    expect(log(1800, 7200)).toEqual(["0:30:00", "1:00:00", "2:00:00"]);
    expect(log(0.1, 0.5).length).toBeGreaterThan(0);
  });
});

describe("every scale", () => {
  const domain = fc
    .tuple(fc.integer({ min: -1e6, max: 1e6 }), fc.integer({ min: 1, max: 1e6 }))
    .map(([low, span]): [number, number] => [low, low + span]);
  test("holds its domain when it is made nice, and places its ends at the ends", () => {
    fc.assert(
      fc.property(domain, fc.integer({ min: 1, max: 12 }), (ends, tickCount) => {
        const scale = continuousScale({
          kind: "number",
          scale: "linear",
          domain: ends,
          range: [10, 410],
          nice: true,
          tickCount,
        });
        expect(scale.domain[0]).toBeLessThanOrEqual(ends[0]);
        expect(scale.domain[1]).toBeGreaterThanOrEqual(ends[1]);
        expect(scale.place(scale.domain[0])).toBeCloseTo(10, 6);
        expect(scale.place(scale.domain[1])).toBeCloseTo(410, 6);
        for (const { place } of scale.ticks) {
          expect(place).toBeGreaterThanOrEqual(10 - 1e-6);
          expect(place).toBeLessThanOrEqual(410 + 1e-6);
        }
      }),
    );
  });
  test("from zero leaves hardly more than a fifth empty for the sake of a round end", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-6, max: 1e9, noNaN: true }),
        fc.integer({ min: 2, max: 9 }),
        (most, tickCount) => {
          const { domain, ticks } = continuousScale({
            kind: "number",
            scale: "linear",
            domain: [0, most],
            range: [0, 100],
            nice: true,
            tickCount,
          });
          expect(domain[0]).toBe(0);
          expect(most / domain[1]).toBeGreaterThanOrEqual(0.79);
          expect(ticks.length).toBeGreaterThanOrEqual(2);
        },
      ),
    );
  });
  test("of zeros alone, of which nothing is below, goes up to one", () => {
    const of = (value: number, nice = true) =>
      continuousScale({
        kind: "number",
        scale: "linear",
        domain: [value, value],
        range: [0, 100],
        nice,
        tickCount: 2,
      }).domain;
    expect(of(0)).toEqual([0, 1]);
    expect(of(4)[0]).toBe(0);
    expect(of(0, false)).toEqual([-0.5, 0.5]);
  });
  test("runs the other way when its range does", () => {
    const scale = continuousScale({
      kind: "number",
      scale: "linear",
      domain: [0, 10],
      range: [100, 0],
      nice: false,
      tickCount: 5,
    });
    expect([scale.place(0), scale.place(10), scale.invert(25)]).toEqual([100, 0, 7.5]);
  });
  test("of categories finds the band of every place", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 30 }), fc.boolean(), (count, turned) => {
        const scale = categoryScale(
          Array.from({ length: count }, (_, i) => String(i)),
          turned ? [300, 0] : [0, 300],
        );
        for (let i = 0; i < count; i++) expect(scale.invert(scale.place(i))).toBe(i);
        expect(scale.band).toBeCloseTo(300 / count, 9);
      }),
    );
    expect(categoryScale([], [0, 10]).ticks).toEqual([]);
  });
});

describe("ticks in the format of a column", () => {
  const numbers = (low: number, high: number, columnFormat: string, scale: "linear" | "log" = "linear") =>
    continuousScale({
      kind: "number",
      scale,
      domain: [low, high],
      range: [0, 600],
      nice: true,
      tickCount: 6,
      columnFormat,
    }).ticks.map(({ text }) => text);

  test("years have no comma", () => {
    expect(numbers(1990, 2020, "d")).toEqual(["1990", "1995", "2000", "2005", "2010", "2015", "2020"]);
    expect(numbers(1990, 2020, "d", "log")).toContain("2000");
  });

  test("have as many decimals as their step needs, and no more than the format", () => {
    expect(numbers(0, 30, ",.2f")).toEqual(["0", "5", "10", "15", "20", "25", "30"]);
    expect(numbers(0, 1, ".2f")).toEqual(["0.0", "0.2", "0.4", "0.6", "0.8", "1.0"]);
    expect(numbers(0, 0.5, ".1%")).toEqual(["0%", "10%", "20%", "30%", "40%", "50%"]);
  });

  test("never repeat, whatever the format and the ends", () => {
    expect(numbers(0, 0.02, ".0%")).toEqual(["0%", "1%", "2%"]);
    const ends = fc.tuple(
      fc.double({ min: -1e6, max: 1e6, noNaN: true }),
      fc.double({ min: 1e-4, max: 1e6, noNaN: true }),
    );
    fc.assert(
      fc.property(ends, fc.constantFrom("d", ".0%", ".1f", ",.3~f", ".2s", "$,.2f"), ([low, length], format) => {
        const texts = numbers(low, low + length, format);
        expect(texts.length).toBeGreaterThan(0);
        expect(new Set(texts).size).toBe(texts.length);
      }),
    );
  });

  test("dates have none within a day, however few the days", () => {
    const { ticks } = continuousScale({
      kind: "date",
      scale: "time",
      domain: [day("2024-03-01T00:00"), day("2024-03-03T00:00")],
      range: [0, 600],
      nice: false,
      tickCount: 8,
    });
    expect(ticks.map(({ text }) => text)).toEqual(["1 Mar 2024", "2 Mar", "3 Mar"]);
  });
});

describe("bent scales", () => {
  const bent = (scale: "sqrt" | "symlog", low: number, high: number) =>
    continuousScale({ kind: "number", scale, domain: [low, high], range: [0, 600], nice: true, tickCount: 6 });
  const texts = (scale: "sqrt" | "symlog", low: number, high: number) =>
    bent(scale, low, high).ticks.map(({ text }) => text);

  test("have round ticks that stand apart", () => {
    expect(texts("sqrt", 0, 100)).toEqual(["0", "2", "10", "20", "50", "100"]);
    expect(texts("symlog", -1000, 1000)).toEqual(["−1,000", "−100", "−10", "0", "10", "100", "1,000"]);
    expect(texts("symlog", 0, 0).length).toBeGreaterThan(0);
  });

  test("a quarter of the way on a root scale is a sixteenth of the value", () => {
    expect(bent("sqrt", 0, 16).invert(150)).toBeCloseTo(1, 12);
    expect(bent("sqrt", -4, 4).place(0)).toBeCloseTo(300, 9);
  });

  test("lead back to the value", () => {
    fc.assert(
      fc.property(
        fc.constantFrom("sqrt" as const, "symlog" as const),
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
        fc.double({ min: 1e-3, max: 1e6, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (scale, low, room, part) => {
          const made = bent(scale, low, low + room);
          const value = low + room * part;
          const size = Math.max(Math.abs(low), room, 1);
          expect(Math.abs(made.invert(made.place(value)) - value)).toBeLessThan(size * 1e-6);
        },
      ),
    );
  });
});
