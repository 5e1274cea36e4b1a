import {
  isCollection,
  isMap,
  isScalar,
  isSeq,
  type Node,
  type Pair,
  parseDocument,
  type YAMLMap,
  type YAMLSeq,
} from "yaml";
import type { TextEdit } from "../../finding/finding";
import { writeScalar } from "../quoting";
import type { Path } from "../tree";

/**
 * Edits of a sheet by gesture. Each answers text edits that touch only what they change:
 * comments, key order, spacing and every other byte stay as the author wrote them.
 */

/** A value to write: texts become scalars, lists and maps are written in one line. */
export type SheetValue = string | number | boolean | SheetValue[] | { [key: string]: SheetValue };

/** Writes a value in one line, so that it is read back as the same tree. */
export function writeValue(value: SheetValue, inFlow = false): string {
  if (Array.isArray(value)) return `[${value.map((item) => writeValue(item, true)).join(", ")}]`;
  if (typeof value === "object")
    return `{${Object.entries(value)
      .map(([key, item]) => `${writeScalar(key, true)}: ${writeValue(item, true)}`)
      .join(", ")}}`;
  return writeScalar(String(value), inFlow);
}

/** The text as a document with its places; other files of edits go by it too. */
export function documentOf(text: string) {
  return parseDocument(text, { schema: "failsafe", keepSourceTokens: true });
}

const keyOf = (pair: Pair) => (isScalar(pair.key) ? String(pair.key.source ?? pair.key.value) : String(pair.key));
export const pairOf = (map: YAMLMap, key: string) =>
  map.items.find((pair) => keyOf(pair as Pair) === key) as Pair | undefined;

export function nodeAt(root: Node | null, path: Path): Node | null | undefined {
  let node: Node | null | undefined = root;
  for (const part of path) {
    if (isMap(node)) node = pairOf(node, String(part))?.value as Node | null | undefined;
    else if (isSeq(node)) node = node.items[Number(part)] as Node | undefined;
    else return undefined;
  }
  return node;
}

/** How far lines under a node are indented: spaces before its first item. */
export function columnOf(text: string, at: number): number {
  return at - (text.lastIndexOf("\n", at - 1) + 1);
}

export const startOf = (node: Node) => node.range?.[0] ?? 0;
export const valueEnd = (node: Node) => node.range?.[1] ?? 0;

/** The end of the last line that a block node fills, before its line break and any comment lines that follow. */
export function blockEnd(text: string, node: Node): number {
  if (isCollection(node) && !node.flow && node.items.length) {
    const last = node.items.at(-1);
    const inner = (isMap(node) ? ((last as Pair).value ?? (last as Pair).key) : last) as Node;
    return blockEnd(text, inner);
  }
  const end = valueEnd(node);
  if (text[end - 1] === "\n") return end - 1;
  const lineEnd = text.indexOf("\n", end);
  return lineEnd < 0 ? text.length : lineEnd;
}

/**
 * Sets the value at a path. A scalar or flow value is exchanged in place, a missing key is added
 * behind its neighbours. Answers `undefined` if the path leads nowhere.
 */
export function setValue(text: string, path: Path, value: SheetValue): TextEdit[] | undefined {
  const root = documentOf(text).contents as Node | null;
  const parentPath = path.slice(0, -1);
  const parent = nodeAt(root, parentPath);
  const last = path.at(-1);
  if (last === undefined) return undefined;
  if (isMap(parent)) {
    const pair = pairOf(parent, String(last));
    if (pair) return [replaceValue(text, pair.value as Node | null, pair.key as Node, parent.flow === true, value)];
    return [addKey(text, parent, String(last), value)];
  }
  if (isSeq(parent)) {
    const item = parent.items[Number(last)] as Node | undefined;
    if (item)
      return [{ start: startOf(item), end: blockValueEnd(text, item), text: writeValue(value, parent.flow === true) }];
    if (Number(last) === parent.items.length) return [addItem(text, parent, value)];
    return undefined;
  }
  if (parent === null && parentPath.length > 0) return setValue(text, parentPath, { [String(last)]: value });
  if (parent === undefined && parentPath.length > 0)
    return setValue(text, parentPath, typeof last === "number" ? [value] : { [last]: value });
  if (root === null)
    return [
      {
        start: text.length,
        end: text.length,
        text: `${text && !text.endsWith("\n") ? "\n" : ""}${writeScalar(String(last), false)}: ${writeValue(value)}\n`,
      },
    ];
  return undefined;
}

/** Where the value itself ends, without the line break behind a block. */
function blockValueEnd(text: string, node: Node): number {
  if (isScalar(node)) {
    const end = valueEnd(node);
    return text[end - 1] === "\n" ? end - 1 : end;
  }
  return isCollection(node) && node.flow ? valueEnd(node) : blockEnd(text, node);
}

function replaceValue(text: string, node: Node | null, key: Node, inFlow: boolean, value: SheetValue): TextEdit {
  const written = writeValue(value, inFlow);
  if (node === null || (isScalar(node) && node.source === "" && startOf(node) === valueEnd(node))) {
    const end = valueEnd(key);
    const colon = /^\s*:/.exec(text.slice(end));
    const at = end + (colon?.[0].length ?? 0);
    return { start: at, end: at, text: colon ? ` ${written}` : `: ${written}` };
  }
  if (isCollection(node) && !node.flow) {
    // A block under its key goes as a whole; the new value stands beside the key.
    const colon = text.indexOf(":", valueEnd(key)) + 1;
    return { start: colon, end: blockEnd(text, node), text: ` ${written}` };
  }
  return { start: startOf(node), end: blockValueEnd(text, node), text: written };
}

function addKey(text: string, map: YAMLMap, key: string, value: SheetValue): TextEdit {
  const entry = `${writeScalar(key, map.flow === true)}: ${writeValue(value, map.flow === true)}`;
  if (map.flow) return beforeClose(text, map, entry);
  const indent = " ".repeat(columnOf(text, startOf(map.items[0]?.key as Node)));
  const end = blockEnd(text, map as Node);
  return { start: end, end, text: `\n${indent}${entry}` };
}

function addItem(text: string, list: YAMLSeq, value: SheetValue): TextEdit {
  if (list.flow) return beforeClose(text, list, writeValue(value, true));
  const indent = " ".repeat(columnOf(text, startOf(list as unknown as Node)));
  const end = blockEnd(text, list as unknown as Node);
  return { start: end, end, text: `\n${indent}- ${writeValue(value)}` };
}

function beforeClose(text: string, node: YAMLMap | YAMLSeq, entry: string): TextEdit {
  const close = valueEnd(node as unknown as Node) - 1;
  const last = node.items.at(-1);
  if (!last) return { start: close, end: close, text: entry };
  const lastNode = (isMap(node) ? ((last as Pair).value ?? (last as Pair).key) : last) as Node;
  const at = valueEnd(lastNode);
  const trailing = /^\s*,/.exec(text.slice(at, close));
  return trailing
    ? { start: at + trailing[0].length, end: at + trailing[0].length, text: ` ${entry}` }
    : { start: at, end: at, text: `, ${entry}` };
}

/** Takes a key or an item away, with its line where it has lines to itself. */
export function removeValue(text: string, path: Path): TextEdit[] | undefined {
  const root = documentOf(text).contents as Node | null;
  const parent = nodeAt(root, path.slice(0, -1));
  const last = path.at(-1);
  if (last === undefined || !isCollection(parent)) return undefined;
  const items = parent.items as (Pair | Node)[];
  const place = isMap(parent) ? items.findIndex((item) => keyOf(item as Pair) === String(last)) : Number(last);
  const item = items[place];
  if (!item) return undefined;
  if (items.length === 1 && path.length > 1) return removeValue(text, path.slice(0, -1));
  const head = (isMap(parent) ? (item as Pair).key : item) as Node;
  const tail = (isMap(parent) ? ((item as Pair).value ?? (item as Pair).key) : item) as Node;
  if (parent.flow) {
    const nextItem = items[place + 1];
    if (nextItem)
      return [
        { start: startOf(head), end: startOf((isMap(parent) ? (nextItem as Pair).key : nextItem) as Node), text: "" },
      ];
    const before = items[place - 1];
    const from = before
      ? valueEnd((isMap(parent) ? ((before as Pair).value ?? (before as Pair).key) : before) as Node)
      : startOf(head);
    return [{ start: from, end: Math.max(valueEnd(tail), from), text: "" }];
  }
  const end = Math.min(text.length, blockEnd(text, tail) + 1);
  const lineStart = text.lastIndexOf("\n", startOf(head) - 1) + 1;
  const lead = text.slice(lineStart, startOf(head));
  // The first key of a list's item stands behind the dash, which must stay for the keys below it.
  if (isMap(parent) && lead.includes("-")) {
    const nextItem = items[place + 1] as Pair | undefined;
    return nextItem
      ? [{ start: startOf(head), end: startOf(nextItem.key as Node), text: "" }]
      : [{ start: startOf(head), end: blockEnd(text, tail), text: "" }];
  }
  return [{ start: lineStart, end, text: "" }];
}

/** Exchanges a key's name and nothing else. */
export function renameKey(text: string, path: Path, name: string): TextEdit[] | undefined {
  const parent = nodeAt(documentOf(text).contents as Node | null, path.slice(0, -1));
  if (!isMap(parent)) return undefined;
  const pair = pairOf(parent, String(path.at(-1)));
  if (!pair) return undefined;
  const key = pair.key as Node;
  return [{ start: startOf(key), end: valueEnd(key), text: writeScalar(name, parent.flow === true) }];
}
