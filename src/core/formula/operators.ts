import { DAY } from "../table/calendar";
import { textPlaces } from "../table/compare";
import { type ArithmeticOperator, calculate, isArithmetic } from "./arithmetic";
import type { Frame } from "./evaluate";
import { listOf } from "./list-setting";
import type { Operator } from "./operator";
import type { BinaryOperator, Formula } from "./tree";
import {
  constantNumber,
  constantOf,
  fillNumeric,
  type NumericVector,
  stepOf,
  type TextVector,
  type Vector,
} from "./vector";

const isMoment = (vector: Vector) => vector.kind === "date" || vector.kind === "datetime";

/** A datetime compared with a date is cut to its day. */
function cutToDay(vector: NumericVector): NumericVector {
  return { kind: "date", step: vector.step, values: vector.values.map((value) => Math.floor(value / DAY) * DAY) };
}

function compareTexts(operator: BinaryOperator, left: TextVector, right: TextVector, length: number): NumericVector {
  const merged = [...new Set([...left.dictionary, ...right.dictionary])];
  const places = textPlaces(merged, left.ordered === true && right.step === 0);
  const placeOf = new Map(merged.map((text, code) => [text, places[code] as number]));
  const rank = (vector: TextVector) => Float64Array.from(vector.dictionary, (text) => placeOf.get(text) as number);
  const [ranksLeft, ranksRight] = [rank(left), rank(right)];
  const numbers = (vector: TextVector, byCode: Float64Array): NumericVector => ({
    kind: "number",
    step: vector.step,
    values: Float64Array.from(vector.codes, (code) => (code < 0 ? Number.NaN : (byCode[code] as number))),
  });
  return compareNumbers(operator, numbers(left, ranksLeft), numbers(right, ranksRight), length);
}

/** A mask that keeps a row's number, or makes it 0 for a constant: engines know an `&` to be whole, a product not. */
const placesOf = (vector: Vector) => (vector.step ? -1 : 0);

function compareNumbers(
  operator: BinaryOperator,
  left: NumericVector,
  right: NumericVector,
  length: number,
): NumericVector {
  const step = stepOf([left, right]);
  const result = new Float64Array(step ? length : 1);
  const { values: a } = left;
  const { values: b } = right;
  const [wholeA, wholeB] = [placesOf(left), placesOf(right)];
  for (let row = 0; row < result.length; row++) {
    const x = a[row & wholeA] as number;
    const y = b[row & wholeB] as number;
    if (x !== x || y !== y) {
      result[row] = Number.NaN;
      continue;
    }
    let holds: boolean;
    if (operator === "<") holds = x < y;
    else if (operator === "<=") holds = x <= y;
    else if (operator === ">") holds = x > y;
    else if (operator === ">=") holds = x >= y;
    else if (operator === "=") holds = x === y;
    else holds = x !== y;
    result[row] = holds ? 1 : 0;
  }
  return { kind: "boolean", values: result, step };
}

function compare(operator: BinaryOperator, left: Vector, right: Vector, length: number): NumericVector {
  if (left.kind === "text" && right.kind === "text") return compareTexts(operator, left, right, length);
  if (left.kind === "text" || right.kind === "text") return constantNumber(Number.NaN, "boolean");
  if (isMoment(left) && isMoment(right) && left.kind !== right.kind)
    return compareNumbers(operator, cutToDay(left), cutToDay(right), length);
  return compareNumbers(operator, left, right, length);
}

/** Three-valued logic: missing and false is false, missing or true is true. */
function logic(operator: "and" | "or", left: NumericVector, right: NumericVector, length: number): NumericVector {
  const deciding = operator === "and" ? 0 : 1;
  const step = stepOf([left, right]);
  const result = new Float64Array(step ? length : 1);
  const { values: a } = left;
  const { values: b } = right;
  const [wholeA, wholeB] = [placesOf(left), placesOf(right)];
  for (let row = 0; row < result.length; row++) {
    const x = a[row & wholeA] as number;
    const y = b[row & wholeB] as number;
    if (x === deciding || y === deciding) result[row] = deciding;
    else result[row] = x !== x || y !== y ? Number.NaN : 1 - deciding;
  }
  return { kind: "boolean", values: result, step };
}

function arithmeticKind(operator: BinaryOperator, left: Vector, right: Vector): NumericVector["kind"] {
  const [a, b] = [left.kind, right.kind];
  if (operator === "-" && isMoment(left) && isMoment(right)) return "duration";
  if (isMoment(left) || isMoment(right)) return "datetime";
  if (operator === "/" && a === "duration" && b === "duration") return "number";
  return a === "duration" || b === "duration" ? "duration" : "number";
}

/** `into` is memory that nobody else reads any more, if there is some. */
function arithmetic(
  operator: ArithmeticOperator,
  left: NumericVector,
  right: NumericVector,
  length: number,
  into?: Float64Array,
): NumericVector {
  const step = stepOf([left, right]);
  const result = into ?? new Float64Array(step ? length : 1);
  calculate(operator, left, right, result);
  return { kind: arithmeticKind(operator, left, right), values: result, step };
}

function membership(value: Vector, items: Vector[], length: number): NumericVector {
  if (value.kind === "text") {
    const wanted = new Set(
      items.map((item) => (item.kind === "text" ? item.dictionary[item.codes[0] as number] : undefined)),
    );
    const byCode = Float64Array.from(value.dictionary, (text) => (wanted.has(text) ? 1 : 0));
    return fillNumeric("boolean", length, value.step, (row) => {
      const code = value.codes[row * value.step] as number;
      return code < 0 ? Number.NaN : (byCode[code] as number);
    });
  }
  const wanted = new Set(items.map((item) => (item.kind === "text" ? Number.NaN : (item.values[0] as number))));
  const daysOnly = value.kind === "datetime" && items.some((item) => item.kind === "date");
  return fillNumeric("boolean", length, value.step, (row) => {
    const found = value.values[row * value.step] as number;
    if (found !== found) return found;
    return wanted.has(daysOnly ? Math.floor(found / DAY) * DAY : found) ? 1 : 0;
  });
}

/**
 * The memory of a vector that was made a moment ago by arithmetic and is read once more: what comes of it can be
 * written over it.
 */
function passing(node: Formula, vector: Vector, frame: Frame): Float64Array | undefined {
  return node.type === "binary" &&
    isArithmetic(node.operator) &&
    !frame.given &&
    vector.kind !== "text" &&
    vector.step === 1
    ? vector.values
    : undefined;
}

type Node<Type extends Formula["type"]> = Operator<Formula & { type: Type }>;

const minus: Node<"minus"> = (node, frame, evaluate) => {
  const operand = evaluate(node.operand, frame) as NumericVector;
  return { kind: operand.kind, step: operand.step, values: operand.values.map((value) => -value) };
};

const not: Node<"not"> = (node, frame, evaluate) => {
  const operand = evaluate(node.operand, frame) as NumericVector;
  return { kind: "boolean", step: operand.step, values: operand.values.map((value) => 1 - value) };
};

const binary: Node<"binary"> = (node, frame, evaluate) => {
  const { length } = frame;
  const left = evaluate(node.left, frame);
  const right = evaluate(node.right, frame);
  if (node.operator === "and" || node.operator === "or")
    return logic(node.operator, left as NumericVector, right as NumericVector, length);
  if (!isArithmetic(node.operator)) return compare(node.operator, left, right, length);
  return arithmetic(
    node.operator,
    left as NumericVector,
    right as NumericVector,
    length,
    passing(node.left, left, frame) ?? passing(node.right, right, frame),
  );
};

const between: Node<"between"> = (node, frame, evaluate) => {
  const { length } = frame;
  const value = evaluate(node.value, frame);
  const low = compare(">=", value, evaluate(node.low, frame), length);
  return logic("and", low, compare("<=", value, evaluate(node.high, frame), length), length);
};

const isIn: Node<"in"> = ({ value, list }, frame, evaluate) => {
  const items =
    list.type === "list"
      ? list.items.map((item) => evaluate(item, frame))
      : list.type === "setting"
        ? listOf(frame.setting(list.name)).map((item) => constantOf(item))
        : [];
  return membership(evaluate(value, frame), items, frame.length);
};

/** What an aggregate over each group is of that over all rows. */
const share: Node<"call"> = (node, frame, evaluate) => {
  const part = node.arguments[0] as Formula;
  const own = evaluate(part, frame);
  const whole = evaluate(part, { ...frame, groups: { of: new Int32Array(frame.length), count: 1 } });
  return arithmetic("/", own as NumericVector, whole as NumericVector, frame.length);
};

/** Operators by the type of their node, and shares, which divide. */
export const ALL_OPERATORS = { minus, not, binary, between, in: isIn, share };
