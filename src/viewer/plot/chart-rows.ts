import type { PlainRow } from "../../core/chart/plain-row";
import type { Channel } from "../../core/query/query";
import { LayerValues } from "../../core/query/values";
import { type Column, textColumn } from "../../core/table/column";
import { readIsoDate, readIsoDatetime } from "../../core/table/time-text";
import type { ShownColumn, ShownRows } from "../table/columns";
import type { PlotView } from "./plot-view";

/** A word for what a mark is beside its channels: its layer, its panel, whether it is picked. */
const besideChannel = (key: string): Channel => ({
  formula: { type: "column", name: key },
  text: key,
  kind: "text",
  aggregate: false,
  label: key.replaceAll("_", " "),
});

/** The name of a column in a file: of the table's column where it is one, else what the channel says. */
const keyOf = ({ column, text }: Channel): string => column ?? text;

/** Values of plain rows as a column of a channel's kind. */
function columnOf(rows: readonly PlainRow[], key: string, channel: Channel): Column {
  const { kind } = channel;
  const values = rows.map((row) => row[key] ?? null);
  if (kind === "text" || kind === "place") {
    const texts = values.map((value) => (value === null ? null : String(value)));
    return textColumn(texts, rows.length);
  }
  const numberOf = (value: (typeof values)[number]): number => {
    if (value === null) return Number.NaN;
    if (typeof value === "boolean") return value ? 1 : 0;
    if (typeof value === "number") return value;
    const day = readIsoDate(String(value));
    return day === day ? day : readIsoDatetime(String(value));
  };
  return { kind, values: Float64Array.from(values, numberOf) };
}

/** The marks of a chart as a table: one row a mark, its channels as columns. */
function marksOf(view: PlotView): ShownRows {
  const rows = view.rows();
  const keys = [...new Set(rows.flatMap((row) => Object.keys(row)))];
  const channelOf = (key: string) =>
    view.plan.layers.map(({ query }) => query.channels[key]).find(Boolean) ??
    // What a mark measures by itself is a number: of a box its quartiles, of a curve its height.
    (rows.some((row) => typeof row[key] === "number")
      ? { ...besideChannel(key), kind: "number" as const }
      : besideChannel(key));
  const columns = keys.map((key): ShownColumn => {
    const channel = channelOf(key);
    return { key: keyOf(channel), channel, column: columnOf(rows, key, channel) };
  });
  return { columns, ids: Int32Array.from(rows.keys()), baseRow: (id) => id };
}

/**
 * The rows of a chart as readers look at them and take them: rows behind the marks where columns come along,
 * else the marks.
 */
export function chartTable(view: PlotView): ShownRows {
  const behind = view.app.model.rowsBehind(view.name);
  if (!behind) return marksOf(view);
  const { answer, all } = behind;
  const values = new LayerValues(answer, all);
  const seen = new Set<string>();
  const columns = Object.entries(answer.prepared.query.channels).flatMap(([name, channel]): ShownColumn[] => {
    const column = values.get(name);
    if (!column || seen.has(channel.text)) return [];
    seen.add(channel.text);
    return [{ key: keyOf(channel), channel, column }];
  });
  const ids: number[] = [];
  for (let id = 0; id < answer.counts.length; id++)
    if ((answer.counts[id] as number) > 0 && (answer.prepared.groups[id] as number) >= 0) ids.push(id);
  return { columns, ids: Int32Array.from(ids), baseRow: (id) => id };
}
