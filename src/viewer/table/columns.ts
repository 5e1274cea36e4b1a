import type { CellPlan, DataTablePlan } from "../../core/chart/plan";
import { aligned } from "../../core/query/aligned";
import type { Channel } from "../../core/query/query";
import { LayerValues } from "../../core/query/values";
import type { Column } from "../../core/table/column";
import { ranks, sortedRows } from "../../core/table/compare";
import type { App } from "../app";
import { inOrder, readColumns } from "./column-heads";

/** A column as it is shown: its key for scripts, its words and its values. */
export interface ShownColumn {
  key: string;
  /** With a format of its own, so that decimals stand under one another. */
  channel: Channel;
  column: Column;
  cell?: CellPlan;
  /** The least and the largest value of all rows, where cells are drawn by value. */
  extent?: [number, number];
}

/** What a data table shows now: its columns, and the rows that pass in their order. */
export interface ShownRows {
  columns: ShownColumn[];
  ids: Int32Array;
  /** What makes a row the same row in another build, where the sheet says so. */
  identity?: ShownColumn;
  /** Of the rows as they stand now, their rows with no selection on; nothing while no row above is left out. */
  baseRows: Int32Array | undefined;
}

function extentOf(column: Column): [number, number] {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const value of column.kind === "text" ? [] : column.values) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return low <= high ? [low, high] : [0, 1];
}

/** Rows whose text holds what is searched for, in whatever case, in some column. */
function searched(
  columns: readonly ShownColumn[],
  ids: Int32Array,
  wanted: string,
  write: (c: ShownColumn, id: number) => string,
) {
  const part = wanted.trim().toLowerCase();
  if (part === "") return ids;
  // Texts repeat: each entry of a dictionary is looked at once.
  const holds = columns.map(({ column }) =>
    column.kind === "text" ? column.dictionary.map((text) => text.toLowerCase().includes(part)) : undefined,
  );
  return ids.filter((id) =>
    columns.some((one, at) => {
      const known = holds[at];
      if (known && one.column.kind === "text") return known[one.column.codes[id] as number] === true;
      return write(one, id).toLowerCase().includes(part);
    }),
  );
}

/** The rows of a data table that pass, searched and sorted as the reader has it. */
export function shownRows(
  app: App,
  name: string,
  plan: DataTablePlan,
  write: (column: ShownColumn, id: number) => string,
): ShownRows {
  const found = app.model.plainAnswer(name);
  if (!found || app.model.waits(name)) return { columns: [], ids: new Int32Array(0), baseRows: undefined };
  const values = new LayerValues(found.answer, found.all);
  const whole = new LayerValues(found.all, found.all);
  const { sort, search, columns: order } = app.tables.get(name) ?? {};
  const columns = inOrder(plan.columns, readColumns(order)).map(
    ({ channel, key, cell }): ShownColumn => ({
      key,
      channel: aligned(plan.query.channels[channel] as Channel, whole.get(channel) as Column),
      column: values.get(channel) as Column,
      ...(cell ? { cell, extent: extentOf(whole.get(channel) as Column) } : {}),
    }),
  );
  const { counts, prepared } = found.answer;
  const ids = new Int32Array(counts.length);
  let count = 0;
  for (let id = 0; id < counts.length; id++)
    if ((counts[id] as number) > 0 && (prepared.query.grouped || (prepared.groups[id] as number) >= 0))
      ids[count++] = id;
  const passing = searched(columns, ids.slice(0, count), search ?? "", write);
  const own = plan.query.channels.identity;
  const known = own && values.get("identity");
  return {
    columns,
    ids: sorted(columns, passing, sort),
    ...(known ? { identity: { key: own.text, channel: own, column: known } } : {}),
    baseRows: app.model.engine.baseRows(prepared.table),
  };
}

function sorted(columns: readonly ShownColumn[], ids: Int32Array, sort: string | undefined): Int32Array {
  if (!sort) return ids;
  const descending = sort.startsWith("-");
  const column = columns.find(({ key }) => key === (descending ? sort.slice(1) : sort));
  if (!column) return ids;
  const all = ranks(column.column, column.channel.order);
  const keys = Float64Array.from(ids, (id) => all[id] as number);
  return sortedRows(ids.length, [keys], [descending]).map((place) => ids[place] as number);
}
