import { isMap, type Node, type Pair } from "yaml";
import type { TextEdit } from "../../finding/finding";
import type { Path } from "../tree";
import { blockEnd, documentOf, nodeAt, startOf } from "./edit";

interface Entry {
  name: string;
  /** The first line of its comments, or its own. */
  start: number;
  /** Behind its last line. */
  end: number;
  key: Node;
}

/** The entries of a map that stand one under the other, with the comments over each; nothing of one on a single line. */
function entriesOf(text: string, path: Path): Entry[] | undefined {
  const map = nodeAt(documentOf(text).contents as Node | null, path);
  if (!isMap(map) || map.flow) return undefined;
  const lineStart = (at: number) => text.lastIndexOf("\n", at - 1) + 1;
  let before = 0;
  return map.items.map((item): Entry => {
    const { key, value } = item as Pair<Node, Node | null>;
    let start = lineStart(startOf(key));
    // Comments right over an entry speak of it.
    while (start > before && /^[ \t]*#/.test(text.slice(lineStart(start - 1), start))) start = lineStart(start - 1);
    const end = Math.min(text.length, blockEnd(text, value ?? key) + 1);
    before = end;
    return { name: String(key), start, end, key };
  });
}

/** The lines of an entry, whole to their break. */
const linesOf = (text: string, { start, end }: Entry): string => {
  const own = text.slice(start, end);
  return own.endsWith("\n") ? own : `${own}\n`;
};

/**
 * Moves an entry among the others of its map by so many places; its lines and the comments over it stay as they
 * are. Answers nothing where there is no such place.
 */
export function moveEntry(text: string, path: Path, name: string, by: number): TextEdit[] | undefined {
  const entries = entriesOf(text, path);
  const from = entries?.findIndex((entry) => entry.name === name) ?? -1;
  const [own, other] = [entries?.[from], entries?.[from + by]];
  if (!entries || !own || !other || by === 0) return undefined;
  const rest = entries.filter((entry) => entry !== own);
  rest.splice(from + by, 0, own);
  const [low, high] = by < 0 ? [other, own] : [own, other];
  const [first, last] = [entries.indexOf(low), entries.indexOf(high)];
  // What lies between two entries, an empty line, stays between those that stand there now.
  const gaps = entries.slice(first, last).map((entry, at) => text.slice(entry.end, entries[first + at + 1]?.start));
  const moved = rest.slice(first, last + 1).map((entry, at) => linesOf(text, entry) + (gaps[at] ?? ""));
  const written = moved.join("");
  const isClosed = text.slice(low.start, high.end).endsWith("\n");
  return [{ start: low.start, end: high.end, text: isClosed ? written : written.slice(0, -1) }];
}

/** Writes an entry once more right under itself, by another name. */
export function duplicateEntry(text: string, path: Path, name: string, as: string): TextEdit[] | undefined {
  const own = entriesOf(text, path)?.find((entry) => entry.name === name);
  if (!own) return undefined;
  const at = startOf(own.key);
  const lineAt = text.lastIndexOf("\n", at - 1) + 1;
  const [, , keyEnd = at] = own.key.range ?? [];
  const lines = linesOf(text, own).slice(lineAt - own.start);
  const copy =
    lines.slice(0, at - lineAt) + as + lines.slice(Math.min(keyEnd, at + text.slice(at).search(/\s*:/)) - lineAt);
  const isClosed = text.slice(own.start, own.end).endsWith("\n");
  return [{ start: own.end, end: own.end, text: isClosed ? copy : `\n${copy.slice(0, -1)}` }];
}
