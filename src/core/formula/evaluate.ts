import { DAY } from "../table/calendar";
import type { Column, Scalar } from "../table/column";
import { textPlaces } from "../table/compare";
import { AGGREGATES } from "./aggregate-names";
import { type ArithmeticOperator, calculate, isArithmetic } from "./arithmetic";
import { FUNCTIONS, ROW_FUNCTIONS } from "./functions/function";
import "./functions/common";
import { answerMeasure, answerVector, makeMeasure } from "./measures";
import type { BinaryOperator, Formula } from "./tree";
import {
  constantNumber,
  constantOf,
  constantText,
  fillNumeric,
  type NumericVector,
  stepOf,
  type TextVector,
  type Vector,
  vectorOf,
} from "./vector";

/** Rows of one table as a formula sees them. */
export interface Frame {
  length: number;
  column: (name: string) => Column | undefined;
  setting: (name: string) => Scalar;
  /** The group of each row, over which aggregates spread; absent: all rows are one group. */
  groups?: { of: Int32Array; count: number };
  /** The order in which row functions go over the rows; absent: the table's own. */
  order?: Int32Array;
  /** A value that stands for a whole subtree, such as an aggregate already answered. */
  given?: (node: Formula) => Vector | undefined;
}

export function frameOf(
  table: { rowCount: number; columns: ReadonlyMap<string, Column> },
  setting: Frame["setting"] = () => null,
): Frame {
  return { length: table.rowCount, column: (name) => table.columns.get(name), setting };
}

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

/** An aggregate over the frame's groups, spread back over their rows. */
function spread(node: Formula & { type: "call" }, frame: Frame): Vector {
  if (node.name === "share") {
    const own = evaluate(node.arguments[0] as Formula, frame);
    const whole = evaluate(node.arguments[0] as Formula, {
      ...frame,
      groups: { of: new Int32Array(frame.length), count: 1 },
    });
    return arithmetic("/", own as NumericVector, whole as NumericVector, frame.length);
  }
  const args = node.arguments.map((argument) => evaluate(argument, frame));
  const groups = frame.groups ?? { of: new Int32Array(frame.length), count: 1 };
  const measure = makeMeasure(node.name, args, frame.length);
  const perGroup = answerVector(measure, answerMeasure(measure, groups.of, groups.count, null));
  if (groups.count === 1 && perGroup.kind !== "text")
    return constantNumber(perGroup.values[0] as number, perGroup.kind);
  if (perGroup.kind === "text")
    return { ...perGroup, codes: groups.of.map((group) => (group < 0 ? -1 : (perGroup.codes[group] as number))) };
  const values = new Float64Array(frame.length);
  for (let row = 0; row < frame.length; row++) {
    const group = groups.of[row] as number;
    values[row] = group < 0 ? Number.NaN : (perGroup.values[group] as number);
  }
  return { kind: perGroup.kind, values, step: 1 };
}

/**
 * Evaluates a checked formula over all rows of a frame, column by column.
 * Aggregates spread over the frame's groups. A column that is not there is missing.
 */
export function evaluate(node: Formula, frame: Frame): Vector {
  const given = frame.given?.(node);
  if (given) return given;
  const { length } = frame;
  switch (node.type) {
    case "number":
      return constantNumber(node.value);
    case "text":
      return constantText(node.value);
    case "boolean":
      return constantNumber(node.value ? 1 : 0, "boolean");
    case "missing":
    // Given by the recurrence that it stands in.
    case "before":
      return constantNumber(Number.NaN);
    // With nothing picked, and where no selections are known.
    case "selected":
      return node.kind === "text" || node.kind === "place"
        ? constantText(null)
        : constantNumber(Number.NaN, node.kind ?? "number");
    case "picked":
      return constantNumber(0, "boolean");
    case "column": {
      const column = frame.column(node.name);
      return column ? vectorOf(column) : constantNumber(Number.NaN);
    }
    case "setting":
      return constantOf(frame.setting(node.name));
    case "list":
      throw new RangeError("a list stands only after in");
    case "call":
      if (AGGREGATES.has(node.name)) return spread(node, frame);
      if (node.name === "chosen" || node.name === "agg") return chosenOf(node, frame);
      if (ROW_FUNCTIONS.has(node.name)) return ROW_FUNCTIONS.get(node.name)(node, frame, evaluate);
      return FUNCTIONS.get(node.name)(
        node.arguments.map((argument) => evaluate(argument, frame)),
        length,
      );
    case "minus": {
      const operand = evaluate(node.operand, frame) as NumericVector;
      return { kind: operand.kind, step: operand.step, values: operand.values.map((value) => -value) };
    }
    case "not": {
      const operand = evaluate(node.operand, frame) as NumericVector;
      return { kind: "boolean", step: operand.step, values: operand.values.map((value) => 1 - value) };
    }
    case "binary": {
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
    }
    case "between": {
      const value = evaluate(node.value, frame);
      const low = compare(">=", value, evaluate(node.low, frame), length);
      return logic("and", low, compare("<=", value, evaluate(node.high, frame), length), length);
    }
    case "in":
      return membership(
        evaluate(node.value, frame),
        node.list.type === "list"
          ? node.list.items.map((item) => evaluate(item, frame))
          : node.list.type === "setting"
            ? listOf(frame.setting(node.list.name)).map((item) => constantOf(item))
            : [],
        length,
      );
    case "of":
      return evaluate(node.aggregate, { ...frame, groups: undefined } as Frame);
  }
}

/** The values of a setting that is a list. */
export const listOf = (value: Scalar): (string | number)[] =>
  typeof value === "string" && value.startsWith("[") ? (JSON.parse(value) as (string | number)[]) : [];

/** Behind the setting stand all that it may choose: columns, or calls of aggregates. Its value names one of them. */
function chosenOf(node: Formula & { type: "call" }, frame: Frame): Vector {
  const [setting, ...options] = node.arguments as [Formula, ...Formula[]];
  const wanted = setting.type === "setting" ? frame.setting(setting.name) : null;
  const chosen = options.find(
    (option) => (option.type === "column" || option.type === "call") && option.name === wanted,
  );
  return chosen ? evaluate(chosen, frame) : constantNumber(Number.NaN);
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

/** Row numbers where a test is true; how many were false and how many missing. */
export function rowsWhere(
  test: Vector,
  length: number,
): { rows: Int32Array; falseCount: number; missingCount: number } {
  const { values, step } = test as NumericVector;
  const rows = new Int32Array(length);
  let count = 0;
  let missingCount = 0;
  for (let row = 0; row < length; row++) {
    const value = values[row * step] as number;
    if (value === 1) rows[count++] = row;
    else if (value !== value) missingCount += 1;
  }
  return { rows: rows.slice(0, count), falseCount: length - count - missingCount, missingCount };
}
