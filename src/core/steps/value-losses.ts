import { evaluate, type Frame } from "../formula/evaluate";
import { numbersOf } from "../formula/measures";
import { type Formula, walk } from "../formula/tree";
import type { Loss } from "./step";

/** Functions that read texts; what they cannot read is missing. */
const READING = new Set(["number", "date", "datetime", "duration"]);

/**
 * Rows in which a formula loses a value that it was given: by dividing something known by zero, or by
 * reading a text that is no number, date or length of time. The rows stay; the ledger says it.
 * Into a node that the frame answers as a whole nothing is looked.
 */
export function valueLosses(
  formula: Formula,
  frame: Frame,
  name: string,
  isOneValue: (node: Formula) => boolean = () => false,
): Loss[] {
  const divisions: (Formula & { type: "binary" })[] = [];
  const readings: (Formula & { type: "call" })[] = [];
  walk(formula, (node) => {
    if (isOneValue(node)) return false;
    if (node.type === "binary" && node.operator === "/") divisions.push(node);
    if (node.type === "call" && READING.has(node.name)) readings.push(node);
    // What stands inside an aggregate over other rows is no value of a row.
    return node.type !== "of";
  });
  const losses: Loss[] = [];
  const divided = divisions.length ? dividedByZero(divisions, frame) : 0;
  if (divided) losses.push({ rows: divided, reason: `divided by zero in ${name}` });
  for (const node of readings) {
    const unreadable = unreadableIn(node, frame);
    if (unreadable) losses.push({ rows: unreadable, reason: `unreadable as a ${node.name} in ${name}` });
  }
  return losses;
}

function dividedByZero(divisions: readonly (Formula & { type: "binary" })[], frame: Frame): number {
  const failed = new Set<number>();
  for (const { left, right } of divisions) {
    const [above, below] = [evaluate(left, frame), evaluate(right, frame)];
    if (above.kind === "text" || below.kind === "text") continue;
    const { values, step } = above;
    // A row counts once, however many of its divisions fail.
    for (const row of zeros(numbersOf(below, frame.length))) if (!Number.isNaN(values[row * step])) failed.add(row);
  }
  return failed.size;
}

/** So many rows behind a zero are looked at one by one: zeros come in company, and each search from afresh costs. */
const NEAR = 16;

/** The rows in which a column is zero. */
function zeros(values: Float64Array): number[] {
  const rows: number[] = [];
  let row = values.indexOf(0);
  while (row >= 0) {
    rows.push(row);
    const far = Math.min(row + NEAR, values.length);
    let next = row + 1;
    while (next < far && values[next] !== 0) next += 1;
    row = next < far ? next : values.indexOf(0, far);
  }
  return rows;
}

function unreadableIn(node: Formula & { type: "call" }, frame: Frame): number {
  const text = evaluate(node.arguments[0] as Formula, frame);
  const read = evaluate(node, frame);
  if (text.kind !== "text" || read.kind === "text") return 0;
  let count = 0;
  for (let row = 0; row < frame.length; row++)
    if ((text.codes[row * text.step] as number) >= 0 && Number.isNaN(read.values[row * read.step])) count += 1;
  return count;
}
