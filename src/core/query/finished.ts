import { answerVector, numbersOf, type OrderedMeasure } from "../formula/measures";
import { columnOf, vectorOf } from "../formula/vector";
import type { SettingValues } from "../steps/step";
import type { Column } from "../table/column";
import { emptyTable, makeTable, type Table } from "../table/table";
import type { Answer } from "./answer";
import { MISSING_NAME, nameAt } from "./categories";
import type { Edges } from "./interval";
import type { Channel, Query } from "./query";

/**
 * The answer to a question that nothing in a dashboard reaches: no pick, no setting. It is worked out when
 * the file is made, and packed in place of the rows: groups leave, rows stay.
 */
export interface Finished {
  /** The packed table with a row for each group. */
  table: string;
  /** Bins and periods of the keys, by channel. */
  edges: Record<string, { starts: number[]; end: number; grain?: Edges["grain"] }>;
  /** What each group measures: the texts of the aggregates, which are columns there, and their kinds. */
  measures: { text: string; kind: OrderedMeasure["kind"] }[];
}

/** The column that counts the rows of each group. */
const COUNT = "count()";

/** The column of a key. The first categories and one for the rest stand beside what they were made of. */
function keyColumn({ channels }: Query, name: string): string {
  const { text, rest } = channels[name] as Channel;
  return rest === undefined ? text : `${text} or ${rest}`;
}

const tables = new WeakMap<Answer, Table>();

/** The groups of an answer as a table; of the same answer it is the same one. */
function tableOf(answer: Answer): Table {
  const known = tables.get(answer);
  if (known) return known;
  const { prepared, counts, values } = answer;
  const { query, groupCount, keys, measures } = prepared;
  const columns = new Map<string, Column>();
  for (const [key, column] of keys) columns.set(keyColumn(query, key), column);
  columns.set(COUNT, { kind: "number", values: Float64Array.from(counts) });
  measures.forEach(({ text, measure }, place) => {
    columns.set(text, columnOf(answerVector(measure, values[place] as Float64Array), groupCount));
  });
  const table = makeTable(groupCount, columns);
  tables.set(answer, table);
  return table;
}

/** An answer as a table of its groups, and how it is read back. */
export function finish(answer: Answer, name: string): { table: Table; finished: Finished } {
  const { edges, measures } = answer.prepared;
  return {
    table: tableOf(answer),
    finished: {
      table: name,
      edges: Object.fromEntries(
        [...edges].map(([key, { starts, end, grain }]) => [
          key,
          { starts: [...starts], end, ...(grain ? { grain } : {}) },
        ]),
      ),
      measures: measures.map(({ text, measure }) => ({ text, kind: measure.kind })),
    },
  };
}

/** The answer to a finished question, from the table of its groups. */
export function answerFinished(query: Query, finished: Finished, table: Table, setting: SettingValues): Answer {
  const groupCount = table.rowCount;
  const columnIn = (name: string) => table.columns.get(name) as Column;
  const read = finished.measures.map(({ text, kind }) => {
    const column = columnIn(text);
    const known = numbersOf(vectorOf(column), groupCount);
    const texts =
      column.kind === "text" ? { dictionary: column.dictionary, ...(column.ordered ? { ordered: true } : {}) } : {};
    const measure: OrderedMeasure = {
      type: "ordered",
      kind,
      orderBy: null,
      known,
      ask: { type: "different" },
      ...texts,
    };
    return { text, measure, slots: [] };
  });
  const counts = columnIn(COUNT);
  return {
    prepared: {
      query,
      table: emptyTable,
      setting,
      groups: new Int32Array(0),
      groupCount,
      keys: new Map(query.groupBy.map((name) => [name, columnIn(keyColumn(query, name))])),
      edges: new Map(
        Object.entries(finished.edges).map(([name, { starts, end, grain }]) => [
          name,
          { starts: Float64Array.from(starts), end, ...(grain ? { grain } : {}) },
        ]),
      ),
      contributions: [null],
      measures: read,
      orders: [],
    },
    counts: counts.kind === "text" ? new Float64Array(groupCount) : counts.values,
    values: read.map(({ measure }) => measure.known),
  };
}

/** The group of fewest rows in such a table, by its keys in words; nothing where there are none. */
export function smallestGroup({ rowCount, columns }: Table): { rows: number; group: string } | undefined {
  const counts = columns.get(COUNT);
  if (!counts || counts.kind === "text") return undefined;
  let smallest = -1;
  for (let group = 0; group < rowCount; group++) {
    const rows = counts.values[group] as number;
    if (rows > 0 && (smallest < 0 || rows < (counts.values[smallest] as number))) smallest = group;
  }
  if (smallest < 0) return undefined;
  const names = [...columns.keys()];
  const keys = names.slice(0, names.indexOf(COUNT));
  const words = keys.map((name) => nameAt(columns.get(name) as Column, smallest) ?? MISSING_NAME);
  return { rows: counts.values[smallest] as number, group: words.join(", ") };
}
