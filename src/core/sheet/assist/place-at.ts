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

interface Level {
  column: number;
  part: string | number;
  /** Keys seen in the map that this level's key belongs to, or items in its list. */
  present: string[];
}

const KEY = /^(?:"([^"]*)"|'([^']*)'|([^\s#:,[\]{}"'-][^:#]*?|-?[^\s#:,[\]{}"'-][^:#]*?)):(?=\s|$)/;
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
function intoFlow(path: (string | number)[], text: string): Omit<SheetPlace, "from" | "word"> | undefined {
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

/**
 * Finds where an offset stands, by indentation, dashes and brackets of the lines up to it, so that
 * completion works in a sheet that is only half written.
 */
export function placeAt(text: string, offset: number): SheetPlace {
  const upto = text.slice(0, offset);
  const lines = upto.split("\n");
  const stack: Level[] = [];
  let block: { column: number } | undefined;
  let flow: { text: string } | undefined;
  let result: Omit<SheetPlace, "from" | "word"> = { path: [], what: "key", before: "", present: [], inFlow: false };
  const roots: string[] = [];
  lines.forEach((line, at) => {
    const isLast = at === lines.length - 1;
    const column = line.length - line.trimStart().length;
    if (flow) {
      flow.text += `\n${line}`;
      if (isLast)
        result = intoFlow(
          stack.map(({ part }) => part),
          flow.text,
        ) ?? { ...result, what: "value" };
      if (openBrackets(flow.text).length === 0) flow = undefined;
      return;
    }
    if (block) {
      if (line.trim() === "" || column > block.column) {
        if (isLast)
          result = {
            path: stack.map(({ part }) => part),
            what: "value",
            before: line.trimStart(),
            present: [],
            inFlow: false,
          };
        if (!isLast || line.trim() !== "") return;
      }
      block = undefined;
    }
    if (!isLast && (line.trim() === "" || line.trimStart().startsWith("#"))) return;
    let rest = line.trimStart();
    let here = column;
    // A dash at the column of its list's key still belongs to that key.
    const isItem = /^-(?:\s|$)/.test(rest);
    while (stack.length) {
      const top = stack.at(-1) as Level;
      if (top.column > here || (top.column === here && !(isItem && typeof top.part === "string"))) {
        if (top.column === here && isItem === (typeof top.part === "number")) break;
        stack.pop();
      } else break;
    }
    while (/^-(?:\s|$)/.test(rest)) {
      const top = stack.at(-1);
      if (top && top.column === here && typeof top.part === "number") top.part += 1;
      else stack.push({ column: here, part: 0, present: [] });
      const skip = /^-\s*/.exec(rest)?.[0].length ?? 1;
      rest = rest.slice(skip);
      here += skip;
    }
    const sibling = stack.at(-1);
    const isSibling = sibling?.column === here && typeof sibling.part === "string";
    const present = isSibling ? sibling.present : stack.length === 0 ? roots : [];
    if (isSibling) stack.pop();
    const parents = stack.map(({ part }) => part);
    const key = KEY.exec(rest);
    if (!key) {
      const onlyItem = typeof parents.at(-1) === "number";
      if (isLast)
        result = intoFlow([...parents], rest) ?? {
          path: parents,
          what: "key",
          before: rest,
          present: [...present],
          inFlow: false,
        };
      else if (openBrackets(rest).length) flow = { text: rest };
      if (isSibling && !onlyItem) stack.push({ ...sibling });
      return;
    }
    const name = key[1] ?? key[2] ?? (key[3] as string);
    if (!isLast || /:\s/.test(key[0] + rest.slice(key[0].length, key[0].length + 1)) || rest.length > key[0].length)
      present.push(name);
    stack.push({ column: here, part: name, present });
    const value = rest.slice(key[0].length);
    if (isLast) {
      const path = [...parents, name];
      result = intoFlow([...path], value) ?? {
        path,
        what: "value",
        before: value.trimStart(),
        present: [...present],
        inFlow: false,
      };
    } else if (/^\s*[|>][-+0-9]*\s*(?:#.*)?$/.test(value)) block = { column: here };
    else if (/^\s*[[{]/.test(value) && openBrackets(value).length) flow = { text: value };
  });
  const word = WORD.exec(result.before)?.[0] ?? "";
  const trimmed = result.what === "value" ? word : result.before.replace(/^["']/, "");
  return { ...result, word: trimmed, from: offset - trimmed.length };
}
