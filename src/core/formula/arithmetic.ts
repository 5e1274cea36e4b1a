import { Kit } from "../finding/kit";
import type { NumericVector } from "./vector";

/**
 * Arithmetic over a stretch of rows. Each operator is a function of its own, small enough for an
 * engine to make fast, and goes over a few thousand rows at a time, for which a constant is cheaply
 * spread so that no loop has to ask for it.
 * Division by zero and overflow are missing: `value - value` is 0 for what is finite and missing
 * for what is not, and taking that off needs no branch.
 */
export type Loop = (a: Float64Array, b: Float64Array, result: Float64Array, count: number) => void;

const add: Loop = (a, b, result, count) => {
  for (let row = 0; row < count; row++) {
    const value = (a[row] as number) + (b[row] as number);
    result[row] = value - (value - value);
  }
};

const subtract: Loop = (a, b, result, count) => {
  for (let row = 0; row < count; row++) {
    const value = (a[row] as number) - (b[row] as number);
    result[row] = value - (value - value);
  }
};

const multiply: Loop = (a, b, result, count) => {
  for (let row = 0; row < count; row++) {
    const value = (a[row] as number) * (b[row] as number);
    result[row] = value - (value - value);
  }
};

const divide: Loop = (a, b, result, count) => {
  for (let row = 0; row < count; row++) {
    const value = (a[row] as number) / (b[row] as number);
    result[row] = value - (value - value);
  }
};

/** Loops by their operators. Raising to a power comes with a part of its own. */
export const LOOPS = new Kit<Loop>("operator");

export const PLAIN_LOOPS: Readonly<Record<string, Loop>> = { "+": add, "-": subtract, "*": multiply, "/": divide };

export type ArithmeticOperator = "+" | "-" | "*" | "/" | "^";

const ARITHMETIC: ReadonlySet<string> = new Set(["+", "-", "*", "/", "^"]);

export const isArithmetic = (operator: string): operator is ArithmeticOperator => ARITHMETIC.has(operator);

/** Rows that are gone over at a time. */
const STRETCH = 8192;

/** A stretch of a constant's value, or the values themselves. */
const stretchOf = ({ values, step }: NumericVector, length: number) =>
  step ? values : new Float64Array(Math.min(STRETCH, length)).fill(values[0] as number);

/** Calculates every place of `result`, which may be the memory of one of the two. */
export function calculate(
  operator: ArithmeticOperator,
  left: NumericVector,
  right: NumericVector,
  result: Float64Array,
) {
  const { length } = result;
  const loop = LOOPS.get(operator);
  const [a, b] = [stretchOf(left, length), stretchOf(right, length)];
  for (let from = 0; from < length; from += STRETCH) {
    const end = Math.min(from + STRETCH, length);
    loop(
      left.step ? a.subarray(from, end) : a,
      right.step ? b.subarray(from, end) : b,
      result.subarray(from, end),
      end - from,
    );
  }
}
