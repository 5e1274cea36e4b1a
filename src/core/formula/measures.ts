import type { NumericKind } from "../table/column";
import type { Double } from "../table/double-double";
import { centred, type ExactValues, exactValues, longSums, productSums, spread } from "../table/exact-sum";
import { type Ask, answerOrdered, type Ordered, quantilePlace, type RowFilter } from "./ordered";
import type { NumericVector, Vector } from "./vector";

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
function knownFlags(values: Float64Array): Float64Array | null {
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

/** The contributions of several sums one after the other, and where each begins. */
function lined(sums: readonly ExactValues[], first: number): { parts: Float64Array[]; places: number[] } {
  const places: number[] = [];
  let place = first;
  for (const { parts } of sums) {
    places.push(place);
    place += parts.length;
  }
  return { parts: sums.flatMap(({ parts }) => parts), places };
}

/** Variance and standard deviation, from exact sums of the values and of their squares. */
function squares(name: string, values: Float64Array, kind: NumericKind): TotalsMeasure {
  const { values: x, scale } = centred(values);
  const [sum, square] = [longSums(x), productSums(x, x)];
  const { parts, places } = lined([sum, square], 1);
  return {
    type: "totals",
    kind,
    contributions: [knownFlags(values), ...parts],
    finish: (totals) => {
      const n = totals[0] as number;
      if (n < 2) return Number.NaN;
      const s1 = sum.readLong(totals, places[0] as number);
      const scaled = Math.max(0, spread(n, square.readLong(totals, places[1] as number), s1, s1)) / (n * (n - 1));
      return name === "stdev" ? Math.sqrt(scaled) / scale : scaled / scale / scale;
    },
  };
}

/** How two measures go together, over the rows where both are known. */
function pairs(name: "corr" | "slope", xs: Float64Array, ys: Float64Array): TotalsMeasure {
  const both = xs.map((x, row) => (x === x && ys[row] === ys[row] ? 1 : Number.NaN));
  const [x, y] = [centred(xs, both), centred(ys, both)];
  const sums = [
    longSums(x.values),
    longSums(y.values),
    productSums(x.values, x.values),
    productSums(y.values, y.values),
    productSums(x.values, y.values),
  ];
  const { parts, places } = lined(sums, 1);
  return {
    type: "totals",
    kind: "number",
    contributions: [knownFlags(both), ...parts],
    finish: (totals) => {
      const n = totals[0] as number;
      const [sx, sy, sxx, syy, sxy] = sums.map(({ readLong }, at) => readLong(totals, places[at] as number)) as [
        Double,
        Double,
        Double,
        Double,
        Double,
      ];
      const [spreadX, spreadY, together] = [spread(n, sxx, sx, sx), spread(n, syy, sy, sy), spread(n, sxy, sx, sy)];
      if (n < 2 || !(spreadX > 0) || (name === "corr" && !(spreadY > 0))) return Number.NaN;
      if (name === "slope") return (together / spreadX) * (x.scale / y.scale);
      const product = spreadX * spreadY;
      // Of spreads that are tiny the product would be nothing.
      return Math.max(
        -1,
        Math.min(
          1,
          product > 1e-290 ? together / Math.sqrt(product) : together / Math.sqrt(spreadX) / Math.sqrt(spreadY),
        ),
      );
    },
  };
}

/** Makes the measure of an aggregate call ready over `length` rows. `share` is made by who knows the panel. */
export function makeMeasure(name: string, args: readonly Vector[], length: number): Measure {
  const argument = args[0];
  if (name === "count") {
    if (!argument)
      return { type: "totals", kind: "number", contributions: [null], finish: (totals) => totals[0] as number };
    const flags = knownFlags(numbersOf(argument, length));
    return { type: "totals", kind: "number", contributions: [flags], finish: (totals) => totals[0] as number };
  }
  if (!argument) throw new RangeError(`${name}() without an argument`);
  const values = numbersOf(argument, length);
  const kind: NumericKind = argument.kind === "text" ? "number" : argument.kind;
  const plain: NumericKind = kind === "boolean" ? "number" : kind;
  const ordered = (ask: Ask, more: Partial<OrderedMeasure> = {}): OrderedMeasure => ({
    type: "ordered",
    kind,
    orderBy: null,
    known: values,
    ask,
    ...more,
  });
  const quantile = (p: number) =>
    ordered({ type: "place", at: (count) => quantilePlace(count, p) }, { orderBy: values });
  switch (name) {
    case "sum": {
      const { parts, read, lost } = exactOf(values);
      return { type: "totals", kind: plain, contributions: parts, finish: (totals) => read(totals, 0), lost };
    }
    case "mean": {
      const { parts, read, lost } = exactOf(values);
      const mean: TotalsMeasure["finish"] = (totals) =>
        (totals[0] as number) > 0 ? read(totals, 1) / (totals[0] as number) : Number.NaN;
      return {
        type: "totals",
        kind: kind === "date" ? "datetime" : plain,
        contributions: [knownFlags(values), ...parts],
        finish: mean,
        lost,
      };
    }
    case "stdev":
      return squares(name, values, plain);
    case "variance":
      return squares(name, values, "number");
    case "corr":
    case "slope":
      // slope(y, x): the measured comes first, as in the formula of the line.
      return name === "corr"
        ? pairs("corr", values, numbersOf(args[1] as Vector, length))
        : pairs("slope", numbersOf(args[1] as Vector, length), values);
    case "min":
      return ordered({ type: "least" });
    case "max":
      return ordered({ type: "most" });
    case "median":
      return quantile(0.5);
    case "quantile":
      return quantile((args[1] as NumericVector).values[0] as number);
    case "distinct":
      return ordered({ type: "different" }, { kind: "number", orderBy: values });
    case "first":
    case "last": {
      const text =
        argument.kind === "text"
          ? { kind: "text" as const, dictionary: argument.dictionary, ...(argument.ordered ? { ordered: true } : {}) }
          : {};
      return ordered(
        { type: "place", at: (count) => (count === 0 ? Number.NaN : name === "first" ? 0 : count - 1) },
        text,
      );
    }
    default:
      throw new RangeError(`no aggregate ${name}`);
  }
}

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
  if (measure.type === "ordered") return answerOrdered(measure, groups, groupCount, filter);
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
