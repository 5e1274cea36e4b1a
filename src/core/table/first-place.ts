/**
 * The first place from `low` to before `high` from which on something holds; `high` where it holds nowhere.
 *
 * @param holds false up to some place, and true from there on
 */
export function firstPlace(low: number, high: number, holds: (place: number) => boolean): number {
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}
