import { quantilePlace, valueAtPlace } from "../formula/ordered";

/** Values in rising order, asked for one by one. */
export interface SortedValues {
  count: number;
  /** The value at a place, counted from 0. */
  at(place: number): number;
  /** The least value that is at or above a limit, and the largest at or below one. */
  leastFrom(limit: number): number | undefined;
  mostTo(limit: number): number | undefined;
}

/** What a box says of some values. */
export interface BoxNumbers {
  count: number;
  /** The least and the largest value within 1.5 times the distance of the quartiles from them. */
  low: number;
  q1: number;
  median: number;
  q3: number;
  high: number;
  /** How far whiskers may reach: rows with values beyond are drawn by themselves. */
  reach: [least: number, most: number];
}

/** How far whiskers reach, in distances of the quartiles (Tukey, Exploratory data analysis, 1977). */
const REACH = 1.5;

/** Quartiles and whiskers of values in rising order; nothing where there are none. */
export function boxNumbers(sorted: SortedValues): BoxNumbers | undefined {
  const { count } = sorted;
  if (count === 0) return undefined;
  const [q1, median, q3] = [0.25, 0.5, 0.75].map((part) =>
    valueAtPlace(quantilePlace(count, part), (place) => sorted.at(place)),
  ) as [number, number, number];
  const reach: BoxNumbers["reach"] = [q1 - REACH * (q3 - q1), q3 + REACH * (q3 - q1)];
  // Whiskers never begin inside of the box, as they would where quartiles lie between far values.
  const low = Math.min(q1, sorted.leastFrom(reach[0]) ?? q1);
  const high = Math.max(q3, sorted.mostTo(reach[1]) ?? q3);
  return { count, low, q1, median, q3, high, reach };
}
