/**
 * Arithmetic over whole columns. `wholeA` and `wholeB` are masks: -1 keeps a row's number, 0 makes it
 * the one place of a constant. Each operator is a function of its own, small enough for an engine to
 * make fast. Division by zero and overflow are missing: `value - value` is 0 for what is finite and
 * missing for what is not, and taking that off needs no branch.
 */
type Loop = (a: Float64Array, wholeA: number, b: Float64Array, wholeB: number, result: Float64Array) => void;

const add: Loop = (a, wholeA, b, wholeB, result) => {
  for (let row = 0; row < result.length; row++) {
    const value = (a[row & wholeA] as number) + (b[row & wholeB] as number);
    result[row] = value - (value - value);
  }
};

const subtract: Loop = (a, wholeA, b, wholeB, result) => {
  for (let row = 0; row < result.length; row++) {
    const value = (a[row & wholeA] as number) - (b[row & wholeB] as number);
    result[row] = value - (value - value);
  }
};

const multiply: Loop = (a, wholeA, b, wholeB, result) => {
  for (let row = 0; row < result.length; row++) {
    const value = (a[row & wholeA] as number) * (b[row & wholeB] as number);
    result[row] = value - (value - value);
  }
};

const divide: Loop = (a, wholeA, b, wholeB, result) => {
  for (let row = 0; row < result.length; row++) {
    const value = (a[row & wholeA] as number) / (b[row & wholeB] as number);
    result[row] = value - (value - value);
  }
};

const raise: Loop = (a, wholeA, b, wholeB, result) => {
  for (let row = 0; row < result.length; row++) {
    const base = a[row & wholeA] as number;
    // The engine says that anything to the power of 0 is 1, but missing stays missing.
    const value = base !== base ? base : base ** (b[row & wholeB] as number);
    result[row] = value - (value - value);
  }
};

export const ARITHMETIC: Readonly<Record<"+" | "-" | "*" | "/" | "^", Loop>> = { "+": add, "-": subtract, "*": multiply, "/": divide, "^": raise };
