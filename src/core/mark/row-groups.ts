import { groupRows } from "../formula/groups";
import type { LayerValues } from "../query/values";
import { type Column, gather } from "../table/column";

/** Rows that a mark sums up together. */
export interface RowGroup {
  /** Places among the drawn rows, in their order. */
  at: number[];
  /** A row that stands for all of them. */
  id: number;
}

/** Drawn rows by the values of some channels, in the order in which groups first appear. */
export function rowGroups(values: LayerValues, ids: Int32Array, channels: readonly string[]): RowGroup[] {
  const columns = channels.map((name) => values.get(name)).filter((column): column is Column => column !== undefined);
  if (ids.length === 0) return [];
  if (columns.length === 0) return [{ at: [...ids.keys()], id: ids[0] as number }];
  const { of, count, firstRows } = groupRows(
    columns.map((column) => gather(column, ids)),
    ids.length,
  );
  const groups: RowGroup[] = Array.from({ length: count }, (_, group) => ({
    at: [],
    id: ids[firstRows[group] as number] as number,
  }));
  of.forEach((group, at) => {
    groups[group]?.at.push(at);
  });
  return groups;
}
