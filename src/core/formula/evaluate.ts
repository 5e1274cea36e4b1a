import type { Column, Scalar } from "../table/column";
import { AGGREGATES } from "./aggregate-names";
import { FUNCTIONS, ROW_FUNCTIONS } from "./functions/function";
import { answerMeasure, answerVector, makeMeasure } from "./measures";
import { operator } from "./operator";
import type { Formula } from "./tree";
import { constantNumber, constantOf, constantText, type NumericVector, type Vector, vectorOf } from "./vector";

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

/** An aggregate over the frame's groups, spread back over their rows. */
function spread(node: Formula & { type: "call" }, frame: Frame): Vector {
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
      if (node.name === "share") return operator("share")(node, frame, evaluate);
      if (AGGREGATES.has(node.name)) return spread(node, frame);
      if (node.name === "chosen" || node.name === "agg") return chosenOf(node, frame);
      if (ROW_FUNCTIONS.has(node.name)) return ROW_FUNCTIONS.get(node.name)(node, frame, evaluate);
      return FUNCTIONS.get(node.name)(
        node.arguments.map((argument) => evaluate(argument, frame)),
        length,
      );
    case "of":
      return evaluate(node.aggregate, { ...frame, groups: undefined } as Frame);
    default:
      return operator(node.type)(node, frame, evaluate);
  }
}

/** Behind the setting stand all that it may choose: columns, or calls of aggregates. Its value names one of them. */
function chosenOf(node: Formula & { type: "call" }, frame: Frame): Vector {
  const [setting, ...options] = node.arguments as [Formula, ...Formula[]];
  const wanted = setting.type === "setting" ? frame.setting(setting.name) : null;
  const chosen = options.find(
    (option) => (option.type === "column" || option.type === "call") && option.name === wanted,
  );
  return chosen ? evaluate(chosen, frame) : constantNumber(Number.NaN);
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
