import type { CategorySort, ChartPlan, LayerPlan } from "../chart/plan";
import type { Channel } from "../query/query";
import type { ChartSpec } from "../sheet/schema-charts";
import { readChannel } from "./channels";
import { type Place, wrongAt } from "./piece-place";
import { sortKey } from "./step-place";

type Sorted = "x" | "y" | "color";

/** How the categories of a chart's channels are sorted; nothing where one of them cannot be. */
export function readSorts(place: Place, spec: ChartSpec, { query }: LayerPlan): ChartPlan["sort"] | undefined {
  const sort: ChartPlan["sort"] = {};
  for (const axis of ["x", "y", "color"] as const) {
    const given = spec.sort?.[axis];
    if (given === undefined) continue;
    const one = readSort(place, axis, given, query.channels[axis]);
    if (!one) return undefined;
    sort[axis] = one;
  }
  return sort;
}

function readSort(
  place: Place,
  axis: Sorted,
  given: string | string[],
  channel: Channel | undefined,
): CategorySort | undefined {
  const path = [...place.path, "sort", axis];
  if (!channel) return wrongAt(place, path, "wrong-sort", `there is nothing on ${axis} to sort`);
  if (channel.aggregate)
    return wrongAt(
      place,
      path,
      "wrong-sort",
      `${axis} holds a measure; what is sorted are the categories of the other axis`,
    );
  if (Array.isArray(given)) return { list: given };
  const { text, descending, offset } = sortKey(given);
  const { compiling, name, built } = place;
  const read = readChannel({ compiling, path, tableName: built.name, table: built.table, piece: name }, text, {
    offset,
  });
  if (!read) return undefined;
  if (read.channel.aggregate) return { by: read.channel, descending };
  if (read.channel.kind === "text" || read.channel.kind === "boolean")
    return wrongAt(
      place,
      path,
      "wrong-sort",
      `categories are sorted by a number, such as -sum(tonnes), or by a list of values`,
    );
  const least: Channel = {
    ...read.channel,
    formula: { type: "call", name: "min", arguments: [read.channel.formula] },
    aggregate: true,
  };
  return { by: least, descending };
}
