import type { Loop } from "../arithmetic";
import {
  arcTangent,
  cosine,
  decimalLogarithm,
  exponential,
  naturalLogarithm,
  power,
  sine,
  tangent,
} from "./elementary";
import { ofNumbers, type ValueFunction } from "./function";
import { bearingDegrees, distanceKilometres } from "./geography";

/** One number to the power of another, over a stretch of rows. */
export const raise: Loop = (a, b, result, count) => {
  for (let row = 0; row < count; row++) {
    const value = power(a[row] as number, b[row] as number);
    result[row] = value - (value - value);
  }
};

/** Functions that are more than arithmetic, by name. Their help stands in signatures.ts. */
export const NUMBER_FUNCTIONS: Readonly<Record<string, ValueFunction>> = {
  exp: ofNumbers(exponential, "number"),
  ln: ofNumbers(naturalLogarithm, "number"),
  log10: ofNumbers(decimalLogarithm, "number"),
  sin: ofNumbers(sine, "number"),
  cos: ofNumbers(cosine, "number"),
  tan: ofNumbers(tangent, "number"),
  atan2: ofNumbers(arcTangent, "number"),
  distance_km: ofNumbers(distanceKilometres as (...values: number[]) => number, "number"),
  bearing: ofNumbers(bearingDegrees as (...values: number[]) => number, "number"),
};
