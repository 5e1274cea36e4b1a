import { LIMITS } from "../finding/limits";
import { AGGREGATES } from "../formula/aggregate-names";
import { evaluate, type Frame, frameOf, rowsWhere } from "../formula/evaluate";
import { type Codes, groupRows } from "../formula/groups";
import { type Measure, makeMeasure } from "../formula/measures";
import { ORDERED, type Ordered, type ScanOrder } from "../formula/ordered";
import { printFormula } from "../formula/print";
import { type Formula, partsOf } from "../formula/tree";
import { columnOf, type Vector } from "../formula/vector";
import type { SettingValues } from "../steps/step";
import { type Column, gather } from "../table/column";
import type { Table } from "../table/table";
import { type Edges, intervalEdges, startsAt, stretchesOf } from "./interval";
import type { Channel, Query } from "./query";

/** A query made ready over all rows of its table; answers for any choice of rows follow from it. */
export interface Prepared {
  query: Query;
  table: Table;
  setting: SettingValues;
  /** What formulas ask of selections. */
  told?: Frame["given"];
  /** The group of each row; -1 for rows that are not drawn. In an ungrouped query every row is its own. */
  groups: Int32Array;
  groupCount: number;
  /** Values of grouping channels, one a group; of all channels, one a row, in an ungrouped query. */
  keys: Map<string, Column>;
  /** Edges of the bins or periods of interval channels. */
  edges: Map<string, Edges>;
  /** Distinct integer contributions; the first is `null`, which counts rows. */
  contributions: (Float64Array | null)[];
  measures: PreparedMeasure[];
  /** Orders of rows that measures have asked for, once each. */
  orders: { for: Ordered; order: ScanOrder }[];
}

export interface PreparedMeasure {
  text: string;
  measure: Measure;
  /** Places among `contributions`, for measures from totals. */
  slots: number[];
}

/** The order in which an ordered measure goes over the rows of each group; measures of the same values share one. */
export function orderOf({ orders, groups, groupCount }: Prepared, measure: Ordered): ScanOrder {
  let known = orders.find((own) => own.for.known === measure.known && own.for.orderBy === measure.orderBy);
  if (!known) {
    known = { for: measure, order: ORDERED.get().layOut(measure, groups, groupCount) };
    orders.push(known);
  }
  return known.order;
}

/** Channels that place marks on an axis: rows without a value there cannot be drawn. */
const PLACES = new Set(["x", "y"]);

/** The aggregate calls of a formula, once each; those under `of all` are marked by the caller. */
function aggregatesOf(formula: Formula, found: Map<string, Formula & { type: "call" }>) {
  if (formula.type === "call" && AGGREGATES.has(formula.name)) {
    if (formula.name === "share") aggregatesOf(formula.arguments[0] as Formula, found);
    else found.set(printFormula(formula), formula);
    return;
  }
  for (const part of partsOf(formula)) aggregatesOf(part, found);
}

/** True for key channels whose values are categories, missing included. */
export function isCategoryChannel(channel: Channel, categoryAxis: boolean): boolean {
  return categoryAxis || channel.kind === "text" || channel.kind === "boolean";
}

export interface PrepareOptions {
  /** Place channels whose axis shows categories, on which missing is a category too. */
  categoryAxes?: ReadonlySet<string>;
  /** The interval channel whose empty stretches are drawn. */
  fillAlong?: string;
  /** Bins and periods of all rows, when the table holds only some of them. */
  fixedEdges?: ReadonlyMap<string, Edges>;
  /** What formulas ask of selections, row by row. */
  given?: Frame["given"];
}

/** Makes a query ready over all rows of a table. */
export function prepareQuery(
  query: Query,
  table: Table,
  setting: SettingValues,
  options: PrepareOptions = {},
): Prepared {
  const { categoryAxes = new Set<string>(), fillAlong, fixedEdges, given } = options;
  const frame: Frame = { ...frameOf(table, setting), ...(given ? { given } : {}) };
  const length = table.rowCount;
  const leaveOut = new Uint8Array(length);
  if (query.keep) {
    const { rows } = rowsWhere(evaluate(query.keep, frame), length);
    leaveOut.fill(1);
    for (const row of rows) leaveOut[row] = 0;
  }
  const edges = new Map<string, Edges>();
  for (const [name, channel] of Object.entries(query.channels)) {
    if (!channel.interval) continue;
    const found = fixedEdges?.get(name) ?? intervalEdges(channel.interval, frame);
    if (found) edges.set(name, found);
  }
  /**
   * The values of a channel row by row; of bins and periods only their numbers, as long as nobody asks where
   * they begin.
   */
  const rowKey = (name: string): RowKey => {
    const { formula, interval } = query.channels[name] as Channel;
    const own = edges.get(name);
    return own && interval
      ? { codes: stretchesOf(interval, own, frame), count: own.starts.length }
      : columnOf(evaluate(formula, frame), length);
  };
  const columnIn = (name: string, key: RowKey): Column =>
    "kind" in key
      ? key
      : startsAt((query.channels[name] as Channel).formula, edges.get(name) as Edges, frame, key.codes);
  const withoutPlace = (name: string, key: RowKey) => {
    if (!PLACES.has(name) || isCategoryChannel(query.channels[name] as Channel, categoryAxes.has(name))) return;
    if ("kind" in key) {
      if (key.kind === "text") return;
      const { values } = key;
      for (let row = 0; row < length; row++) if (values[row] !== values[row]) leaveOut[row] = 1;
    } else for (let row = 0; row < length; row++) if ((key.codes[row] as number) < 0) leaveOut[row] = 1;
  };
  const base = { query, table, setting, edges, ...(given ? { told: given } : {}) };
  if (!query.grouped) {
    const keys = new Map<string, Column>();
    for (const name of Object.keys(query.channels)) {
      const key = rowKey(name);
      keys.set(name, columnIn(name, key));
      withoutPlace(name, key);
    }
    const groups = new Int32Array(length);
    for (let row = 0; row < length; row++) groups[row] = leaveOut[row] ? -1 : row;
    return { ...base, groups, groupCount: length, keys, contributions: [null], measures: [], orders: [] };
  }
  const rowKeys = query.groupBy.map((name) => {
    const key = rowKey(name);
    withoutPlace(name, key);
    return key;
  });
  const grouping = groupRows(rowKeys, length, leaveOut);
  // A query without keys has its one group even when no row is there.
  const oneGroup = query.groupBy.length === 0 && grouping.count === 0;
  const keys = new Map(
    query.groupBy.map((name, place) => [name, columnIn(name, keyAt(rowKeys[place] as RowKey, grouping.firstRows))]),
  );
  const groupCount = oneGroup ? 1 : fillEmpty(keys, grouping.count, fillAlong, edges);
  const calls = new Map<string, Formula & { type: "call" }>();
  for (const channel of Object.values(query.channels)) if (channel.aggregate) aggregatesOf(channel.formula, calls);
  const contributions: (Float64Array | null)[] = [null];
  // What several measures are made of is worked out once, so that they share sums and orders.
  const evaluated = new Map<string, Vector>();
  const evaluatedOnce = (argument: Formula) => {
    const text = printFormula(argument);
    const vector = evaluated.get(text) ?? evaluate(argument, frame);
    evaluated.set(text, vector);
    return vector;
  };
  const measures = [...calls].map(([text, call]): PreparedMeasure => {
    const measure = makeMeasure(call.name, call.arguments.map(evaluatedOnce), length);
    if (measure.type === "ordered") return { text, measure, slots: [] };
    const slots = measure.contributions.map((contribution) => {
      const place = contributions.indexOf(contribution);
      return place >= 0 ? place : contributions.push(contribution) - 1;
    });
    return { text, measure, slots };
  });
  return { ...base, groups: grouping.of, groupCount, keys, contributions, measures, orders: [] };
}

/** The values of a channel row by row, or the numbers of its bins or periods. */
type RowKey = Column | Codes;

/** A key at some rows alone. */
const keyAt = (key: RowKey, rows: Int32Array): RowKey =>
  "kind" in key ? gather(key, rows) : { ...key, codes: rows.map((row) => key.codes[row] as number) };

/** Adds groups for stretches without rows, beside every combination of the other keys that is there. */
function fillEmpty(
  keys: Map<string, Column>,
  count: number,
  along: string | undefined,
  edges: ReadonlyMap<string, Edges>,
): number {
  const found = along === undefined ? undefined : edges.get(along);
  const column = along === undefined ? undefined : keys.get(along);
  if (!found || !column || column.kind === "text" || count === 0) return count;
  const others = [...keys].filter(([name]) => name !== along);
  const combination = groupRows(
    others.map(([, other]) => other),
    count,
  );
  const combinations = others.length ? combination.count : 1;
  const starts = found.starts;
  if (starts.length * combinations > LIMITS.emptyStretches) return count;
  const placeOf = new Map(Array.from(starts, (start, place) => [start, place]));
  const there = new Uint8Array(starts.length * combinations);
  for (let group = 0; group < count; group++) {
    const place = placeOf.get(column.values[group] as number);
    if (place !== undefined) there[(others.length ? (combination.of[group] as number) : 0) * starts.length + place] = 1;
  }
  const example: number[] = [];
  const start: number[] = [];
  for (let slot = 0; slot < there.length; slot++) {
    if (there[slot]) continue;
    example.push(others.length ? (combination.firstRows[Math.floor(slot / starts.length)] as number) : 0);
    start.push(starts[slot % starts.length] as number);
  }
  const extended = Int32Array.from([...Array.from({ length: count }, (_, group) => group), ...example]);
  for (const [name, other] of others) keys.set(name, gather(other, extended));
  const values = new Float64Array(count + start.length);
  values.set(column.values.subarray(0, count));
  values.set(start, count);
  keys.set(along as string, { kind: column.kind, values });
  return count + start.length;
}
