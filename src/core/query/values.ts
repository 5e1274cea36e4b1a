import { AGGREGATES } from "../formula/aggregate-names";
import { evaluate, type Frame } from "../formula/evaluate";
import { ROW_FUNCTIONS } from "../formula/functions/function";
import { type Grouping, groupRows } from "../formula/groups";
import { answerVector } from "../formula/measures";
import { printFormula } from "../formula/print";
import { type Formula, partsOf } from "../formula/tree";
import { columnOf, type Vector } from "../formula/vector";
import { type Column, valueAt } from "../table/column";
import { ranks, sortedRows } from "../table/compare";
import type { Answer } from "./answer";
import { drawnIds } from "./drawn";
import type { Prepared, PreparedMeasure } from "./prepare";
import { type Channel, PANEL_CHANNELS } from "./query";

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
    ...(hasRowFunction(channel.formula) ? alongX(answer) : {}),
  };
  return columnOf(evaluate(channel.formula, frame), prepared.groupCount);
}

function hasRowFunction(formula: Formula): boolean {
  return (formula.type === "call" && ROW_FUNCTIONS.has(formula.name)) || partsOf(formula).some(hasRowFunction);
}

/**
 * How functions that look at other rows go over the groups: along x (else the first key), by itself for every
 * combination of the other keys. Groups of which no row passes are not there, and are gone over apart from all others.
 */
function alongX(answer: Answer): Pick<Frame, "groups" | "order"> {
  const { keys, groupCount, edges } = answer.prepared;
  const along = keys.get("x") ?? [...keys.values()][0];
  if (!along) return {};
  const others = [...keys.values()].filter((column) => column !== along);
  const there = drawnIds(answer, edges.has("x") ? "x" : ([...edges.keys()][0] ?? ""));
  if (there.length < groupCount) {
    const isThere = new Float64Array(groupCount);
    for (const id of there) isThere[id] = 1;
    others.push({ kind: "number", values: isThere });
  }
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
    const { of, count } = panelsOf(prepared);
    const totals = new Float64Array(count);
    for (const [group, value] of values.entries())
      if (value === value) totals[of[group] as number] = (totals[of[group] as number] as number) + value;
    const part = (value: number, group: number) => value / (totals[of[group] as number] || Number.NaN);
    return { kind: "number", step: 1, values: values.map(part) };
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

/** The panel of every group; all are in one where the chart has none. */
const panelsOf = ({ keys, groupCount }: Prepared): Grouping =>
  groupRows(
    PANEL_CHANNELS.flatMap((name) => keys.get(name) ?? []),
    groupCount,
  );

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

/** Columns of all channels of a layer under an answer, made once each. */
export class LayerValues {
  private readonly columns = new Map<string, Column>();

  constructor(
    readonly answer: Answer,
    private readonly all: Answer,
  ) {}

  get prepared(): Prepared {
    return this.answer.prepared;
  }

  get(name: string): Column | undefined {
    if (!(name in this.prepared.query.channels)) return undefined;
    let column = this.columns.get(name);
    if (!column) {
      column = channelValues(name, this.answer, this.all);
      this.columns.set(name, column);
    }
    return column;
  }

  /** Numbers of a channel, one a group or row; nothing for texts. */
  numbers(name: string): Float64Array | undefined {
    const column = this.get(name);
    return column && column.kind !== "text" ? column.values : undefined;
  }
}
