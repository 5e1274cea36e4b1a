import { NOISE } from "../formula/format";
import type { Column } from "../table/column";
import type { Channel } from "./query";

/** Most decimals that a number is written with as it stands; one that needs more is a result, and is rounded. */
const MOST_DECIMALS = 3;
/** More decimals than this are zeros that nobody counts. */
const MOST_WRITTEN = 8;
/** So many values are enough to tell how large those of a column are. */
const SAMPLE = 1000;

const formats = new WeakMap<Column, string>();

/** Decimals that a number needs, up to one more than are written. */
function decimalsNeeded(value: number, from = 0): number {
  let needed = from;
  while (needed <= MOST_DECIMALS && Number.isFinite(value) && !isWhole(value * 10 ** needed)) needed += 1;
  return needed;
}

/** A format with about four digits that count for a result of a size, three for one below 1. */
function formatOfSize(size: number): string {
  const power = Math.floor(Math.log10(size));
  const decimals = Math.max(0, (size < 1 ? 2 : 3) - power);
  return decimals > MOST_WRITTEN ? ".3~g" : `,.${decimals}f`;
}

/** How a number alone is written: as it stands, or as a result of its size. */
export const formatAlone = (value: number): string | undefined =>
  Math.abs(value) >= NOISE && decimalsNeeded(value) > MOST_DECIMALS ? formatOfSize(Math.abs(value)) : undefined;

/** The size of the values of a column: the middle one of those that are not 0. */
function typicalSize(values: ArrayLike<number>): number {
  const step = Math.max(1, Math.floor(values.length / SAMPLE));
  const sizes: number[] = [];
  for (let id = 0; id < values.length; id += step) {
    const size = Math.abs(values[id] as number);
    if (size > 0 && size < Number.POSITIVE_INFINITY) sizes.push(size);
  }
  return sizes.sort((a, b) => a - b)[sizes.length >> 1] ?? 1;
}

/** As many decimals as some value of the column needs; of results as many as their size asks for. */
function formatOf(column: Column): string {
  if (column.kind === "text") return "d";
  let format = formats.get(column);
  if (format !== undefined) return format;
  let most = 0;
  for (const value of column.values) {
    most = decimalsNeeded(value, most);
    if (most > MOST_DECIMALS) break;
  }
  format = most > MOST_DECIMALS ? formatOfSize(typicalSize(column.values)) : `,.${most}f`;
  formats.set(column, format);
  return format;
}

const isWhole = (value: number) => Math.abs(value - Math.round(value)) <= Math.abs(value) * 1e-12;

const formatted = new WeakMap<Channel, Channel>();

/** A channel that writes all its numbers with the same decimals, unless the author has said how. */
export function aligned(channel: Channel, column: Column): Channel {
  if (channel.kind !== "number" || channel.format !== undefined) return channel;
  let own = formatted.get(channel);
  if (!own) {
    own = { ...channel, format: formatOf(column) };
    formatted.set(channel, own);
  }
  return own;
}
