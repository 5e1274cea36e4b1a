import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { durationFormat, durationWriter } from "./duration-text";
import { isFormat, writer } from "./format";

const written = (format: string, value: number) => writer("duration", format)(value);

describe("lengths of time as text", () => {
  test.each<[string, number, string]>([
    ["h:mm:ss", 57.4, "0:00:57"],
    ["h:mm:ss", 90_061, "25:01:01"],
    ["h:mm", 5399, "1:30"],
    ["h:mm", -3600, "-1:00"],
    ["m:ss", 4510, "75:10"],
    ["m:ss.00", 57.12, "0:57.12"],
    ["m:ss.00", 59.999, "1:00.00"],
    ["m:ss.0", -61.25, "-1:01.3"],
    ["h:mm:ss.000", 3661.5, "1:01:01.500"],
    ["m:ss.00", -0.001, "0:00.00"],
    ["m:ss.00", Number.NaN, "–"],
    [",.1f", 90, "90.0"],
  ])("%s of %d", (format, value, text) => {
    expect(isFormat("duration", format)).toBe(true);
    expect(written(format, value)).toBe(text);
  });

  test.each(["mm:ss", "h:ss", "h:mm.00", "m:ss.0000", "h:mm:s", "m:ss.ff"])("%s is none", (format) => {
    expect(durationFormat(format)).toBeUndefined();
    expect(isFormat("duration", format)).toBe(false);
  });

  test("no part of a clock is ever 60, and what is written is the value to its last place", () => {
    const formats = ["h:mm:ss", "h:mm", "m:ss", "m:ss.00", "h:mm:ss.000"];
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1e7, noNaN: true }), fc.constantFrom(...formats), (value, format) => {
        const spec = durationFormat(format) as NonNullable<ReturnType<typeof durationFormat>>;
        const text = durationWriter(spec)(value);
        const parts = text.split(":").map(Number);
        expect(parts.slice(1).every((part) => part < 60)).toBe(true);
        const places = format.startsWith("m") ? [60, 1] : [3600, 60, 1];
        const back = parts.reduce((sum, part, at) => sum + part * (places[at] as number), 0);
        const unit = spec.seconds ? 10 ** -spec.decimals : 60;
        expect(Math.abs(back - value)).toBeLessThanOrEqual(unit / 2 + 1e-6);
      }),
    );
  });
});
