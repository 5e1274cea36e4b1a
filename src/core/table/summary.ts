import type { Column, Kind } from "./column";

/** One column summed up: enough for a head with a small picture, and for a page of all columns. */
export interface ColumnSummary {
  kind: Kind;
  rows: number;
  missing: number;
  /** Different known values; for long numeric columns counted up to {@link MOST_DISTINCT}. */
  distinct: number;
  /** Set for numbers and moments of which at least one is known. */
  range?: { least: number; most: number; mean: number; quartiles: [number, number, number] };
  /** Rows in equal stretches from least to most, or in each of the most frequent values. */
  bars: number[];
  /** The most frequent values, for texts and booleans, most frequent first. */
  values: { value: string; rows: number }[];
}

/** Bars of a small picture. */
const BARS = 20;
const MOST_VALUES = 8;
export const MOST_DISTINCT = 100_000;

/** How far between two ends a value lies, 0 to 1; also where they lie closer or farther apart than a float can say. */
function partOf(least: number, most: number): (value: number) => number {
  const span = most - least;
  if (span === 0) return () => 0;
  if (Number.isFinite(span)) return (value) => (value - least) / span;
  return (value) => (value / 2 - least / 2) / (most / 2 - least / 2);
}

/** Sums up a column in a few passes. */
export function summarize(column: Column): ColumnSummary {
  if (column.kind === "text") {
    const counts = new Uint32Array(column.dictionary.length);
    let missing = 0;
    for (const code of column.codes) {
      if (code < 0) missing += 1;
      else counts[code] = (counts[code] as number) + 1;
    }
    return categories("text", column.codes.length, missing, column.dictionary, counts);
  }
  const { values } = column;
  const known = values.filter((value) => value === value);
  const missing = values.length - known.length;
  if (column.kind === "boolean") {
    const yes = known.reduce((sum, value) => sum + value, 0);
    return categories("boolean", values.length, missing, ["true", "false"], Uint32Array.of(yes, known.length - yes));
  }
  if (known.length === 0) return { kind: column.kind, rows: values.length, missing, distinct: 0, bars: [], values: [] };
  known.sort();
  const least = known[0] as number;
  const most = known[known.length - 1] as number;
  let sum = 0;
  let distinct = 0;
  const bars = new Array<number>(least === most ? 1 : BARS).fill(0);
  const part = partOf(least, most);
  for (let at = 0; at < known.length; at++) {
    const value = known[at] as number;
    sum += value;
    if ((at === 0 || value !== known[at - 1]) && distinct < MOST_DISTINCT) distinct += 1;
    const bar = Math.min(bars.length - 1, Math.floor(part(value) * BARS));
    bars[bar] = (bars[bar] as number) + 1;
  }
  // By the rule of the language: linear between neighbours, at (n-1)p.
  const quantile = (p: number) => {
    const at = (known.length - 1) * p;
    const below = known[Math.floor(at)] as number;
    return below + (at % 1) * ((known[Math.ceil(at)] as number) - below);
  };
  return {
    kind: column.kind,
    rows: values.length,
    missing,
    distinct,
    range: { least, most, mean: sum / known.length, quartiles: [quantile(0.25), quantile(0.5), quantile(0.75)] },
    bars,
    values: [],
  };
}

function categories(
  kind: Kind,
  rows: number,
  missing: number,
  names: readonly string[],
  counts: Uint32Array,
): ColumnSummary {
  const used = [...counts.keys()].filter((code) => counts[code]);
  used.sort((a, b) => (counts[b] as number) - (counts[a] as number) || a - b);
  return {
    kind,
    rows,
    missing,
    distinct: used.length,
    bars: used.slice(0, BARS).map((code) => counts[code] as number),
    values: used.slice(0, MOST_VALUES).map((code) => ({ value: names[code] as string, rows: counts[code] as number })),
  };
}

const summaries = new WeakMap<Column, ColumnSummary>();

/** The summary of a column, made once: columns do not change, and are asked about again at every press. */
export function summaryOf(column: Column): ColumnSummary {
  const known = summaries.get(column) ?? summarize(column);
  summaries.set(column, known);
  return known;
}
