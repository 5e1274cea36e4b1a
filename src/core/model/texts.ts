import type { FigurePlan, LayerPlan } from "../chart/plan";
import { writer } from "../formula/format";
import { type Formula, partsOf } from "../formula/tree";
import type { Answer } from "../query/answer";
import { MISSING_NAME, nameAt } from "../query/categories";
import { stretchEnd } from "../query/interval";
import type { Channel } from "../query/query";
import { LayerValues } from "../query/values";
import { periodAfter } from "../table/calendar";
import type { Column } from "../table/column";

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

/** What a tooltip says of one mark: label, value and unit, line by line. */
export function tooltipLines(layer: LayerPlan, values: LayerValues, id: number): TooltipLine[] {
  if (layer.tooltip === null) return [];
  const names = layer.tooltip ?? ["x", "y", "color", "series"].filter((name) => name in layer.query.channels);
  const seen = new Set<string>();
  const lines: TooltipLine[] = [];
  for (const name of names) {
    const channel = layer.query.channels[name];
    const column = values.get(name);
    if (!channel || !column || seen.has(channel.text)) continue;
    seen.add(channel.text);
    const text = channel.interval ? stretchText(channel, values, name, id) : writeAt(channel, column, id);
    lines.push({ label: channel.label, text, ...(channel.unit === undefined ? {} : { unit: channel.unit }) });
  }
  return lines;
}

export interface FigureTexts {
  value: string;
  unit: string;
  /** The comparison in words; empty where there is none. */
  compare: string;
  number: number;
}

const percentText = writer("number", ".0%");

/** True if every aggregate of a formula is taken over all rows. */
function isOfAll(formula: Formula): boolean {
  const parts = partsOf(formula);
  return (
    (formula.type === "of" && formula.selection === "all") ||
    (parts.length > 0 && parts.some(isOfAll) && parts.every((part) => isOfAll(part) || part.type === "number"))
  );
}

/** A figure as readers see it. */
export function figureTexts(plan: FigurePlan, answer: Answer, all: Answer): FigureTexts {
  const values = new LayerValues(answer, all);
  const channel = plan.query.channels.value as Channel;
  const column = values.get("value") as Column;
  const number = column.kind === "text" ? Number.NaN : (column.values[0] as number);
  const texts: FigureTexts = { value: writeAt(channel, column, 0), unit: channel.unit ?? "", compare: "", number };
  const against = plan.query.channels.against;
  const other = values.numbers("against")?.[0];
  if (!against || other === undefined || other !== other || number !== number) return texts;
  const what = isOfAll(against.formula) ? "all" : against.label;
  if (plan.compare === "percent")
    texts.compare = other === 0 ? "" : `${percentText(number / other).replace("%", " %")} of ${what}`;
  else {
    const size = writeNumber(channel, Math.abs(number - other));
    // A difference that is written as nothing is none, also where the last bits differ.
    if (/^0(?:[.,:]0*)*$/.test(size)) texts.compare = `the same as ${what}`;
    else
      texts.compare = `${size}${channel.unit ? ` ${channel.unit}` : ""} ${number > other ? "over" : "under"} ${what}`;
  }
  return texts;
}
