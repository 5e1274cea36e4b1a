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

/** What is common to a query over groups and over rows: what formulas are worked out over, and which rows count. */
interface Ground {
  query: Query;
  frame: Frame;
  length: number;
  /** Rows that are not drawn. */
  leaveOut: Uint8Array;
  edges: Map<string, Edges>;
  categoryAxes: ReadonlySet<string>;
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
  const ground: Ground = { query, frame, length, leaveOut, edges, categoryAxes };
  const base = { query, table, setting, edges, orders: [], ...(given ? { told: given } : {}) };
  return query.grouped
    ? { ...base, ...overGroups(ground, fillAlong, fixedEdges !== undefined), ...measuresOf(ground) }
    : { ...base, ...overRows(ground), contributions: [null], measures: [] };
}

/**
 * The values of a channel row by row; of bins and periods only their numbers, as long as nobody asks where
 * they begin. Rows without a place on an axis of numbers are left out.
 */
function placedKey({ query, frame, length, leaveOut, edges, categoryAxes }: Ground, name: string): RowKey {
  const channel = query.channels[name] as Channel;
  const own = edges.get(name);
  const key =
    own && channel.interval
      ? { codes: stretchesOf(channel.interval, own, frame), count: own.starts.length }
      : columnOf(evaluate(channel.formula, frame), length);
  if (!PLACES.has(name) || isCategoryChannel(channel, categoryAxes.has(name))) return key;
  if (!("kind" in key)) {
    for (let row = 0; row < length; row++) if ((key.codes[row] as number) < 0) leaveOut[row] = 1;
  } else if (key.kind !== "text") {
    const { values } = key;
    for (let row = 0; row < length; row++) if (values[row] !== values[row]) leaveOut[row] = 1;
  }
  return key;
}

/** A key as a column: of bins and periods where they begin. */
const columnIn = ({ query, frame, edges }: Ground, name: string, key: RowKey): Column =>
  "kind" in key ? key : startsAt((query.channels[name] as Channel).formula, edges.get(name) as Edges, frame, key.codes);

/** Every row a group of its own. */
function overRows(ground: Ground): Pick<Prepared, "groups" | "groupCount" | "keys"> {
  const { query, length, leaveOut } = ground;
  const names = Object.keys(query.channels);
  const keys = new Map(names.map((name) => [name, columnIn(ground, name, placedKey(ground, name))]));
  const groups = new Int32Array(length);
  for (let row = 0; row < length; row++) groups[row] = leaveOut[row] ? -1 : row;
  return { groups, groupCount: length, keys };
}

/** Rows with the same keys in one group, and groups for stretches along which none has rows. */
function overGroups(
  ground: Ground,
  fillAlong: string | undefined,
  isWhole: boolean,
): Pick<Prepared, "groups" | "groupCount" | "keys"> {
  const { groupBy } = ground.query;
  const rowKeys = groupBy.map((name) => placedKey(ground, name));
  const grouping = groupRows(rowKeys, ground.length, ground.leaveOut);
  const keys = new Map(
    groupBy.map((name, place) => [name, columnIn(ground, name, keyAt(rowKeys[place] as RowKey, grouping.firstRows))]),
  );
  // A query without keys has its one group even when no row is there.
  const oneGroup = groupBy.length === 0 && grouping.count === 0;
  const groupCount = oneGroup ? 1 : fillEmpty(keys, grouping.count, fillAlong, isWhole, ground.edges);
  return { groups: grouping.of, groupCount, keys };
}

/** The measures that channels ask for, and what they add up, once each. */
function measuresOf({ query, frame, length }: Ground): Pick<Prepared, "contributions" | "measures"> {
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
  return { contributions, measures };
}

/** The values of a channel row by row, or the numbers of its bins or periods. */
type RowKey = Column | Codes;

/** A key at some rows alone. */
const keyAt = (key: RowKey, rows: Int32Array): RowKey =>
  "kind" in key ? gather(key, rows) : { ...key, codes: rows.map((row) => key.codes[row] as number) };

/** The starts from the first to the last that some group has. */
function betweenFilled(starts: Float64Array, values: Float64Array): Float64Array {
  let [first, last] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const value of values) {
    if (value < first) first = value;
    if (value > last) last = value;
  }
  return starts.filter((start) => start >= first && start <= last);
}

/**
 * Adds groups for stretches without rows, beside every combination of the other keys that is there: those between
 * the first and the last with rows, as a chart that keeps few has none outside, or, if `isWhole`, all.
 */
function fillEmpty(
  keys: Map<string, Column>,
  count: number,
  along: string | undefined,
  isWhole: boolean,
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
  const starts = isWhole ? found.starts : betweenFilled(found.starts, column.values);
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
