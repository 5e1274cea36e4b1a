import { expect, test } from "vitest";
import type { Column } from "../table/column";
import { aligned, formatAlone } from "./aligned";
import type { Channel } from "./query";

const formatOf = (...values: number[]) => {
  const column: Column = { kind: "number", values: Float64Array.from(values) };
  return aligned({ kind: "number" } as Channel, column).format;
};

test("numbers of a column have the decimals that one of them needs, as they were given", () => {
  expect(formatOf(1, 20, 300)).toBe(",.0f");
  expect(formatOf(1.5, 2, Number.NaN)).toBe(",.1f");
  expect(formatOf(1234.125, 2)).toBe(",.3f");
});

test("results have as many as their size asks for", () => {
  expect(formatOf(100 / 3, 200 / 7, 1e4 / 3)).toBe(",.2f");
  expect(formatOf(1e4 / 3, 2e4 / 3)).toBe(",.0f");
  expect(formatOf(1 / 3, 2 / 3, 0)).toBe(",.3f");
  expect(formatOf(0.0003 / 7)).toBe(",.7f");
  // Zeros that nobody counts are not written.
  expect(formatOf(1e-12 / 3, 1e-10 / 3)).toBe(".3~g");
  expect(formatOf(0, 0)).toBe(",.0f");
});

test("a number alone stands as it is, and a result by its size", () => {
  expect([12.25, 0, 1e6, 0.1 + 0.2 - 0.3].map(formatAlone)).toEqual([undefined, undefined, undefined, undefined]);
  expect([100 / 3, -2 / 3].map(formatAlone)).toEqual([",.2f", ",.3f"]);
});
