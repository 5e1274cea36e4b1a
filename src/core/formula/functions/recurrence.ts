import { LIMITS, TooLarge } from "../../finding/limits";
import { calculate, isArithmetic } from "../arithmetic";
import type { Frame } from "../evaluate";
import { type Formula, partsOf, walk } from "../tree";
import { constantNumber, constantText, type NumericVector, type TextVector, type Vector } from "../vector";
import { runsOf } from "./runs";

type Evaluate = (node: Formula, frame: Frame) => Vector;

/** True if a node speaks of the result before; an inner recurrence has a `before` of its own. */
function holdsBefore(node: Formula): boolean {
  if (node.type === "before") return true;
  if (node.type === "call" && node.name === "recur") return holdsBefore(node.arguments[0] as Formula);
  return partsOf(node).some(holdsBefore);
}

/** The value of a vector in a row, as a vector of one row. */
function at(vector: Vector, row: number): Vector {
  const place = row * vector.step;
  if (vector.kind !== "text") return constantNumber(vector.values[place] as number, vector.kind);
  const code = vector.codes[place] as number;
  return { ...vector, codes: Int32Array.of(code), step: 0 };
}

/** What a node makes of the result before it, in a row. */
type Step = (row: number, before: number) => number;

/** A step over numbers alone; nothing where the node needs more than arithmetic. */
function numericStep(node: Formula, known: ReadonlyMap<Formula, Vector>): Step | undefined {
  const vector = known.get(node);
  if (vector) {
    if (vector.kind === "text") return undefined;
    const { values, step } = vector;
    return (row) => values[row * step] as number;
  }
  if (node.type === "before") return (_, before) => before;
  if (node.type === "minus") {
    const operand = numericStep(node.operand, known);
    return operand && ((row, before) => -operand(row, before));
  }
  if (node.type !== "binary" || !isArithmetic(node.operator)) return undefined;
  const [left, right] = [numericStep(node.left, known), numericStep(node.right, known)];
  if (!left || !right) return undefined;
  const { operator } = node;
  const [a, b, result] = [new Float64Array(1), new Float64Array(1), new Float64Array(1)];
  // The arithmetic of all formulas, so that a recurrence rounds as they do.
  return (row, before) => {
    a[0] = left(row, before);
    b[0] = right(row, before);
    calculate(operator, { kind: "number", values: a, step: 1 }, { kind: "number", values: b, step: 1 }, result);
    return result[0] as number;
  };
}

/**
 * A recurrence, row after row in the frame's order: the first row of each group has the start, every
 * other what the formula makes of the result before. All that does not follow from `before` is worked
 * out for whole columns ahead.
 */
export function recurrence(node: Formula & { type: "call" }, frame: Frame, evaluate: Evaluate): Vector {
  const [first, formula] = node.arguments as [Formula, Formula];
  const start = evaluate(first, frame);
  const known = new Map<Formula, Vector>();
  walk(formula, (part) => {
    if (holdsBefore(part)) return true;
    known.set(part, evaluate(part, frame));
    return false;
  });
  const own: Recurrence = { formula, known, frame, evaluate };
  return start.kind === "text" ? ofTexts(start, own) : ofNumbers(start, own);
}

/** A recurrence, ready to be worked out row by row. */
interface Recurrence {
  formula: Formula;
  /** What of it does not follow from `before`. */
  known: ReadonlyMap<Formula, Vector>;
  frame: Frame;
  evaluate: Evaluate;
}

/** Goes through the rows of each group in order; the first of a group begins anew. */
function eachRow(frame: Frame, take: (row: number, isFirst: boolean) => void) {
  const { rows, starts } = runsOf(frame);
  for (let run = 0; run + 1 < starts.length; run++)
    for (let place = starts[run] as number; place < (starts[run + 1] as number); place++)
      take(rows[place] as number, place === starts[run]);
}

/** Evaluates the formula for one row, whatever it holds. */
function oneRow({ formula, known, frame, evaluate }: Recurrence) {
  let row = 0;
  let before: Vector = constantNumber(Number.NaN);
  const single: Frame = {
    length: 1,
    column: () => undefined,
    setting: frame.setting,
    given: (part) => {
      if (part.type === "before") return before;
      const vector = known.get(part);
      return vector && at(vector, row);
    },
  };
  return (place: number, last: Vector): Vector => {
    row = place;
    before = last;
    return evaluate(formula, single);
  };
}

function ofNumbers(start: NumericVector, own: Recurrence): Vector {
  const values = new Float64Array(own.frame.length).fill(Number.NaN);
  const whole = oneRow(own);
  const step =
    numericStep(own.formula, own.known) ??
    ((row: number, before: number) =>
      (whole(row, constantNumber(before, start.kind)) as NumericVector).values[0] as number);
  let before = Number.NaN;
  eachRow(own.frame, (row, isFirst) => {
    before = isFirst ? (start.values[row * start.step] as number) : step(row, before);
    values[row] = before;
  });
  return { kind: start.kind, values, step: 1 };
}

function ofTexts(start: TextVector, own: Recurrence): Vector {
  const codes = new Int32Array(own.frame.length).fill(-1);
  const places = new Map<string, number>();
  let length = 0;
  const codeOf = (text: string): number => {
    const found = places.get(text);
    if (found !== undefined) return found;
    length += text.length;
    if (length > LIMITS.columnTextLength) throw new TooLarge("a recurrence of texts makes too long ones");
    places.set(text, places.size);
    return places.size - 1;
  };
  const textOf = ({ codes: [code = -1], dictionary }: TextVector) => (code < 0 ? null : (dictionary[code] as string));
  const whole = oneRow(own);
  let before: string | null = null;
  eachRow(own.frame, (row, isFirst) => {
    before = textOf((isFirst ? at(start, row) : whole(row, constantText(before))) as TextVector);
    codes[row] = before === null ? -1 : codeOf(before);
  });
  return { kind: "text", codes, dictionary: [...places.keys()], step: 1 };
}
