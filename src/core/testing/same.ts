import { isDeepStrictEqual } from "node:util";
import { expect } from "vitest";

/**
 * Expects two large values to be equal. The runtime's own comparison goes through arrays of numbers many times faster
 * than the one that also tells what differs; that one is asked when they are not the same.
 */
export function expectSame(actual: unknown, expected: unknown, message?: string) {
  if (!isDeepStrictEqual(actual, expected)) expect(actual, message).toEqual(expected);
}
