import { describe, expect, test } from "vitest";
import { writer } from "../core/formula/format";
import { readIsoDate } from "../core/table/time-text";
import { fromTo } from "./selection-text";

const day = writer("date", "%-d %b %Y");
const month = writer("date", "%b %Y");
const range = (from: string, to: string): [number, number] => [readIsoDate(from), readIsoDate(to)];

describe("the ends of a range", () => {
  test("are said as they are", () => {
    expect(fromTo(String, [8, 20])).toBe("8 to 20");
    expect(fromTo(day, range("2025-03-01", "2025-06-01"))).toBe("1 Mar 2025 to 1 Jun 2025");
  });
  test("of whole periods are the first and the last one in it", () => {
    expect(fromTo(month, range("2025-03-01", "2025-06-01"), true)).toBe("Mar 2025 to May 2025");
    expect(fromTo(month, range("2025-03-01", "2025-04-01"), true)).toBe("Mar 2025");
    expect(fromTo(day, range("2026-02-16", "2026-02-25"), true)).toBe("16 Feb 2026 to 24 Feb 2026");
  });
  test("of hours are the moments that they go between", () => {
    const [low] = range("2025-03-01", "2025-03-02");
    const hour = writer("datetime", "%H:%M");
    expect(fromTo(hour, [low + 36_000, low + 43_200], true)).toBe("10:00 to 12:00");
  });
});
