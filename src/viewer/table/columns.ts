import type { CellPlan, DataTablePlan } from "../../core/chart/plan";
import { aligned } from "../../core/query/aligned";
import type { Answer } from "../../core/query/answer";
import { drawnIds } from "../../core/query/drawn";
import type { Channel } from "../../core/query/query";
import { LayerValues } from "../../core/query/values";
import type { Column } from "../../core/table/column";
import { ranks, sortedRows } from "../../core/table/compare";
import { extentOf } from "../../core/table/extent";
import { taken } from "../../core/table/taken";
import type { App } from "../app";
import { inOrder, readColumns } from "./column-heads";

/** A column as it is shown: its key for scripts, its words and its values. */
export interface ShownColumn {
  key: string;
  /** With a format of its own, so that decimals stand under one another. */
  channel: Channel;
  column: Column;
  cell?: CellPlan;
  /** The least and the largest value of the rows that controls leave, where cells are drawn by value. */
  extent?: [number, number];
  /** Its sum stands under the rows. */
  adds?: true;
}

/** What a data table shows now: its columns, and the rows that pass in their order. */
export interface ShownRows {
  columns: ShownColumn[];
  ids: Int32Array;
  /** What makes a row the same row in another build, where the sheet says so. */
  identity?: ShownColumn;
  /** A row's number in its table with no selection on; -1 where it is not there then. */
  baseRow: (id: number) => number;
}

export const NO_ROWS: ShownRows = { columns: [], ids: new Int32Array(0), baseRow: (id) => id };

type Extents = Map<string, [number, number]>;

const extents = new WeakMap<Answer, Extents>();

/**
 * The ends of a channel over the rows that controls leave, as those of an axis are, and not over those of a brush:
 * cells that are drawn by value are compared from one brush to the next.
 */
function extentIn(answer: Answer, all: Answer, channel: string): [number, number] {
  const known = extents.get(answer) ?? new Map<string, [number, number]>();
  extents.set(answer, known);
  let extent = known.get(channel);
  if (!extent) {
    const column = new LayerValues(answer, all).get(channel);
    const values = column && column.kind !== "text" ? column.values : new Float64Array(0);
    extent = extentOf(taken(values, drawnIds(answer, ""))) ?? extentOf(values) ?? [0, 1];
    known.set(channel, extent);
  }
  return extent;
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
  if (!found || app.model.waits(name)) return NO_ROWS;
  const values = new LayerValues(found.answer, found.all);
  const whole = new LayerValues(found.all, found.all);
  const framed = plan.columns.some(({ cell }) => cell) ? app.model.controlsAnswer(name) : undefined;
  const { sort, search, columns: order } = app.reader.tableOf(name);
  const columns = inOrder(plan.columns, readColumns(order)).map(
    ({ channel, key, cell, adds }): ShownColumn => ({
      key,
      channel: aligned(plan.query.channels[channel] as Channel, whole.get(channel) as Column),
      column: values.get(channel) as Column,
      ...(adds ? { adds } : {}),
      ...(cell && framed ? { cell, extent: extentIn(framed, found.all, channel) } : {}),
    }),
  );
  const { table } = found.answer.prepared;
  const passing = searched(columns, drawnIds(found.answer, ""), search ?? "", write);
  const own = plan.query.channels.identity;
  const known = own && values.get("identity");
  return {
    columns,
    ids: sorted(columns, passing, sort),
    ...(known ? { identity: { key: own.text, channel: own, column: known } } : {}),
    baseRow: (id) => app.model.engine.baseRows(table)?.[id] ?? id,
  };
}

const orders = new WeakMap<Column, Map<string, Int32Array>>();

/** All rows in the order of a column, found once however many of them pass at the moment. */
function orderOf({ column, channel }: ShownColumn, length: number, descending: boolean): Int32Array {
  const own = orders.get(column) ?? new Map<string, Int32Array>();
  orders.set(column, own);
  const key = JSON.stringify([descending, channel.order]);
  const order = own.get(key) ?? sortedRows(length, [ranks(column, channel.order)], [descending]);
  own.set(key, order);
  return order;
}

function sorted(columns: readonly ShownColumn[], ids: Int32Array, sort: string | undefined): Int32Array {
  if (!sort) return ids;
  const descending = sort.startsWith("-");
  const one = columns.find(({ key }) => key === (descending ? sort.slice(1) : sort));
  if (!one) return ids;
  const length = one.column.kind === "text" ? one.column.codes.length : one.column.values.length;
  const passing = new Uint8Array(length);
  for (const id of ids) passing[id] = 1;
  const inOrder = new Int32Array(ids.length + 1);
  let count = 0;
  // Each is written down, and the next goes over it if it does not pass.
  for (const id of orderOf(one, length, descending)) {
    inOrder[count] = id;
    count += passing[id] as number;
  }
  return inOrder.subarray(0, count);
}
