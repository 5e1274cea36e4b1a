import { groupRows } from "../formula/groups";
import { isMerging } from "../steps/run";
import type { Origin, StackedPart, Step } from "../steps/step";
import type { Column } from "../table/column";
import { oneAfterTheOther } from "../table/one-after-other";
import type { Made } from "./lineage";

/**
 * Identity of rows between two makings of one table: with no selection on (its base), and from the
 * rows that a selection left above a merging step. A merged row is the base row with the same keys, or
 * where its step has none the one into which the same rows went; any other is the base row that was made
 * of the same row above.
 *
 * @param made the table made of the rows left
 * @param base the same steps over all rows
 * @param above for each row that went into `made`, the row that went into `base`
 * @returns the base row of each row of `made`; -1 where the base has no such row
 */
export function baseRowsOf(made: Made, base: Made, steps: readonly Step[], above: Int32Array): Int32Array {
  const choice = made.origins.length > base.origins.length ? steps.findIndex(isMerging) : -1;
  let now = above;
  base.origins.forEach((origin, at) => {
    if (at === choice) now = (made.origins[at] as Origin & { type: "rows" }).rows.map((row) => now[row] as number);
    now = after(made.origins[choice >= 0 && at >= choice ? at + 1 : at] as Origin, origin, now);
  });
  return now;
}

function after(own: Origin, base: Origin, now: Int32Array): Int32Array {
  const isTogether = own.type === "merged" || own.type === "pairs";
  if (isTogether && own.type === base.type && own.keys?.length && base.keys)
    return byKeys(own.keys, own.count, base.keys, base.count);
  if (own.type === "merged" && base.type === "merged") {
    const found = new Int32Array(own.count).fill(-1);
    own.into.forEach((row, before) => {
      const there = now[before] as number;
      if (row >= 0 && there >= 0) found[row] = base.into[there] as number;
    });
    return found;
  }
  if (own.type === "pairs" && base.type === "pairs") {
    const found = new Int32Array(own.count).fill(-1);
    const there = matched(own.from, base.from, now);
    there.forEach((pair, at) => {
      if (pair >= 0) found[own.to[at] as number] = base.to[pair] as number;
    });
    return found;
  }
  if (own.type === "rows" && base.type === "rows") {
    const found = matched(own.rows, base.rows, now);
    own.parts?.forEach(({ first, count }, part) => {
      const there = base.parts?.[part] as StackedPart;
      for (let row = 0; row < count; row++) found[first + row] = there.first + row;
    });
    return found;
  }
  return now;
}

/** For each merged row the one of the base with the same keys; -1 where there is none. */
function byKeys(own: readonly Column[], count: number, base: readonly Column[], baseCount: number): Int32Array {
  const both = own.map((column, at) => oneAfterTheOther(column, base[at]));
  const { of, count: different } = groupRows(both, count + baseCount);
  const places = new Int32Array(different).fill(-1);
  for (let row = 0; row < baseCount; row++) places[of[count + row] as number] = row;
  return Int32Array.from({ length: count }, (_, row) => places[of[row] as number] as number);
}

/** Places of `own` in `base` that speak of the same row: its first time there for the first time here, and so on. */
function matched(own: Int32Array, base: Int32Array, now: Int32Array): Int32Array {
  const places = new Map<number, number[]>();
  base.forEach((row, at) => {
    const known = places.get(row);
    if (known) known.push(at);
    else places.set(row, [at]);
  });
  const times = new Map<number, number>();
  return own.map((row) => {
    if (row < 0 || (now[row] as number) < 0) return -1;
    const time = times.get(row) ?? 0;
    times.set(row, time + 1);
    return places.get(now[row] as number)?.[time] ?? -1;
  });
}
