import type { ColumnInfo } from "../table/table";

const HOUR = 3600;
/** Decimals of seconds that are written at most. */
const MOST_DECIMALS = 3;

/**
 * How lengths of time with parts of a second are written, so that two which differ do not read the same; nothing
 * where all are whole seconds.
 */
export function fineLengths(values: Float64Array): ColumnInfo | undefined {
  let [decimals, longest] = [0, 0];
  for (const value of values) {
    if (value !== value) continue;
    const size = Math.abs(value);
    if (size > longest) longest = size;
    while (decimals < MOST_DECIMALS && !isWhole(size * 10 ** decimals)) decimals++;
  }
  return decimals ? { format: `${longest < HOUR ? "m:ss" : "h:mm:ss"}.${"0".repeat(decimals)}` } : undefined;
}

/** Whole but for what floats leave. */
const isWhole = (value: number): boolean => Math.abs(value - Math.round(value)) < 1e-6;
