import { gather } from "../../table/column";
import { ranks } from "../../table/compare";
import { exactValues } from "../../table/exact-sum";
import type { Frame } from "../evaluate";
import { columnOf, type NumericVector, type Vector } from "../vector";
import type { RowFunction } from "./function";
import { recurrence } from "./recurrence";
import { runsOf } from "./runs";

/**
 * Functions that look at other rows of the same table: the row before, a running total, a rank.
 * They go over the rows of each group in the frame's order; without one, in the table's own.
 */

type OverRows = (args: Vector[], frame: Frame) => Vector;

/** The value so many rows away in the order; beyond either end, and where the distance is no number, missing. */
const shifted =
  (direction: 1 | -1): OverRows =>
  (args, frame) => {
    const [value, distance] = args as [Vector, NumericVector | undefined];
    const away = Math.trunc(distance ? (distance.values[0] as number) : 1) * direction;
    const { rows, starts } = runsOf(frame);
    const from = new Int32Array(frame.length).fill(-1);
    if (away === away) {
      for (let run = 0; run + 1 < starts.length; run++) {
        const [start, end] = [starts[run] as number, starts[run + 1] as number];
        for (let at = start; at < end; at++) {
          const other = at + away;
          if (other >= start && other < end) from[rows[at] as number] = rows[other] as number;
        }
      }
    }
    return { ...gather(columnOf(value, frame.length), from), step: 1 };
  };

/** Calls `make` for every run; it fills in the numbers of its rows. */
function overRuns(
  kind: NumericVector["kind"],
  frame: Frame,
  make: (rows: Int32Array, values: Float64Array) => void,
): NumericVector {
  const { rows, starts } = runsOf(frame);
  const values = new Float64Array(frame.length).fill(Number.NaN);
  for (let run = 0; run + 1 < starts.length; run++) make(rows.subarray(starts[run], starts[run + 1]), values);
  return { kind, values, step: 1 };
}

/** Sums of integers, so that a total of tenths is the tenths' total, and what leaves a window leaves nothing behind. */
function moving(
  argument: Vector,
  frame: Frame,
  width: number,
  finish: (sum: number, known: number) => number,
): NumericVector {
  const column = columnOf(argument, frame.length) as NumericVector;
  const exact = exactValues(column.values);
  return overRuns(column.kind === "boolean" ? "number" : column.kind, frame, (rows, values) => {
    const totals = exact.parts.map(() => 0);
    let known = 0;
    rows.forEach((row, at) => {
      const count = (place: number, sign: 1 | -1) => {
        exact.parts.forEach((part, limb) => {
          totals[limb] = (totals[limb] as number) + sign * (part[place] as number);
        });
        if (column.values[place] === column.values[place]) known += sign;
      };
      count(row, 1);
      if (at >= width) count(rows[at - width] as number, -1);
      values[row] = finish(exact.read(totals, 0), known);
    });
  });
}

function rank(args: Vector[], frame: Frame): Vector {
  const keys = ranks(columnOf(args[0] as Vector, frame.length));
  return overRuns("number", frame, (rows, values) => {
    const sorted = rows
      .filter((row) => !Number.isNaN(keys[row]))
      .sort((a, b) => (keys[a] as number) - (keys[b] as number));
    let first = 0;
    sorted.forEach((row, at) => {
      if (keys[row] !== keys[sorted[first] as number]) first = at;
      values[row] = first + 1;
    });
  });
}

/** Functions over values that were made ready for all rows. */
const OVER_ROWS: Readonly<Record<string, OverRows>> = {
  previous: shifted(-1),
  next: shifted(1),
  row: (_, frame) =>
    overRuns("number", frame, (rows, values) => {
      rows.forEach((row, at) => {
        values[row] = at + 1;
      });
    }),
  running_total: ([argument], frame) => moving(argument as Vector, frame, Number.POSITIVE_INFINITY, (sum) => sum),
  moving_mean: ([argument, width], frame) => {
    const rows = Math.trunc((width as NumericVector).values[0] as number);
    return rows >= 1
      ? moving(argument as Vector, frame, rows, (sum, known) => (known ? sum / known : Number.NaN))
      : overRuns("number", frame, () => undefined);
  },
  rank,
};

/** Functions that look at other rows, by name. Their help stands in signatures.ts. */
export const FUNCTIONS_OVER_ROWS: Readonly<Record<string, RowFunction>> = {
  ...Object.fromEntries(
    Object.entries(OVER_ROWS).map(([name, make]): [string, RowFunction] => [
      name,
      (node, frame, evaluate) =>
        make(
          node.arguments.map((argument) => evaluate(argument, frame)),
          frame,
        ),
    ]),
  ),
  recur: recurrence,
};
