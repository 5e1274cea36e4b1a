import type { Path } from "../tree";

/** Where a cursor stands in a sheet, also in one that YAML cannot read at the moment. */
export interface SheetPlace {
  /** Keys and places in lists down to the map, list or value that is being written. */
  path: Path;
  /** A key is being written at `path`, or the value that stands there. */
  what: "key" | "value";
  /** Where the word under the cursor begins. */
  from: number;
  word: string;
  /** The value up to the cursor, from its first character. */
  before: string;
  /** Keys that the same map has already. */
  present: string[];
  /** Inside braces or brackets, where some texts need quotes. */
  inFlow: boolean;
}

type Place = Omit<SheetPlace, "from" | "word">;

interface Level {
  column: number;
  part: string | number;
  /** Keys seen in the map that this level's key belongs to, or items in its list. */
  present: string[];
}

const KEY = /^(?:"([^"]*)"|'([^']*)'|([^\s#:,[\]{}"'-][^:#]*?|-?[^\s#:,[\]{}"'-][^:#]*?)):(?=\s|$)/;
const ITEM = /^-(?:\s|$)/;
const columnOf = (line: string) => line.length - line.trimStart().length;
const WORD = /[\p{L}\p{N}_$`.-]*$/u;

/** Brackets still open after a text, quotes minded, with what was written inside each. */
function openBrackets(text: string): { mark: string; parts: string[] }[] {
  const open: { mark: string; parts: string[] }[] = [];
  let quote = "";
  let current = "";
  let round = 0;
  for (let at = 0; at < text.length; at++) {
    const sign = text[at] as string;
    if (quote) {
      if (sign === quote) quote = "";
      current += sign;
    } else if ((sign === '"' || sign === "'") && /[\s,[{(:]$|^$/.test(current)) {
      quote = sign;
      current += sign;
    } else if (sign === "#" && /(?:^|\s)$/.test(text.slice(0, at))) {
      const end = text.indexOf("\n", at);
      at = end < 0 ? text.length : end - 1;
    } else if (sign === "(") {
      round += 1;
      current += sign;
    } else if (sign === ")") {
      round -= 1;
      current += sign;
    } else if (sign === "{" || sign === "[") {
      open.at(-1)?.parts.push(current);
      open.push({ mark: sign, parts: [] });
      current = "";
    } else if (sign === "}" || sign === "]") {
      open.pop();
      current = open.at(-1)?.parts.pop() ?? "";
    } else if (sign === "," && round <= 0 && open.length) {
      open.at(-1)?.parts.push(current);
      current = "";
    } else current += sign;
  }
  open.at(-1)?.parts.push(current);
  return open;
}

const bare = (key: string) => key.trim().replace(/^["']|["']$/g, "");

/** Goes into braces and brackets that are open before the cursor. */
function intoFlow(path: (string | number)[], text: string): Place | undefined {
  const open = openBrackets(text);
  if (open.length === 0) return undefined;
  let present: string[] = [];
  let what: SheetPlace["what"] = "value";
  let before = "";
  open.forEach(({ mark, parts }, depth) => {
    const last = parts.at(-1) ?? "";
    if (mark === "[") {
      path.push(parts.length - 1);
      what = "value";
      before = last.trimStart();
      present = parts.slice(0, -1).map(bare);
      return;
    }
    present = parts.slice(0, -1).map((part) => bare(part.split(":")[0] ?? ""));
    const colon = /:(?:\s|$)/.exec(last);
    if (colon) {
      path.push(bare(last.slice(0, colon.index)));
      what = "value";
      before = last.slice(colon.index + 1).trimStart();
    } else if (depth === open.length - 1) {
      what = "key";
      before = last.trimStart();
    }
  });
  return { path, what, before, present, inFlow: true };
}

/** Follows the lines of a sheet up to a place, and knows at each which keys it stands under. */
class PlaceFinder {
  private readonly stack: Level[] = [];
  private readonly roots: string[] = [];
  /** A text of several lines that began at this column, and goes on as long as lines stand further in. */
  private block: { column: number } | undefined;
  /** Braces or brackets that are open over several lines. */
  private flow: string | undefined;

  private get path(): Level["part"][] {
    return this.stack.map(({ part }) => part);
  }

  /** Goes over a line that is whole. */
  pass(line: string) {
    if (this.flow !== undefined) {
      this.flow += `\n${line}`;
      if (openBrackets(this.flow).length === 0) this.flow = undefined;
    } else if (!this.isInBlock(line) && line.trim() !== "" && !line.trimStart().startsWith("#")) this.read(line, false);
  }

  /** Where the end of the last line stands. */
  last(line: string): Place {
    if (this.flow !== undefined) {
      const nothing: Place = { path: [], what: "value", before: "", present: [], inFlow: false };
      return intoFlow(this.path, `${this.flow}\n${line}`) ?? nothing;
    }
    if (this.isInBlock(line) && line.trim() !== "")
      return { path: this.path, what: "value", before: line.trimStart(), present: [], inFlow: false };
    return this.read(line, true);
  }

  private isInBlock(line: string): boolean {
    if (!this.block) return false;
    if (line.trim() === "" || columnOf(line) > this.block.column) return true;
    this.block = undefined;
    return false;
  }

  /** Leaves what stands further in than a line, and goes into its items. */
  private come(line: string): { rest: string; here: number } {
    const { stack } = this;
    let rest = line.trimStart();
    let here = columnOf(line);
    // A dash at the column of its list's key still belongs to that key.
    const isItem = ITEM.test(rest);
    for (let top = stack.at(-1); top; top = stack.at(-1)) {
      const isOwnKey = isItem && typeof top.part === "string";
      const isBeside = top.column === here && isItem === (typeof top.part === "number");
      if (top.column < here || (top.column === here && isOwnKey) || isBeside) break;
      stack.pop();
    }
    while (ITEM.test(rest)) {
      const top = stack.at(-1);
      if (top && top.column === here && typeof top.part === "number") top.part += 1;
      else stack.push({ column: here, part: 0, present: [] });
      const skip = /^-\s*/.exec(rest)?.[0].length ?? 1;
      rest = rest.slice(skip);
      here += skip;
    }
    return { rest, here };
  }

  private read(line: string, isLast: boolean): Place {
    const { stack } = this;
    const { rest, here } = this.come(line);
    const sibling = stack.at(-1);
    const isSibling = sibling?.column === here && typeof sibling.part === "string";
    const present = isSibling ? sibling.present : stack.length === 0 ? this.roots : [];
    if (isSibling) stack.pop();
    const parents = this.path;
    const key = KEY.exec(rest);
    if (!key) {
      if (!isLast && openBrackets(rest).length) this.flow = rest;
      if (isSibling && typeof parents.at(-1) !== "number") stack.push({ ...sibling });
      const own: Place = { path: parents, what: "key", before: rest, present: [...present], inFlow: false };
      return (isLast && intoFlow([...parents], rest)) || own;
    }
    const name = key[1] ?? key[2] ?? (key[3] as string);
    const value = rest.slice(key[0].length);
    if (!isLast || /:\s/.test(key[0] + value.slice(0, 1)) || value.length > 0) present.push(name);
    stack.push({ column: here, part: name, present });
    if (!isLast && /^\s*[|>][-+0-9]*\s*(?:#.*)?$/.test(value)) this.block = { column: here };
    else if (!isLast && /^\s*[[{]/.test(value) && openBrackets(value).length) this.flow = value;
    const path = [...parents, name];
    const own: Place = { path, what: "value", before: value.trimStart(), present: [...present], inFlow: false };
    return (isLast && intoFlow([...path], value)) || own;
  }
}

/**
 * Finds where an offset stands, by indentation, dashes and brackets of the lines up to it, so that
 * completion works in a sheet that is only half written.
 */
export function placeAt(text: string, offset: number): SheetPlace {
  const lines = text.slice(0, offset).split("\n");
  const finder = new PlaceFinder();
  for (const line of lines.slice(0, -1)) finder.pass(line);
  const place = finder.last(lines.at(-1) as string);
  const word = WORD.exec(place.before)?.[0] ?? "";
  const trimmed = place.what === "value" ? word : place.before.replace(/^["']/, "");
  return { ...place, word: trimmed, from: offset - trimmed.length };
}
