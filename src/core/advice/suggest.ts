import { writeName } from "../formula/words";
import type { SheetValue } from "../sheet/edit/edit";
import { type ColumnSummary, summarize } from "../table/summary";
import type { Table } from "../table/table";

/** A chart that could be a first look at a table. */
export interface Suggestion {
  name: string;
  /** Why it is worth a look, in words. */
  why: string;
  spec: { [key: string]: SheetValue };
}

interface Candidate {
  name: string;
  summary: ColumnSummary;
}

const IDENTITY = /(?:^|_| )(?:id|no|nr|code|key|uuid|number)$/i;
/** Measures that mean nothing when they are added up. */
const NOT_ADDED =
  /rate|share|percent|ratio|mean|average|median|temp|speed|depth|draft|height|age|score|price|lat|lon|year|month|day|hour|wait|level|pressure|index/i;
const POSITION = /^(?:lat|lon|latitude|longitude|lng)$/i;

const label = (name: string) => name.replaceAll("_", " ");
const capital = (text: string) => text.slice(0, 1).toUpperCase() + text.slice(1);

/** The grain at which a stretch of time has between a dozen and a few hundred periods. */
function grainOf(seconds: number): "by_year" | "by_month" | "by_week" | "by_day" | "by_hour" {
  const days = seconds / 86400;
  if (days > 12 * 365) return "by_year";
  if (days > 250) return "by_month";
  if (days > 70) return "by_week";
  return days > 3 ? "by_day" : "by_hour";
}

function measureOf(column: Candidate): { formula: string; words: string } {
  const name = writeName(column.name);
  const adds =
    column.summary.kind === "number" && !NOT_ADDED.test(column.name) && (column.summary.range?.least ?? -1) >= 0;
  return adds
    ? { formula: `sum(${name})`, words: capital(label(column.name)) }
    : { formula: `mean(${name})`, words: `Mean ${label(column.name)}` };
}

/** First charts for a table that nobody has seen yet, the most telling first. Names are free of each other. */
export function suggestCharts(tableName: string, table: Table): Suggestion[] {
  if (table.rowCount === 0) return [];
  const columns = [...table.columns].map(([name, column]): Candidate => ({ name, summary: summarize(column) }));
  const isName = ({ name, summary }: Candidate) =>
    IDENTITY.test(name) || (summary.distinct === table.rowCount && summary.kind === "text");
  const moments = columns.filter(
    ({ summary }) => (summary.kind === "date" || summary.kind === "datetime") && summary.distinct > 3,
  );
  const measures = columns.filter(
    (column) =>
      (column.summary.kind === "number" || column.summary.kind === "duration") &&
      column.summary.distinct > 5 &&
      !isName(column) &&
      !POSITION.test(column.name),
  );
  const groups = columns.filter(
    (column) =>
      (column.summary.kind === "text" || column.summary.kind === "boolean") &&
      column.summary.distinct >= 2 &&
      column.summary.distinct <= 40 &&
      !isName(column),
  );
  const [measure, second] = measures;
  const value = measure ? measureOf(measure) : { formula: "count()", words: `Rows of ${label(tableName)}` };
  const found: Suggestion[] = [];
  const add = (name: string, why: string, { title, ...spec }: Suggestion["spec"]) =>
    found.push({ name, why, spec: { title: title ?? name, from: tableName, ...spec } });
  add("in_all", "how much there is", {
    draw: "figure",
    title: value.words,
    value: value.formula,
    against: `${value.formula} of all`,
  });
  const moment = moments[0];
  if (moment?.summary.range) {
    const grain = grainOf(moment.summary.range.most - moment.summary.range.least);
    add("over_time", "how it went", {
      title: `${value.words} over time`,
      draw: "line",
      x: `${grain}(${writeName(moment.name)})`,
      y: value.formula,
    });
  }
  const group = groups[0];
  if (group)
    add(`by_group`, "where it comes from", {
      title: `${value.words} by ${label(group.name)}`,
      draw: "bars",
      y: writeName(group.name),
      x: value.formula,
      sort: { y: `-${value.formula}` },
    });
  if (measure)
    add("spread", "which values are usual", {
      title: `How ${label(measure.name)} spreads`,
      draw: "bars",
      x: `bin(${writeName(measure.name)}, 24)`,
      y: "count()",
    });
  if (measure && second && table.rowCount <= 200_000)
    add("together", "what goes together", {
      title: `${capital(label(second.name))} against ${label(measure.name)}`,
      draw: "points",
      x: writeName(measure.name),
      y: writeName(second.name),
      ...(group && group.summary.distinct <= 8 ? { color: writeName(group.name) } : {}),
      opacity: "0.5",
    });
  const shown = columns.slice(0, 8).map(({ name }) => writeName(name));
  add("rows", "the rows themselves", { title: "Rows", draw: "table", columns: shown });
  return found;
}
