import { chance } from "../draws";
import { fillNumeric, type NumericVector, type Vector } from "../vector";
import { cosine, naturalLogarithm } from "./elementary";
import type { ValueFunction } from "./function";

/** A draw for every row from its parameters. `take` may ask for any number of chances. */
function draw(parameters: number, take: (chanceOf: (n: number) => number, ...values: number[]) => number) {
  return (args: Vector[], length: number): Vector => {
    const vectors = args as NumericVector[];
    const [seed, stream] = [vectors[parameters]?.values[0] ?? 0, vectors[parameters + 1]?.values[0] ?? 0];
    return fillNumeric("number", length, 1, (row) => {
      const values = vectors.slice(0, parameters).map((vector) => vector.values[row * vector.step] as number);
      const value = take((n) => chance(seed, stream * 2 + n, row), ...values);
      return Number.isFinite(value) ? value : Number.NaN;
    });
  };
}

/** Draws of random numbers, by name. Their help stands in signatures.ts. */
export const DRAW_FUNCTIONS: Readonly<Record<string, ValueFunction>> = {
  uniform: draw(2, (chanceOf, low, high) => (low as number) + chanceOf(0) * ((high as number) - (low as number))),
  // By Box and Muller, A note on the generation of random normal deviates, 1958.
  normal: draw(2, (chanceOf, mean, deviation) =>
    (deviation as number) >= 0
      ? (mean as number) +
        (deviation as number) * Math.sqrt(-2 * naturalLogarithm(chanceOf(0))) * cosine(2 * Math.PI * chanceOf(1))
      : Number.NaN,
  ),
  exponential: draw(1, (chanceOf, rate) =>
    (rate as number) > 0 ? -naturalLogarithm(chanceOf(0)) / (rate as number) : Number.NaN,
  ),
};
