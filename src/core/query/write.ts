import { writer } from "../formula/format";
import type { Column } from "../table/column";
import { MISSING_NAME, nameAt } from "./categories";
import type { Channel } from "./query";

const writers = new WeakMap<Channel, (value: number) => string>();

/** A value of a channel as readers see it, without its unit. */
export function writeAt(channel: Channel, column: Column, id: number): string {
  if (column.kind === "text") return nameAt(column, id) ?? MISSING_NAME;
  return writeNumber(channel, column.values[id] as number);
}

export function writeNumber(channel: Channel, value: number): string {
  let write = writers.get(channel);
  if (!write) {
    write = writer(channel.kind, channel.format);
    writers.set(channel, write);
  }
  return write(value);
}
