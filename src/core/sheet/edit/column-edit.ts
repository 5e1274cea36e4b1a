import { isMap, type Node } from "yaml";
import { applyEdits, type TextEdit } from "../../finding/finding";
import { writeScalar } from "../quoting";
import {
  blockEnd,
  columnOf,
  documentOf,
  nodeAt,
  pairOf,
  removeValue,
  type SheetValue,
  setValue,
  startOf,
  writeValue,
} from "./edit";

/** What is said of columns under `columns:` of their tables, by gesture. */

/** Says something of a column under `columns:` of its table, which is written where it is not there yet. */
export function sayOfColumn(
  text: string,
  table: string,
  column: string,
  key: string,
  value: SheetValue | undefined,
): TextEdit[] | undefined {
  const root = documentOf(text).contents as Node | null;
  const path = ["tables", table, "columns", column];
  const node = nodeAt(root, path);
  if (value === undefined) return removeValue(text, [...path, key]);
  // A type alone becomes a map with the type in it.
  if (node && !isMap(node))
    return setValue(text, path, { type: String((node as { value?: unknown }).value), [key]: value });
  if (node) return setValue(text, [...path, key], value);
  const own = nodeAt(root, ["tables", table]);
  const columns = nodeAt(root, ["tables", table, "columns"]);
  const entry = `${writeScalar(column, false)}: ${key === "type" ? writeValue(value) : writeValue({ [key]: value })}`;
  if (isMap(columns) && !columns.flow && columns.items.length) {
    const indent = " ".repeat(columnOf(text, startOf(columns.items[0]?.key as Node)));
    const end = blockEnd(text, columns as unknown as Node);
    return [{ start: end, end, text: `\n${indent}${entry}` }];
  }
  if (columns || !isMap(own) || own.flow) return setValue(text, path, key === "type" ? value : { [key]: value });
  // Columns stand before the steps, behind what is read.
  const indent = " ".repeat(columnOf(text, startOf(own.items[0]?.key as Node)));
  const steps = pairOf(own, "steps");
  const lines = `${indent}columns:\n${indent}  ${entry}\n`;
  if (steps) {
    const start = text.lastIndexOf("\n", startOf(steps.key as Node) - 1) + 1;
    return [{ start, end: start, text: lines }];
  }
  const end = blockEnd(text, own as unknown as Node);
  return [{ start: end, end, text: `\n${lines.trimEnd()}` }];
}

/** The sheet's text with several things said of a column. A word that is undefined is taken away. */
export function withColumnWords(
  text: string,
  table: string,
  column: string,
  words: Readonly<Record<string, SheetValue | undefined>>,
): string {
  return Object.entries(words).reduce((now, [key, value]) => {
    const edits = sayOfColumn(now, table, column, key, value);
    return edits ? applyEdits(now, edits) : now;
  }, text);
}
