import { LIMITS } from "../finding/limits";
import { AGGREGATES } from "../formula/aggregate-names";
import { evaluate, type Frame, frameOf, rowsWhere } from "../formula/evaluate";
import { groupRows } from "../formula/groups";
import {
  addTotals,
  answerScan,
  answerVector,
  finishTotals,
  type Measure,
  makeMeasure,
  type RowFilter,
  type ScanOrder,
  scanOrder,
} from "../formula/measures";
import { printFormula } from "../formula/print";
import { type Formula, partsOf } from "../formula/tree";
import { columnOf, type Vector } from "../formula/vector";
import { ROW_FUNCTIONS } from "../formula/row-functions";
import { type Column, gather, valueAt } from "../table/column";
import { ranks, sortedRows } from "../table/compare";
import type { Table } from "../table/table";
import type { SettingValues } from "../steps/step";
import { type Edges, intervalEdges, startsOf } from "./interval";
import type { Channel, Query } from "./plan";

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
}

export interface PreparedMeasure {
  text: string;
  measure: Measure;
  /** Places among `contributions`, for measures from totals. */
  slots: number[];
  order?: ScanOrder;
}

/** Numbers per group for some choice of rows. */
export interface Answer {
  prepared: Prepared;
  /** Rows in each group; in an ungrouped query 1 for rows that pass, 0 for others. */
  counts: Float64Array | Uint8Array;
  /** Values per group, for each measure. */
  values: Float64Array[];
  /** The same question over the rows of single selections, for aggregates `of NAME`. */
  of?: ReadonlyMap<string, Answer>;
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
  const rowColumn = (name: string) => {
    const channel = query.channels[name] as Channel;
    const fixed = fixedEdges?.get(name);
    return fixed && channel.interval
      ? startsOf(channel.interval, fixed, frame)
      : columnOf(evaluate(channel.formula, frame), length);
  };
  const withoutPlace = (name: string, column: Column) => {
    if (
      !PLACES.has(name) ||
      isCategoryChannel(query.channels[name] as Channel, categoryAxes.has(name)) ||
      column.kind === "text"
    )
      return;
    for (let row = 0; row < length; row++) if (Number.isNaN(column.values[row])) leaveOut[row] = 1;
  };
  const edges = new Map<string, Edges>();
  for (const [name, channel] of Object.entries(query.channels)) {
    if (!channel.interval) continue;
    const found = fixedEdges?.get(name) ?? intervalEdges(channel.interval, frame);
    if (found) edges.set(name, found);
  }
  const base = { query, table, setting, edges, ...(given ? { told: given } : {}) };
  if (!query.grouped) {
    const keys = new Map<string, Column>();
    for (const name of Object.keys(query.channels)) {
      const column = rowColumn(name);
      keys.set(name, column);
      withoutPlace(name, column);
    }
    const groups = new Int32Array(length);
    for (let row = 0; row < length; row++) groups[row] = leaveOut[row] ? -1 : row;
    return { ...base, groups, groupCount: length, keys, contributions: [null], measures: [] };
  }
  const keyColumns = query.groupBy.map((name) => {
    const column = rowColumn(name);
    withoutPlace(name, column);
    return column;
  });
  const grouping = groupRows(keyColumns, length, leaveOut);
  // A query without keys has its one group even when no row is there.
  const oneGroup = query.groupBy.length === 0 && grouping.count === 0;
  const keys = new Map(
    query.groupBy.map((name, place) => [name, gather(keyColumns[place] as Column, grouping.firstRows)]),
  );
  const groupCount = oneGroup ? 1 : fillEmpty(keys, grouping.count, fillAlong, edges);
  const calls = new Map<string, Formula & { type: "call" }>();
  for (const channel of Object.values(query.channels)) if (channel.aggregate) aggregatesOf(channel.formula, calls);
  const contributions: (Float64Array | null)[] = [null];
  const measures = [...calls].map(([text, call]): PreparedMeasure => {
    const measure = makeMeasure(
      call.name,
      call.arguments.map((argument) => evaluate(argument, frame)),
      length,
    );
    if (measure.type === "scan") return { text, measure, slots: [] };
    const slots = measure.contributions.map((contribution) => {
      const place = contributions.indexOf(contribution);
      return place >= 0 ? place : contributions.push(contribution) - 1;
    });
    return { text, measure, slots };
  });
  return { ...base, groups: grouping.of, groupCount, keys, contributions, measures };
}

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

/** Answers a query over the rows that pass, by going over all of them. */
export function answerQuery(prepared: Prepared, filter: RowFilter | null): Answer {
  if (!prepared.query.grouped) return { prepared, counts: passingRows(prepared.groups, filter), values: [] };
  const totals = prepared.contributions.map((contribution) =>
    addTotals(contribution, prepared.groups, prepared.groupCount, filter),
  );
  return answerFromTotals(prepared, totals, filter);
}

/**
 * Without groups every row is its own: 1 where it is drawn and passes. Worked out in signs and not in
 * branches, of which a processor guesses every second one wrong where rows pass at random.
 */
function passingRows(groups: Int32Array, filter: RowFilter | null): Uint8Array {
  const { length } = groups;
  const passing = new Uint8Array(length);
  if (!filter) {
    for (let row = 0; row < length; row++) passing[row] = ((groups[row] as number) >>> 31) ^ 1;
    return passing;
  }
  const { bits, mask } = filter;
  for (let row = 0; row < length; row++) {
    const failed = (bits[row] as number) & mask;
    passing[row] = (((failed | -failed) >>> 31) | ((groups[row] as number) >>> 31)) ^ 1;
  }
  return passing;
}

/** Answers a query whose totals are known already; only measures that need rows go over them. */
export function answerFromTotals(
  prepared: Prepared,
  totals: readonly Float64Array[],
  filter: RowFilter | null,
): Answer {
  const values = prepared.measures.map((prepared_) => {
    const { measure, slots } = prepared_;
    if (measure.type === "totals")
      return finishTotals(
        measure,
        slots.map((slot) => totals[slot] as Float64Array),
        prepared.groupCount,
      );
    prepared_.order ??= scanOrder(measure, prepared.groups, prepared.groupCount);
    return answerScan(measure, prepared_.order, prepared.groupCount, filter);
  });
  return { prepared, counts: totals[0] as Float64Array, values };
}

/** True if every measure follows from totals, so that an index can answer it without rows. */
export function isSubtractable(prepared: Prepared): boolean {
  return prepared.query.grouped && prepared.measures.every(({ measure }) => measure.type === "totals");
}

/**
 * The value of a channel for every group, from an answer; `all` is the answer with no selection on,
 * for `of all`. In an ungrouped query, the values of all rows.
 */
export function channelValues(name: string, answer: Answer, all: Answer): Column {
  const { prepared } = answer;
  const key = prepared.keys.get(name);
  if (key) return key;
  const channel = prepared.query.channels[name] as Channel;
  const frame: Frame = {
    length: prepared.groupCount,
    column: () => undefined,
    setting: prepared.setting,
    given: givenBy(answer, all),
    ...(hasRowFunction(channel.formula) ? alongX(prepared) : {}),
  };
  return columnOf(evaluate(channel.formula, frame), prepared.groupCount);
}

function hasRowFunction(formula: Formula): boolean {
  return (
    (formula.type === "call" && Object.hasOwn(ROW_FUNCTIONS, formula.name)) || partsOf(formula).some(hasRowFunction)
  );
}

/** How functions that look at other rows go over the groups: along x (else the first key), by itself for every combination of the other keys. */
function alongX({ keys, groupCount }: Prepared): Pick<Frame, "groups" | "order"> {
  const along = keys.get("x") ?? [...keys.values()][0];
  if (!along) return {};
  const others = [...keys.values()].filter((column) => column !== along);
  const order = sortedRows(groupCount, [ranks(along)], [false]);
  return others.length ? { order, groups: groupRows(others, groupCount) } : { order };
}

function givenBy(answer: Answer, all: Answer): (node: Formula) => Vector | undefined {
  const { prepared } = answer;
  const keyTexts = new Map(
    prepared.query.groupBy.map((name) => [(prepared.query.channels[name] as Channel).text, name]),
  );
  const aggregate = (call: Formula, from: Answer): Vector | undefined => {
    const text = printFormula(call);
    const place = from.prepared.measures.findIndex((measure) => measure.text === text);
    if (place < 0) return undefined;
    const vector = answerVector(
      (from.prepared.measures[place] as PreparedMeasure).measure,
      from.values[place] as Float64Array,
    );
    return from.prepared === prepared ? vector : inGroupsOf(vector, from.prepared, prepared);
  };
  const share = (call: Formula & { type: "call" }, from: Answer): Vector => {
    const own = aggregate(call.arguments[0] as Formula, from);
    const values = own && own.kind !== "text" ? own.values : new Float64Array(prepared.groupCount);
    let total = 0;
    for (const value of values) if (value === value) total += value;
    return { kind: "number", step: 1, values: values.map((value) => (total ? value / total : Number.NaN)) };
  };
  return (node) => {
    const told = prepared.told?.(node);
    if (told) return told;
    const from =
      node.type === "of" ? (node.selection === "all" ? all : (answer.of?.get(node.selection) ?? all)) : answer;
    const call = node.type === "of" ? node.aggregate : node;
    if (call.type === "call" && AGGREGATES.has(call.name))
      return call.name === "share" ? share(call, from) : aggregate(call, from);
    if (node.type !== "call" && node.type !== "column") return undefined;
    const key = keyTexts.get(printFormula(node));
    const column = key === undefined ? undefined : prepared.keys.get(key);
    return column ? { ...column, step: 1 } : undefined;
  };
}

/** Keys of a group as one text, by which groups of two preparations of one query are matched. */
function groupNames(prepared: Prepared): string[] {
  const columns = [...prepared.keys.values()];
  return Array.from({ length: prepared.groupCount }, (_, group) =>
    JSON.stringify(columns.map((column) => valueAt(column, group))),
  );
}

/** Values per group of one preparation, in the numbering of another. */
function inGroupsOf(vector: Vector, from: Prepared, to: Prepared): Vector {
  const places = new Map(groupNames(from).map((name, group) => [name, group]));
  const groups = groupNames(to).map((name) => places.get(name) ?? -1);
  if (vector.kind === "text")
    return {
      ...vector,
      codes: Int32Array.from(groups, (group) => (group < 0 ? -1 : (vector.codes[group * vector.step] as number))),
      step: 1,
    };
  return {
    ...vector,
    values: Float64Array.from(groups, (group) =>
      group < 0 ? Number.NaN : (vector.values[group * vector.step] as number),
    ),
    step: 1,
  };
}
