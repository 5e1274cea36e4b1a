import { writer } from "../formula/format";
import { shownChannels } from "../mark/channels";
import { MISSING_NAME } from "../query/categories";
import { stretchEnd } from "../query/interval";
import type { Channel } from "../query/query";
import type { LayerValues } from "../query/values";
import { writeAt } from "../query/write";
import { periodAfter } from "../table/calendar";
import type { Column } from "../table/column";
import type { LayerPlan } from "./plan";
import type { WordPart } from "./words";

export interface TooltipLine {
  label: string;
  text: string;
  unit?: string;
}

const PERIOD_FORMATS: Record<string, string> = {
  year: "%Y",
  month: "%B %Y",
  day: "%-d %b %Y",
  hour: "%-d %b %Y %H:%M",
  minute: "%-d %b %Y %H:%M",
};

/** A key that stands for a stretch, in words: `8 to 10`, `September 2024`. */
function stretchText(channel: Channel, values: LayerValues, name: string, id: number): string {
  const column = values.get(name) as Column;
  const edges = values.prepared.edges.get(name);
  if (!edges || column.kind === "text") return writeAt(channel, column, id);
  const start = column.values[id] as number;
  if (start !== start) return MISSING_NAME;
  if (edges.grain) {
    if (edges.grain === "week") return `week of ${writer("date")(start)}`;
    if (edges.grain === "quarter")
      return `${writer("date", "%b")(start)} to ${writer("date", "%b %Y")(periodAfter("month", start, 2))}`;
    return writer("datetime", PERIOD_FORMATS[edges.grain])(start);
  }
  const write = writer(
    channel.kind,
    channel.kind === "number" ? (channel.format ?? edgeFormat(edges.starts)) : channel.format,
  );
  return `${write(start)} to ${write(stretchEnd(edges, start))}`;
}

/** Just the decimals that tell neighbouring edges apart. */
function edgeFormat(starts: Float64Array): string {
  const step = starts.length > 1 ? (starts[1] as number) - (starts[0] as number) : 1;
  return `,.${Math.max(0, Math.min(6, 1 - Math.floor(Math.log10(step || 1))))}~f`;
}

/** A value as a tooltip writes it: a stretch in words, and how many values a group has where it has several. */
export function valueText(channel: Channel, values: LayerValues, name: string, id: number): string {
  const column = values.get(name);
  if (!column) return "";
  const count = channel.several === undefined ? 1 : (values.numbers(channel.several)?.[id] ?? 1);
  if (count > 1) return `${count} values`;
  return channel.interval ? stretchText(channel, values, name, id) : writeAt(channel, column, id);
}

/**
 * What a tooltip says of one mark: label, value and unit, line by line; or the author's own line.
 * `say` knows the words of settings and of what selections hold.
 */
export function tooltipLines(
  layer: LayerPlan,
  values: LayerValues,
  id: number,
  say: (part: Exclude<WordPart, { channel: string }>) => string = String,
): TooltipLine[] {
  if (layer.says) {
    const words = layer.says.map((part) => {
      if (typeof part === "string" || !("channel" in part)) return say(part);
      const channel = layer.query.channels[part.channel];
      return channel ? valueText(channel, values, part.channel, id) : "";
    });
    return [{ label: "", text: words.join("") }];
  }
  if (layer.tooltip === null) return [];
  const names = layer.tooltip ?? shownChannels(layer.query.channels);
  const seen = new Set<string>();
  const lines: TooltipLine[] = [];
  for (const name of names) {
    const channel = layer.query.channels[name];
    if (!channel || !values.get(name) || seen.has(channel.text)) continue;
    seen.add(channel.text);
    const text = valueText(channel, values, name, id);
    lines.push({ label: channel.label, text, ...(channel.unit === undefined ? {} : { unit: channel.unit }) });
  }
  return lines;
}
