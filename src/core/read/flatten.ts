import { keepRoom } from "../finding/limits";
import { writtenNumber } from "./json-numbers";
import type { ReadOptions } from "./texts";

/** A value as JSON has it. */
export type Json = string | number | boolean | null | Json[] | { [key: string]: Json };
export type JsonMap = { [key: string]: Json };

export const isMap = (value: Json | undefined): value is JsonMap =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** Maps within maps beyond this are kept as their text. */
const DEEPEST = 12;
const MOST_COLUMNS = 2000;

function textOf(value: Json): string | null {
  if (value === null) return null;
  if (typeof value === "string") return value;
  if (typeof value === "number") return writtenNumber(value);
  if (typeof value !== "object") return String(value);
  if (Array.isArray(value) && value.every((item) => item === null || typeof item !== "object"))
    return value.map((item) => textOf(item) ?? "").join(", ");
  return isDeep(value) ? null : JSON.stringify(value);
}

/** Values nested deeper than anything that was meant; looked at without recursion, which such values would exhaust. */
function isDeep(value: Json): boolean {
  const open: [Json, number][] = [[value, 0]];
  for (let next = open.pop(); next; next = open.pop()) {
    const [inner, depth] = next;
    if (typeof inner !== "object" || inner === null) continue;
    if (depth > 100) return true;
    for (const part of Object.values(inner)) open.push([part, depth + 1]);
  }
  return false;
}

/** Objects as columns: objects within objects become columns with dotted names. */
export function flattened(
  rows: readonly JsonMap[],
  notes: string[],
  options: ReadOptions,
): Map<string, (string | null)[]> {
  const columns = new Map<string, (string | null)[]>();
  let [lost, deep] = [0, 0];
  const put = (row: number, name: string, value: Json) => {
    let column = columns.get(name);
    if (!column) {
      if (columns.size >= MOST_COLUMNS) {
        lost += 1;
        return;
      }
      keepRoom(rows.length, columns.size + 1, "the file");
      column = new Array<string | null>(rows.length).fill(null);
      columns.set(name, column);
    }
    column[row] = textOf(value);
    if (column[row] === null && value !== null) deep += 1;
  };
  const flatten = (row: number, prefix: string, map: JsonMap, depth: number) => {
    for (const [key, value] of Object.entries(map)) {
      const name = prefix + key;
      if (isMap(value) && depth < DEEPEST && Object.keys(value).length > 0) flatten(row, `${name}.`, value, depth + 1);
      else put(row, name, value);
    }
  };
  rows.forEach((row, at) => {
    if (at % 20_000 === 0) options.progress?.((at / rows.length) * 0.4);
    flatten(at, "", row, 0);
  });
  if (lost) notes.push(`there are more than ${MOST_COLUMNS} columns; the rest was left out`);
  if (deep) notes.push(`${deep} values are nested deeper than anything that was meant; they are missing`);
  return columns;
}
