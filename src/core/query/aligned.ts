import type { Column } from "../table/column";
import type { Channel } from "./query";

/** Most decimals that a number has where nothing is said of its format. */
const MOST_DECIMALS = 3;

const decimals = new WeakMap<Column, number>();

/** As many decimals as some value of the column needs. */
function decimalsOf(column: Column): number {
  if (column.kind === "text") return 0;
  let most = decimals.get(column);
  if (most !== undefined) return most;
  most = 0;
  for (const value of column.values) {
    while (most < MOST_DECIMALS && Number.isFinite(value) && !isWhole(value * 10 ** most)) most += 1;
    if (most === MOST_DECIMALS) break;
  }
  decimals.set(column, most);
  return most;
}

const isWhole = (value: number) => Math.abs(value - Math.round(value)) <= Math.abs(value) * 1e-12;

const formatted = new WeakMap<Channel, Channel>();

/** A channel that writes all its numbers with the same decimals, unless the author has said how. */
export function aligned(channel: Channel, column: Column): Channel {
  if (channel.kind !== "number" || channel.format !== undefined) return channel;
  let own = formatted.get(channel);
  if (!own) {
    own = { ...channel, format: `,.${decimalsOf(column)}f` };
    formatted.set(channel, own);
  }
  return own;
}
