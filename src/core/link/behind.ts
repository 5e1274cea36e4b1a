import { nameAt, plainValue } from "../query/categories";
import { stretchEnd } from "../query/interval";
import { keyName } from "../query/query";
import type { LayerValues } from "../query/values";
import type { Engine } from "./engine";
import type { Key, SelectionPlan } from "./selection";

/** What a mark stands for: keys of its group, values of the columns that a link widens to, or a row of its table. */
export type Behind = { keys: Key[] } | { row: number };

/**
 * What stands behind a mark, in words that stay true whatever else is picked: the keys of its group, the
 * values of `by` in the rows behind it, or the number of its row with no selection on. Nothing where the
 * row is only there while others are left out.
 */
export function behindMark(
  engine: Engine,
  selection: SelectionPlan,
  values: LayerValues,
  id: number,
): Behind | undefined {
  const { prepared } = values;
  if (isLimit(values)) return undefined;
  const base = engine.baseRows(prepared.table);
  const isOwn = prepared.query.from === selection.table;
  const rest = restColumns(values, id);
  if (selection.by.length || rest.length)
    return widenedKeys(engine, selection.by.length ? selection.by : rest, values, id, base);
  // Marks of a layer with another table stand for none of these rows.
  if (!isOwn) return undefined;
  const { merged, grouped } = prepared.query;
  if (merged) return { keys: [groupKey(values, id)] };
  const { identity } = prepared.query.channels;
  if (!grouped && identity) {
    const column = values.get("identity");
    return column && { keys: [{ [keyName(identity)]: plainValue(column, id) }] };
  }
  if (!grouped) {
    const row = base ? (base[id] as number) : id;
    return row < 0 ? undefined : { row };
  }
  return { keys: [groupKey(values, id)] };
}

/** True for a mark that tells no rows from others: a limit, or the mean of all. Nothing is picked by it. */
export function isLimit({ prepared }: LayerValues): boolean {
  const { channels, merged, groupBy, grouped } = prepared.query;
  return (grouped || merged !== undefined) && (merged ?? groupBy).every((name) => channels[name]?.constant);
}

/** The different keys of several marks of groups. */
export function keysBehind(
  engine: Engine,
  selection: SelectionPlan,
  values: LayerValues,
  ids: ArrayLike<number>,
): Key[] {
  const keys = new Map<string, Key>();
  for (let at = 0; at < ids.length; at++) {
    const behind = behindMark(engine, selection, values, ids[at] as number);
    if (behind && "keys" in behind) for (const key of behind.keys) keys.set(JSON.stringify(key), key);
  }
  return [...keys.values()];
}

/** Columns of which a mark stands for all values that are not among the first ones. */
function restColumns(values: LayerValues, id: number): string[] {
  return Object.entries(values.prepared.query.channels).flatMap(([name, { rest, column }]) => {
    const own = rest === undefined ? undefined : values.get(name);
    return own && column !== undefined && nameAt(own, id) === rest ? [column] : [];
  });
}

/** The different values that the rows behind a mark have in some columns. */
function widenedKeys(
  engine: Engine,
  by: readonly string[],
  { prepared }: LayerValues,
  id: number,
  base: Int32Array | undefined,
): Behind | undefined {
  const { columns: own } = base ? engine.tableOf(prepared.query.from) : prepared.table;
  const columns = by.flatMap((name) => {
    const column = own.get(name);
    return column ? [[name, column] as const] : [];
  });
  if (columns.length < by.length) return undefined;
  const found = new Map<string, Key>();
  for (let row = 0; row < prepared.groups.length; row++) {
    const at = base ? (base[row] as number) : row;
    if (prepared.groups[row] !== id || at < 0) continue;
    const key: Key = Object.fromEntries(columns.map(([name, column]) => [name, plainValue(column, at)]));
    found.set(JSON.stringify(key), key);
  }
  return found.size ? { keys: [...found.values()] } : undefined;
}

/** The values by which a group is told apart; of a bin its stretch. */
function groupKey(values: LayerValues, id: number): Key {
  const { prepared } = values;
  const { channels, groupBy, merged } = prepared.query;
  const key: Key = {};
  for (const name of merged ?? groupBy) {
    const channel = channels[name];
    const column = values.get(name);
    if (!channel || !column || channel.constant) continue;
    const edges = prepared.edges.get(name);
    const start = column.kind === "text" || !edges || edges.grain ? undefined : (column.values[id] as number);
    key[keyName(channel)] =
      start === undefined || edges === undefined ? plainValue(column, id) : [start, stretchEnd(edges, start)];
  }
  return key;
}
