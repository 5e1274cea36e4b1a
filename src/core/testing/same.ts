import { expect } from "vitest";

type Numbers = Float64Array | Int32Array | Uint8Array;

const isNumbers = (value: object): value is Numbers => ArrayBuffer.isView(value);

function areSame(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return false;
  if (Object.getPrototypeOf(a) !== Object.getPrototypeOf(b)) return false;
  if (isNumbers(a) || Array.isArray(a)) {
    const [one, other] = [a as ArrayLike<unknown>, b as ArrayLike<unknown>];
    if (one.length !== other.length) return false;
    for (let at = 0; at < one.length; at++) if (!areSame(one[at], other[at])) return false;
    return true;
  }
  const keys = Object.keys(a);
  if (keys.length !== Object.keys(b).length) return false;
  // Maps, dates and the like hold something else than keys, and are left to the comparison that knows them.
  if (keys.length === 0) return Object.getPrototypeOf(a) === Object.prototype;
  return keys.every((key) => areSame(a[key as keyof typeof a], b[key as keyof typeof b]));
}

/**
 * Expects two large values to be equal. This goes through arrays of numbers many times faster than the comparison that
 * also tells what differs; that one has the last word where they are not the same.
 */
export function expectSame(actual: unknown, expected: unknown, message?: string) {
  if (!areSame(actual, expected)) expect(actual, message).toEqual(expected);
}
