import { describe, expect, test } from "vitest";
import { boundMessage, keepBound, keepRoom, LIMITS, TooLarge } from "./limits";

describe("bounds", () => {
  test("say the number there was, the one there may be, and a way out", () => {
    expect(boundMessage("tableRows", 33_554_432, "the stack")).toBe(
      "the stack has 33,554,432 rows; at most 20,000,000 are taken. Keep or group rows before",
    );
    expect(boundMessage("formulaDepth", 10_000, "this formula")).toBe(
      "this formula has 10,000 levels; at most 500 are taken. Add its parts as columns of their own",
    );
  });
  test("are kept, the number itself still being taken", () => {
    expect(() => keepBound("tableRows", LIMITS.tableRows, "x")).not.toThrow();
    expect(() => keepBound("tableRows", LIMITS.tableRows + 1, "x")).toThrow(TooLarge);
    expect(() => keepBound("tableRows", Number.NaN, "x")).toThrow(TooLarge);
    expect(() => keepRoom(1_000_000, 101, "x")).toThrow("101,000,000 cells");
  });
});
