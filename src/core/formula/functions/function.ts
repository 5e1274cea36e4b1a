import { Kit } from "../../finding/kit";
import type { NumericKind } from "../../table/column";
import type { Frame } from "../evaluate";
import type { Formula } from "../tree";
import { fillNumeric, type NumericVector, stepOf, type TextVector, type Vector } from "../vector";

/** A function of formulas, over whole columns. Kinds were checked before it is called. */
export type ValueFunction = (args: Vector[], length: number) => Vector;

/** A function that looks at other rows of the same table. It evaluates its arguments itself. */
export type RowFunction = (
  node: Formula & { type: "call" },
  frame: Frame,
  evaluate: (node: Formula, frame: Frame) => Vector,
) => Vector;

/** Functions of values, by name; the common ones are in every dashboard, others where a formula calls them. */
export const FUNCTIONS = new Kit<ValueFunction>("function");

/** Functions that look at other rows, by name. */
export const ROW_FUNCTIONS = new Kit<RowFunction>("function");

export const numeric = (vector: Vector | undefined) => vector as NumericVector;
export const text = (vector: Vector | undefined) => vector as TextVector;
/** Out of a function's domain, and overflow, is missing. */
export const finite = (value: number) => (Number.isFinite(value) ? value : Number.NaN);

/** A number from each row's numbers; missing in any of them is missing. */
export function ofNumbers(compute: (...values: number[]) => number, kind?: NumericKind): ValueFunction {
  return (args, length) => {
    const vectors = args.map(numeric);
    const out = kind ?? (vectors[0]?.kind === "duration" ? "duration" : "number");
    if (vectors.length === 1) {
      const { values, step } = vectors[0] as NumericVector;
      return fillNumeric(out, length, step, (row) => finite(compute(values[row] as number)));
    }
    const row2 = new Array<number>(vectors.length);
    return fillNumeric(out, length, stepOf(vectors), (row) => {
      for (let i = 0; i < vectors.length; i++) {
        const vector = vectors[i] as NumericVector;
        row2[i] = vector.values[row * vector.step] as number;
      }
      return finite(compute(...row2));
    });
  };
}

/** A part of a moment, as a number. */
export const ofMoment =
  (take: (seconds: number) => number): ValueFunction =>
  (args, length) => {
    const { values, step } = numeric(args[0]);
    return fillNumeric("number", length, step, (row) => {
      const value = values[row] as number;
      return value !== value ? value : take(value);
    });
  };
