/** The least and the largest known value; nothing where none is known. */
export function extentOf(values: Float64Array): [least: number, largest: number] | undefined {
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (let row = 0; row < values.length; row++) {
    const value = values[row] as number;
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return low <= high ? [low, high] : undefined;
}
