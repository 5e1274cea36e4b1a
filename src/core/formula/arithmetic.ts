/**
 * Arithmetic over whole columns. `wholeA` and `wholeB` are masks: -1 keeps a row's number, 0 makes it
 * the one place of a constant. Each operator is a function of its own, small enough for an engine to
 * make fast. Division by zero and overflow are missing: what is not finite is not nothing when it is
 * taken from itself.
 */
type Loop = (a: Float64Array, wholeA: number, b: Float64Array, wholeB: number, result: Float64Array) => void;

const add: Loop = (a, wholeA, b, wholeB, result) => {
  for (let row = 0; row < result.length; row++) {
    const value = (a[row & wholeA] as number) + (b[row & wholeB] as number);
    result[row] = value - value === 0 ? value : Number.NaN;
  }
};

const subtract: Loop = (a, wholeA, b, wholeB, result) => {
  for (let row = 0; row < result.length; row++) {
    const value = (a[row & wholeA] as number) - (b[row & wholeB] as number);
    result[row] = value - value === 0 ? value : Number.NaN;
  }
};

const multiply: Loop = (a, wholeA, b, wholeB, result) => {
  for (let row = 0; row < result.length; row++) {
    const value = (a[row & wholeA] as number) * (b[row & wholeB] as number);
    result[row] = value - value === 0 ? value : Number.NaN;
  }
};

const divide: Loop = (a, wholeA, b, wholeB, result) => {
  for (let row = 0; row < result.length; row++) {
    const value = (a[row & wholeA] as number) / (b[row & wholeB] as number);
    result[row] = value - value === 0 ? value : Number.NaN;
  }
};

const raise: Loop = (a, wholeA, b, wholeB, result) => {
  for (let row = 0; row < result.length; row++) {
    const base = a[row & wholeA] as number;
    // The engine says that anything to the power of 0 is 1, but missing stays missing.
    const value = base !== base ? base : base ** (b[row & wholeB] as number);
    result[row] = value - value === 0 ? value : Number.NaN;
  }
};

export const ARITHMETIC: Readonly<Record<"+" | "-" | "*" | "/" | "^", Loop>> = { "+": add, "-": subtract, "*": multiply, "/": divide, "^": raise };
