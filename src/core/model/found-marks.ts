import type { FoundMarks } from "../finding/finding";
import { channelValues } from "../query/values";
import { valueAt } from "../table/column";
import type { Picked } from "./picked";

/** Marks that a finding speaks of, as if they were picked on their chart: all others are drawn faintly. */
export function foundOn({ channels, values, range }: FoundMarks): Picked {
  const wanted = new Set(values?.map((one) => JSON.stringify(one)));
  return (layer, answer, ids) => {
    const has = channels.every((channel) => layer.query.channels[channel]);
    if (!has) return new Uint8Array(ids.length);
    const columns = channels.map((channel) => channelValues(channel, answer, answer));
    return Uint8Array.from(ids, (id) => {
      const found = columns.map((column) => valueAt(column, id));
      if (!range) return wanted.has(JSON.stringify(found)) ? 1 : 0;
      const value = found[0];
      return typeof value === "number" && value >= range[0] && value <= range[1] ? 1 : 0;
    });
  };
}
