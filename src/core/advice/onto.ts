import type { TextEdit } from "../finding/finding";
import { AGGREGATES } from "../formula/aggregate-names";
import { writeName } from "../formula/words";
import { MARK_NAMES, type MarkName, markSpec } from "../mark/specs";
import { type SheetValue, setValue } from "../sheet/edit/edit";
import { readSheet } from "../sheet/read-sheet";
import type { ChartSpec } from "../sheet/schema-charts";
import type { Path } from "../sheet/tree";
import type { Kind } from "../table/column";

/** A place of a chart that a column can be put on. */
export interface Onto {
  /** The key that is written. */
  key: "x" | "y" | "color" | "size" | "panels" | "value" | "columns";
  /** What it is to somebody who looks at the picture. */
  words: string;
  /** What is written there, and what it takes the place of. */
  formula: string;
  before?: string;
  edits: TextEdit[];
}

export interface OntoColumn {
  name: string;
  kind: Kind;
}

const AGGREGATE = new RegExp(`\\b(?:${[...AGGREGATES].join("|")})\\s*\\(`);
/** Aggregates of one number that another number can take the place in. */
const OF_ONE = /^(sum|mean|median|min|max|stdev)\(/;

const WORDS: Record<Onto["key"], string> = {
  x: "across",
  y: "up",
  color: "colour",
  size: "size",
  panels: "small charts, one a value",
  value: "the number",
  columns: "a column of the list",
};

const textOf = (value: unknown): string | undefined => (typeof value === "string" ? value : undefined);
const isMeasured = (formula: string | undefined) => formula !== undefined && AGGREGATE.test(formula);

/** A column as something to group by. */
function grouping({ name, kind }: OntoColumn): string {
  const written = writeName(name);
  if (kind === "number" || kind === "duration") return `bin(${written}, 24)`;
  if (kind === "date" || kind === "datetime") return `by_month(${written})`;
  return written;
}

/** A column as a measure, by the aggregate that stood there; nothing where it cannot be measured. */
function measure({ name, kind }: OntoColumn, before: string | undefined): string | undefined {
  if (kind !== "number" && kind !== "duration") return undefined;
  return `${OF_ONE.exec(before ?? "")?.[1] ?? "sum"}(${writeName(name)})`;
}

/** What a channel says with a column in it; nothing where it cannot be had there. */
function channelFormula(key: "x" | "y" | "color" | "size", own: Record<string, unknown>, column: OntoColumn) {
  const before = textOf(own[key]);
  const isGrouped = ["x", "y", "color", "size", "value"].some((name) => isMeasured(textOf(own[name])));
  const isNumber = column.kind === "number" || column.kind === "duration";
  if (key === "size") return isNumber ? (isGrouped ? measure(column, before) : writeName(column.name)) : undefined;
  if (!isGrouped) return writeName(column.name);
  if (key === "color") return isNumber ? `mean(${writeName(column.name)})` : grouping(column);
  return isMeasured(before) ? measure(column, before) : grouping(column);
}

/**
 * Where a column can be put on a chart, and how each is written: with the aggregate that stood there,
 * grouped where the chart groups, as it is where every row is a mark of its own.
 */
export function placesOnto(text: string, chart: string, column: OntoColumn): Onto[] {
  const spec = readSheet(text, "part").charts.get(chart);
  // A place on earth is no place on an axis.
  if (!spec || column.kind === "place") return [];
  const places: Onto[] = [];
  const put = (key: Onto["key"], path: Path, value: SheetValue, formula: string, before: string | undefined) => {
    const edits = before === formula ? undefined : setValue(text, ["charts", chart, ...path], value);
    if (edits) places.push({ key, words: WORDS[key], formula, ...(before === undefined ? {} : { before }), edits });
  };
  const { draw = spec.layers?.[0]?.draw } = spec;
  if (draw === "figure") {
    const formula = measure(column, spec.value);
    if (formula) put("value", ["value"], formula, formula, spec.value);
  } else if (draw === "table" && Array.isArray(spec.columns)) {
    const name = writeName(column.name);
    if (!spec.columns.includes(name)) put("columns", ["columns", spec.columns.length], name, name, undefined);
  }
  const mark = MARK_NAMES.find((name) => name === draw);
  if (mark) chartPlaces(spec, mark, column, put);
  return places;
}

type Put = (key: Onto["key"], path: Path, value: SheetValue, formula: string, before: string | undefined) => void;

function chartPlaces(spec: ChartSpec, draw: MarkName, column: OntoColumn, put: Put) {
  const first: Record<string, unknown> = spec.layers?.[0] ?? {};
  const own: Record<string, unknown> = { ...spec, ...first };
  const { takes: all, varies = [] } = markSpec(draw);
  // Of some marks all have one size.
  const takes: readonly string[] = all.filter((key) => key !== "size" || varies.includes(key));
  for (const key of ["x", "y", "color", "size"] as const) {
    const formula = takes.includes(key) ? channelFormula(key, own, column) : undefined;
    const path: Path = first[key] === undefined ? [key] : ["layers", 0, key];
    if (formula !== undefined) put(key, path, formula, formula, textOf(own[key]));
  }
  if (column.kind === "text" || column.kind === "boolean") {
    const name = writeName(column.name);
    const before = typeof spec.panels === "object" ? spec.panels.by : spec.panels;
    put("panels", ["panels"], { by: name }, name, before);
  }
}
