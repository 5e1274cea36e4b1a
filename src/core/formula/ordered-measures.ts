import { type MakeMeasure, measuredBy, type OrderedMeasure } from "./measures";
import { type Ask, quantilePlace } from "./ordered";
import type { NumericVector, Vector } from "./vector";

/** Asks something of the known rows of each group; without `orderBy` in the table's order. */
function asked(args: readonly Vector[], length: number, ask: Ask, more?: Partial<OrderedMeasure>): OrderedMeasure {
  const { values, kind } = measuredBy(args, length);
  return { type: "ordered", kind, orderBy: null, known: values, ask, ...more };
}

/** Asks something of the known rows of each group in the order of their values. */
function askedInOrder(args: readonly Vector[], length: number, ask: Ask): OrderedMeasure {
  const measure = asked(args, length, ask);
  return { ...measure, orderBy: measure.known };
}

const quantile = (args: readonly Vector[], length: number, p: number) =>
  askedInOrder(args, length, { type: "place", at: (count) => quantilePlace(count, p) });

/** The value of the first row, or of the last; of texts it is a text. */
const rowAt =
  (placeAmong: (count: number) => number): MakeMeasure =>
  (args, length) => {
    const [argument] = args as [Vector];
    const text =
      argument.kind === "text"
        ? { kind: "text" as const, dictionary: argument.dictionary, ...(argument.ordered ? { ordered: true } : {}) }
        : {};
    return asked(args, length, { type: "place", at: (count) => (count === 0 ? Number.NaN : placeAmong(count)) }, text);
  };

/** Measures that ask for a place, an end or a count among rows in an order. */
export const ORDERED_MEASURES: Readonly<Record<string, MakeMeasure>> = {
  min: (args, length) => asked(args, length, { type: "least" }),
  max: (args, length) => asked(args, length, { type: "most" }),
  median: (args, length) => quantile(args, length, 0.5),
  quantile: (args, length) => quantile(args, length, (args[1] as NumericVector).values[0] as number),
  distinct: (args, length) => ({ ...askedInOrder(args, length, { type: "different" }), kind: "number" }),
  first: rowAt(() => 0),
  last: rowAt((count) => count - 1),
};
