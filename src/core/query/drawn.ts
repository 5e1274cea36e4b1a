import { groupRows } from "../formula/groups";
import type { Column } from "../table/column";
import type { Answer } from "./answer";
import type { Prepared } from "./prepare";

/**
 * The groups or rows that are drawn: those with rows that pass, and empty stretches of a series
 * that is there. A series without a passing row is not.
 * @param fits of single rows, 1 for those that have a place; each list leaves out the others
 */
export function drawnIds(answer: Answer, along: string, fits: readonly Uint8Array[] = []): Int32Array {
  const { counts, prepared } = answer;
  if (counts instanceof Uint8Array) return passingIds(counts, fits);
  const ids = new Int32Array(counts.length);
  let count = 0;
  if (!prepared.edges.has(along)) {
    for (let id = 0; id < counts.length; id++) if ((counts[id] as number) > 0) ids[count++] = id;
    return ids.slice(0, count);
  }
  const others = [...prepared.keys].filter(([name]) => name !== along).map(([, column]) => column);
  const series = seriesOf(prepared, others);
  const alive = new Uint8Array(series.count);
  for (let id = 0; id < counts.length; id++) if ((counts[id] as number) > 0) alive[series.of[id] as number] = 1;
  for (let id = 0; id < counts.length; id++) if (alive[series.of[id] as number]) ids[count++] = id;
  return ids.slice(0, count);
}

const filled = new WeakMap<Answer, Map<string, [first: number, last: number] | undefined>>();

/** Where the first and the last bin or period of a channel begin in which rows pass; of some groups or rows alone. */
export function filledStarts(
  answer: Answer,
  name: string,
  ids?: Int32Array,
): [first: number, last: number] | undefined {
  const column = answer.prepared.keys.get(name);
  if (!column || column.kind === "text") return undefined;
  const own = filled.get(answer) ?? new Map<string, [number, number] | undefined>();
  filled.set(answer, own);
  if (!ids && own.has(name)) return own.get(name);
  const { counts } = answer;
  let [first, last] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const length = ids?.length ?? counts.length;
  for (let at = 0; at < length; at++) {
    const id = ids ? (ids[at] as number) : at;
    const start = column.values[id] as number;
    if (!counts[id]) continue;
    if (start < first) first = start;
    if (start > last) last = start;
  }
  const found: [number, number] | undefined = first <= last ? [first, last] : undefined;
  if (!ids) own.set(name, found);
  return found;
}

/** The rows that pass: each is written down, and the next goes over it if it does not. */
function passingIds(passing: Uint8Array, [fits, ...more]: readonly Uint8Array[]): Int32Array {
  const { length } = passing;
  const ids = new Int32Array(length);
  let count = 0;
  if (fits)
    for (let id = 0; id < length; id++) {
      ids[count] = id;
      count += (passing[id] as number) & (fits[id] as number);
    }
  else
    for (let id = 0; id < length; id++) {
      ids[count] = id;
      count += passing[id] as number;
    }
  const found = ids.subarray(0, count);
  return more.reduce((left, other) => left.filter((id) => other[id] === 1), found);
}

/** How many groups or rows have anything in them. */
export function countFilled({ counts }: Answer): number {
  let filled = 0;
  for (let id = 0; id < counts.length; id++) if ((counts[id] as number) > 0) filled += 1;
  return filled;
}

const seriesCache = new WeakMap<Prepared, { of: Int32Array; count: number }>();

function seriesOf(prepared: Prepared, others: readonly Column[]): { of: Int32Array; count: number } {
  let series = seriesCache.get(prepared);
  if (!series) {
    series = others.length
      ? groupRows(others, prepared.groupCount)
      : { of: new Int32Array(prepared.groupCount), count: 1 };
    seriesCache.set(prepared, series);
  }
  return series;
}
