import { writer } from "../formula/format";
import { withDecimalMark } from "../formula/number-format";
import type { Column, Kind } from "../table/column";
import { readIsoDate, readIsoDatetime } from "../table/time-text";
import { MISSING_NAME, nameAt } from "./categories";
import type { Channel } from "./query";

/** What of a channel says how its values are written. */
type Written = Pick<Channel, "kind" | "format">;

const writers = new WeakMap<Written, (value: number) => string>();

/** A value of a channel as readers see it, without its unit. */
export function writeAt(channel: Channel, column: Column, id: number): string {
  if (column.kind === "text") return nameAt(column, id) ?? MISSING_NAME;
  return writeNumber(channel, column.values[id] as number);
}

/** Values of the names of categories that are not their own words. */
const READERS: Partial<Record<Kind, (name: string) => number>> = {
  date: readIsoDate,
  datetime: readIsoDatetime,
  number: Number,
  boolean: (name) => (name === "true" ? 1 : 0),
};

/**
 * The name of a category as readers see it: a date in its format, a number where its column has one. By its name it
 * is still known and told.
 */
export function categoryText(name: string | null, channel: Written | undefined): string {
  if (name === null) return MISSING_NAME;
  const read = channel && READERS[channel.kind];
  if (!read) return name;
  // A number may be a code: nothing is parted or cut.
  if (channel.kind === "number" && channel.format === undefined) return withDecimalMark(name);
  const value = read(name);
  return value === value ? writeNumber(channel, value) : name;
}

export function writeNumber(channel: Written, value: number): string {
  let write = writers.get(channel);
  if (!write) {
    write = writer(channel.kind, channel.format);
    writers.set(channel, write);
  }
  return write(value);
}

/** A label with its unit, which is said once: a column of "days" in days is not "Days, days". */
export function withUnit(label: string, unit: string | undefined): string {
  const isSaid =
    unit === undefined ||
    label
      .toLowerCase()
      .split(/[\s,]+/)
      .at(-1) === unit.toLowerCase();
  return isSaid ? label : `${label}, ${unit}`;
}
