import { quantileSorted } from "../formula/ordered";

/** What a box says of some values. */
export interface BoxNumbers {
  count: number;
  /** The least and the largest value within 1.5 times the distance of the quartiles from them. */
  low: number;
  q1: number;
  median: number;
  q3: number;
  high: number;
  /** True for values beyond the whiskers. */
  isBeyond(value: number): boolean;
}

/** How far whiskers reach, in distances of the quartiles (Tukey, Exploratory data analysis, 1977). */
const REACH = 1.5;

/** Quartiles and whiskers of values in rising order; nothing where there are none. */
export function boxNumbers(sorted: Float64Array): BoxNumbers | undefined {
  const count = sorted.length;
  if (count === 0) return undefined;
  const [q1, median, q3] = [0.25, 0.5, 0.75].map((part) => quantileSorted(sorted, count, part)) as [
    number,
    number,
    number,
  ];
  const [least, most] = [q1 - REACH * (q3 - q1), q3 + REACH * (q3 - q1)];
  const isBeyond = (value: number) => value < least || value > most;
  let [first, last] = [0, count - 1];
  while (first < count && isBeyond(sorted[first] as number)) first += 1;
  while (last >= 0 && isBeyond(sorted[last] as number)) last -= 1;
  // Whiskers never begin inside of the box, as they would where quartiles lie between far values.
  const low = Math.min(q1, sorted[first] ?? q1);
  const high = Math.max(q3, sorted[last] ?? q3);
  return { count, low, q1, median, q3, high, isBeyond };
}
