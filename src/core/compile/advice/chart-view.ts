import type { ColorScale } from "../../chart/inputs";
import type { ChartPlan } from "../../chart/plan";
import type { Fix, FoundMarks } from "../../finding/finding";
import { TooLarge } from "../../finding/limits";
import { evaluate, frameOf } from "../../formula/evaluate";
import { columnOf } from "../../formula/vector";
import { categoriesOf } from "../../query/categories";
import type { Channel } from "../../query/query";
import type { ChartSpec } from "../../sheet/schema-charts";
import type { Path } from "../../sheet/tree";
import { type Column, gather } from "../../table/column";
import { type Compiling, settingValue } from "../compiling";
import { keptRows } from "../several-rows";

/**
 * Advice: what a sound chart shows badly, found in the chart as it was planned and in its rows. Each is one
 * object; none of them stands in the way of a file.
 */
export interface Advice {
  code: string;
  find: (view: ChartView) => Advised | undefined;
}

interface Advised {
  /** Where in the chart; the chart itself if unsaid. */
  at?: Path;
  message: string;
  fix?: Fix | undefined;
  /** What of the chart it speaks of, where that is not all of it. */
  marks?: FoundMarks;
}

/** Rows that are looked at, from the first: advice is asked for at every key that an author presses. */
export const LOOKED_AT = 20_000;
/** At most so many marks are named. */
export const LIT = 2_000;

/** A chart as advice looks at it. */
export interface ChartView {
  compiling: Compiling;
  path: Path;
  spec: ChartSpec;
  plan: ChartPlan;
  /** The values of a channel in the rows that its layer keeps; nothing for an aggregate. */
  values: (channel: Channel | undefined) => Column | undefined;
  /** The colours of a colour channel. */
  colorsOf: (channel: Channel) => ColorScale | undefined;
}

export const isText = (channel: Channel | undefined): channel is Channel => channel?.kind === "text";
/** More texts than these are counted without being put in order. */
const VERY_MANY = 500;

export function counted(channel: Channel, values: Column): number {
  if (values.kind === "text" && values.dictionary.length > VERY_MANY) return new Set(values.codes).size;
  return categoriesOf(values, channel.order).length;
}

export const firstOf = ({ layers }: ChartPlan, key: string): Channel | undefined =>
  layers.map(({ query }) => query.channels[key]).find((channel) => channel !== undefined);

/** A fix that writes another text for a value. */
export function replaceFix({ compiling, path }: ChartView, at: Path, text: string): Fix | undefined {
  const { source } = compiling.sheet;
  const span = source.valueSpan([...path, ...at]);
  // What a setting says is the reader's.
  if (!span || source.text[span.start] === "$") return undefined;
  const isFlow = source.styleOf([...path, ...at.slice(0, -1)]) === "flow";
  const written = isFlow && /[,[\]{}]/.test(text) ? JSON.stringify(text) : text;
  return { title: `write ${text}`, edits: [{ ...span, text: written }] };
}

/** A fix that adds a key to the chart, after another that it has. */
export function addFix(
  { compiling, path }: Pick<ChartView, "compiling" | "path">,
  after: string,
  line: string,
): Fix | undefined {
  const { source } = compiling.sheet;
  const [key, value] = [source.keySpan([...path, after]), source.valueSpan([...path, after])];
  if (!key || !value) return undefined;
  const lineStart = source.text.lastIndexOf("\n", key.start - 1) + 1;
  const before = source.text.slice(lineStart, key.start);
  const isBlock = /^\s*$/.test(before);
  const lineEnd = source.text.indexOf("\n", value.end);
  const end = isBlock ? (lineEnd < 0 ? source.text.length : lineEnd) : value.end;
  return { title: `add ${line}`, edits: [{ start: end, end, text: isBlock ? `\n${before}${line}` : `, ${line}` }] };
}

/** The values of a channel in the rows that its layer keeps; nothing for an aggregate, or where readers decide. */
export function valuesOf(
  compiling: Compiling,
  { layers }: ChartPlan,
  channel: Channel | undefined,
): Column | undefined {
  const query = layers.find((layer) => Object.values(layer.query.channels).some((one) => one === channel))?.query;
  const table = query && compiling.tables.get(query.from)?.table;
  if (!table || !channel || channel.aggregate) return undefined;
  const rows = query.keep && keptRows(compiling, table, query.keep);
  if (query.keep && !rows) return undefined;
  try {
    const known = channel.column === undefined ? undefined : table.columns.get(channel.column);
    const column =
      known ?? columnOf(evaluate(channel.formula, frameOf(table, settingValue(compiling))), table.rowCount);
    return rows ? gather(column, Int32Array.from(rows)) : column;
  } catch (fault) {
    // What is too large is said where the chart is drawn.
    if (fault instanceof TooLarge) return undefined;
    throw fault;
  }
}
