/** The next number above one that a 64-bit float can hold. */
export const justAbove = (value: number): number =>
  value + Math.max(Number.MIN_VALUE, Math.abs(value) * Number.EPSILON);

const known = new WeakMap<Float64Array, { extent: [least: number, largest: number] | undefined }>();

/** The least and the largest known value; nothing where none is known. */
export function extentOf(values: Float64Array): [least: number, largest: number] | undefined {
  const before = known.get(values);
  if (before) return before.extent;
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (let row = 0; row < values.length; row++) {
    const value = values[row] as number;
    if (value < low) low = value;
    if (value > high) high = value;
  }
  const extent: [number, number] | undefined = low <= high ? [low, high] : undefined;
  known.set(values, { extent });
  return extent;
}
