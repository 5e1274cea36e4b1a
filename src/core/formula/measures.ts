import { Kit } from "../finding/kit";
import type { NumericKind } from "../table/column";
import { type ExactValues, exactValues } from "../table/exact-sum";
import { ORDERED, type Ordered, type RowFilter } from "./ordered";
import type { Vector } from "./vector";

/**
 * A measure is an aggregate made ready over the rows of one table. Measures come in two sorts:
 * those that follow from running totals of integers, which can be added and taken away exactly,
 * and those that ask for a place, an end or a count among the rows of a group in an order.
 */
export interface TotalsMeasure {
  type: "totals";
  /** What each row adds to each total; `null` adds 1. All are integers. */
  contributions: (Float64Array | null)[];
  /** The answer from a group's totals. */
  finish: (totals: readonly number[]) => number;
  kind: NumericKind;
  /** Values too small to be held beside the others of their column; they count as 0. */
  lost?: ExactValues["lost"];
}

export interface OrderedMeasure extends Ordered {
  type: "ordered";
  kind: NumericKind | "text";
  dictionary?: readonly string[];
  ordered?: boolean;
}

export type Measure = TotalsMeasure | OrderedMeasure;

const exactCache = new WeakMap<Float64Array, ExactValues>();
const knownCache = new WeakMap<Float64Array, { flags: Float64Array | null }>();

/** Integer values of a column, made once per column. */
function exactOf(values: Float64Array): ExactValues {
  let exact = exactCache.get(values);
  if (!exact) {
    exact = exactValues(values);
    exactCache.set(values, exact);
  }
  return exact;
}

function hasMissing(values: Float64Array): boolean {
  for (let row = 0; row < values.length; row++) if (values[row] !== values[row]) return true;
  return false;
}

/** 1 where known, 0 where missing; `null` when every row is known. */
export function knownFlags(values: Float64Array): Float64Array | null {
  const cached = knownCache.get(values);
  if (cached) return cached.flags;
  let flags: Float64Array | null = null;
  if (hasMissing(values)) flags = values.map((value) => (value === value ? 1 : 0));
  knownCache.set(values, { flags });
  return flags;
}

/** The values of a vector spread over `length` rows; codes of texts as numbers, missing as `NaN`. */
export function numbersOf(vector: Vector, length: number): Float64Array {
  if (vector.kind !== "text")
    return vector.step ? vector.values : new Float64Array(length).fill(vector.values[0] as number);
  const values = new Float64Array(length);
  for (let row = 0; row < length; row++) {
    const code = vector.codes[row * vector.step] as number;
    values[row] = code < 0 ? Number.NaN : code;
  }
  return values;
}

/** Makes a measure ready over `length` rows, from what the call of its aggregate is given. */
export type MakeMeasure = (args: readonly Vector[], length: number) => Measure;

/** The first argument of an aggregate, as numbers, and the kinds of what comes of it. */
export interface Measured {
  values: Float64Array;
  /** That of values picked from the column, as the least. */
  kind: NumericKind;
  /** That of what is reckoned with them, as sums. */
  plain: NumericKind;
}

export function measuredBy([argument]: readonly Vector[], length: number): Measured {
  if (!argument) throw new RangeError("an aggregate without an argument");
  const kind: NumericKind = argument.kind === "text" ? "number" : argument.kind;
  return { values: numbersOf(argument, length), kind, plain: kind === "boolean" ? "number" : kind };
}

const count: MakeMeasure = ([argument], length) => ({
  type: "totals",
  kind: "number",
  contributions: [argument ? knownFlags(numbersOf(argument, length)) : null],
  finish: (totals) => totals[0] as number,
});

const sum: MakeMeasure = (args, length) => {
  const { values, plain } = measuredBy(args, length);
  const { parts, read, lost } = exactOf(values);
  return { type: "totals", kind: plain, contributions: parts, finish: (totals) => read(totals, 0), lost };
};

const mean: MakeMeasure = (args, length) => {
  const { values, kind, plain } = measuredBy(args, length);
  const { parts, read, lost } = exactOf(values);
  return {
    type: "totals",
    kind: kind === "date" ? "datetime" : plain,
    contributions: [knownFlags(values), ...parts],
    finish: (totals) => ((totals[0] as number) > 0 ? read(totals, 1) / (totals[0] as number) : Number.NaN),
    lost,
  };
};

/** Makers of measures, by the names of aggregates; counts, sums and means are in every dashboard. */
export const MEASURES = new Kit<MakeMeasure>("aggregate");
MEASURES.addAll({ count, sum, mean });

/** Makes the measure of an aggregate call ready over `length` rows. `share` is made by who knows the panel. */
export const makeMeasure = (name: string, args: readonly Vector[], length: number): Measure =>
  MEASURES.get(name)(args, length);

/** Adds up a contribution per group over the rows that pass. */
export function addTotals(
  contribution: Float64Array | null,
  groups: Int32Array,
  groupCount: number,
  filter: RowFilter | null,
): Float64Array {
  // A place more at the front takes what belongs to no group, so that no row needs to be asked.
  const totals = new Float64Array(groupCount + 1);
  const length = groups.length;
  if (!filter) {
    if (contribution)
      for (let row = 0; row < length; row++)
        totals[(groups[row] as number) + 1] =
          (totals[(groups[row] as number) + 1] as number) + (contribution[row] as number);
    else
      for (let row = 0; row < length; row++)
        totals[(groups[row] as number) + 1] = (totals[(groups[row] as number) + 1] as number) + 1;
    return totals.subarray(1);
  }
  // Rows that do not count go to the place at the front too: worked out in signs and not in branches,
  // of which a processor guesses every second one wrong where rows pass at random.
  for (let row = 0; row < length; row++) {
    const failed = filter[row] as number;
    const place = ((groups[row] as number) + 1) & (((failed | -failed) >>> 31) - 1);
    totals[place] = (totals[place] as number) + (contribution ? (contribution[row] as number) : 1);
  }
  return totals.subarray(1);
}

/** Answers any measure for every group by going over all rows: the plain way that every faster one must equal. */
export function answerMeasure(
  measure: Measure,
  groups: Int32Array,
  groupCount: number,
  filter: RowFilter | null,
): Float64Array {
  if (measure.type === "ordered") return ORDERED.get().answer(measure, groups, groupCount, filter);
  const totals = measure.contributions.map((contribution) => addTotals(contribution, groups, groupCount, filter));
  return finishTotals(measure, totals, groupCount);
}

/** Answers from the totals of a measure's contributions, one array each. */
export function finishTotals(
  measure: TotalsMeasure,
  totals: readonly Float64Array[],
  groupCount: number,
): Float64Array {
  const answers = new Float64Array(groupCount);
  const row = new Array<number>(totals.length);
  for (let group = 0; group < groupCount; group++) {
    for (let i = 0; i < totals.length; i++) row[i] = (totals[i] as Float64Array)[group] as number;
    answers[group] = measure.finish(row);
  }
  return answers;
}

/** The answers of a measure as a vector, one value a group. */
export function answerVector(measure: Measure, answers: Float64Array): Vector {
  if (measure.type === "ordered" && measure.kind === "text") {
    const codes = Int32Array.from(answers, (code) => (code === code ? code : -1));
    return {
      kind: "text",
      codes,
      dictionary: measure.dictionary ?? [],
      step: 1,
      ...(measure.ordered ? { ordered: true } : {}),
    };
  }
  return { kind: measure.kind as NumericKind, values: answers, step: 1 };
}
