import type { PlainRow } from "../chart/plain-row";
import { writeCount } from "../formula/format";
import { plainValue } from "../query/categories";
import type { Channel } from "../query/query";
import { LayerValues } from "../query/values";
import { writeNumber } from "../query/write";
import { escapeText } from "../scene/escape";
import { colorAttribute, px } from "../scene/shapes/shape";
import type { Ground } from "../scene/theme";
import { gather, kindOf, type Scalar } from "../table/column";
import { type ColumnSummary, summarize } from "../table/summary";
import type { Model } from "./model";

/** A column of a summary over the rows that pass. */
export interface SummaryLine {
  key: string;
  channel: Channel;
  summary: ColumnSummary;
  /** The kind as the language names it. */
  kind: string;
}

/** All columns of a summary, summed up over the rows that pass now. */
export function summaryLines(model: Model, name: string): SummaryLine[] {
  const plan = model.piece(name)?.plan;
  const found = model.plainAnswer(name);
  if (plan?.type !== "summary" || !found || model.waits(name)) return [];
  const values = new LayerValues(found.answer, found.all);
  const { counts, prepared } = found.answer;
  const passing = Int32Array.from(counts.keys()).filter(
    (id) => (counts[id] as number) > 0 && (prepared.groups[id] as number) >= 0,
  );
  return plan.columns.flatMap(({ channel: at, key }): SummaryLine[] => {
    const [channel, column] = [plan.query.channels[at], values.get(at)];
    return channel && column
      ? [{ key, channel, summary: summarize(gather(column, passing)), kind: kindOf(column) }]
      : [];
  });
}

/** What scripts are told of each column. */
export function summaryRows(lines: readonly SummaryLine[]): PlainRow[] {
  return lines.map(({ key, summary, kind, channel }) => {
    const { range } = summary;
    const plain = (value: number | undefined): Scalar => {
      if (value === undefined) return null;
      const own =
        channel.kind === "date" || channel.kind === "datetime" || channel.kind === "duration" ? channel.kind : "number";
      return plainValue({ kind: own, values: Float64Array.of(value) }, 0);
    };
    return {
      column: key,
      kind,
      known: summary.rows - summary.missing,
      missing: summary.missing,
      distinct: summary.distinct,
      least: plain(range?.least),
      q1: plain(range?.quartiles[0]),
      median: plain(range?.quartiles[1]),
      q3: plain(range?.quartiles[2]),
      most: plain(range?.most),
      mean: plain(range?.mean),
    };
  });
}

/** A small picture of how values are spread. */
function barsHtml(bars: readonly number[], ground: Ground): string {
  const most = Math.max(1, ...bars);
  const width = 120 / Math.max(1, bars.length);
  const fill = colorAttribute("sea", ground);
  const parts = bars.map((count, at) => {
    const height = (22 * count) / most;
    return `<path d="M${px(at * width)} ${px(22 - height)}h${px(Math.max(0.5, width - 1))}v${px(height)}h${px(-Math.max(0.5, width - 1))}z" fill="${fill}"/>`;
  });
  return `<svg class="spread" viewBox="0 0 120 22" aria-hidden="true">${parts.join("")}</svg>`;
}

const HEADS = [
  "column",
  "kind",
  "known",
  "missing",
  "different",
  "least",
  "lower quartile",
  "median",
  "upper quartile",
  "largest",
  "mean",
  "most frequent",
  "spread",
];

/** Which of the heads stand over numbers. */
const FIRST_NUMBER = 2;
const NUMBERS = 9;

/** The summary as a table. */
export function summaryHtml(lines: readonly SummaryLine[], ground: Ground): string {
  const heads = HEADS.map((head, at) => {
    const isNumber = at >= FIRST_NUMBER && at < FIRST_NUMBER + NUMBERS;
    return `<th scope="col"${isNumber ? ' class="number"' : ""}><span>${head}</span></th>`;
  }).join("");
  const rows = lines.map(({ channel, summary, kind }) => {
    const { range } = summary;
    const number = (value: number | undefined) => (value === undefined ? "" : escapeText(writeNumber(channel, value)));
    const frequent = summary.values.slice(0, 3).map(({ value, rows: count }) => `${value} (${writeCount(count)})`);
    const numbers = [
      writeCount(summary.rows - summary.missing),
      writeCount(summary.missing),
      writeCount(summary.distinct),
      number(range?.least),
      ...[0, 1, 2].map((at) => number(range?.quartiles[at])),
      number(range?.most),
      number(range?.mean),
    ].map((text) => `<td class="number">${text}</td>`);
    return `<tr><td>${escapeText(channel.label)}</td><td>${kind}</td>${numbers.join("")}<td>${escapeText(frequent.join(", "))}</td><td>${barsHtml(summary.bars, ground)}</td></tr>`;
  });
  return `<table><thead><tr>${heads}</tr></thead><tbody>${rows.join("")}</tbody></table>`;
}
