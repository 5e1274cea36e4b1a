import type { Fix } from "../finding/finding";

/**
 * Quoting: which texts must stand in quotes so that YAML hands them over whole,
 * and the fixes that put them there.
 */

const OPENERS: Record<string, string> = { "(": ")", "[": "]" };

/** Whether the brackets and double quotes of a formula close. */
export function balanceOf(text: string): "balanced" | "open bracket" | "open quote" | "extra close" {
  const waiting: string[] = [];
  for (let at = 0; at < text.length; at++) {
    const character = text[at] as string;
    if (character === '"' || character === "`") {
      let end = at + 1;
      while (end < text.length && text[end] !== character) end += text[end] === "\\" && character === '"' ? 2 : 1;
      if (end >= text.length) return "open quote";
      at = end;
    } else if (OPENERS[character]) waiting.push(OPENERS[character] as string);
    else if (character === ")" || character === "]") {
      if (waiting.pop() !== character) return "extra close";
    }
  }
  return waiting.length ? "open bracket" : "balanced";
}

/** A text as a YAML scalar that is read back as exactly this text, plain where that is safe. */
export function writeScalar(text: string, inFlow: boolean): string {
  if (isSafePlain(text, inFlow)) return text;
  // Single quotes keep backslashes and double quotes as they are, which suits formulas.
  if (!/[\n\r\t'\u0000-\u001f\u007f-\u009f\u2028\u2029\ufeff]/.test(text)) return `'${text}'`;
  return JSON.stringify(text).replace(
    /[\u007f-\u009f\u2028\u2029\ufeff]/g,
    (character) => `\\u${character.charCodeAt(0).toString(16).padStart(4, "0")}`,
  );
}

function isSafePlain(text: string, inFlow: boolean): boolean {
  if (text === "" || text !== text.trim()) return false;
  if (/[\u0000-\u001f\u007f-\u009f\u2028\u2029\ufeff]/.test(text)) return false;
  if (/^[{}[\]%@!&*,|>"'`#?:-]/.test(text) && !/^-[^\s-]/.test(text)) return false;
  if (/^(?:---|\.\.\.)/.test(text)) return false;
  if (/: |:$| #/.test(text)) return false;
  return !(inFlow && /[,[\]{}#:]/.test(text));
}

/** A fix that puts a stretch of the sheet into quotes. */
export function quoteFix(text: string, start: number, end: number): Fix {
  let source = text.slice(start, end).replace(/\s*\n\s*/g, " ");
  if (source.length > 1 && source.startsWith("'") && source.endsWith("'")) source = source.slice(1, -1);
  const quoted = source.includes("'") ? JSON.stringify(source) : `'${source}'`;
  return { title: "quote it", edits: [{ start, end, text: quoted }] };
}

/** Where a plain value within braces ends that may hold brackets, quotes and commas of its own. */
function plainEnd(text: string, from: number, most: number): number {
  const open: string[] = [];
  for (let at = from; at < most; at++) {
    const sign = text[at] as string;
    if (open.length === 0 && (sign === "," || sign === "}")) return at;
    if (sign === '"' || sign === "`") {
      const close = text.indexOf(sign, at + 1);
      if (close < 0 || close >= most) return most;
      at = close;
    } else if (OPENERS[sign]) open.push(OPENERS[sign] as string);
    else if (sign === open.at(-1)) open.pop();
  }
  return most;
}

/**
 * A fix that quotes the value within braces, between two offsets, that YAML cuts at its commas or brackets: the
 * last one that begins before an offset, as what is refused is found behind it. None where all can stand so.
 */
function quoteInBracesFix(text: string, from: number, most: number, at: number): Fix | undefined {
  let found: Fix | undefined;
  const key = /[{,]\s*(?:[\w$]+|`[^`]*`|"[^"]*"): +/g;
  key.lastIndex = from;
  for (let match = key.exec(text); match && match.index < Math.min(most, at + 1); match = key.exec(text)) {
    const start = match.index + match[0].length;
    // Quoted values stand as they are; maps and lists hold values of their own.
    if (/["'{[]/.test(text[start] as string)) continue;
    const end = plainEnd(text, start, most);
    const value = text.slice(start, end).trimEnd();
    if (!isSafePlain(value, true)) found = quoteFix(text, start, start + value.length);
    // The comma or brace that ends it begins the next key.
    key.lastIndex = end;
  }
  return found;
}

/** A key in backticks, which YAML does not know, as it is. */
export function bareKeyFix(text: string, at: number): Fix | undefined {
  const [all, name] = /^`([^`\n,:#{}[\]]+)`(?=: )/.exec(text.slice(at)) ?? [];
  if (all === undefined || name === undefined) return undefined;
  return { title: `write ${name}`, edits: [{ start: at, end: at + all.length, text: name }] };
}

/**
 * A fix that quotes what stands after `key: ` or `- ` on the line of an offset, to the line's end.
 * None if the line has no such value.
 */
export function quoteLineFix(text: string, at: number): Fix | undefined {
  const lineStart = text.lastIndexOf("\n", Math.max(0, at - 1)) + 1;
  const next = text.indexOf("\n", at);
  const line = text.slice(lineStart, next < 0 ? text.length : next).replace(/\s+$/, "");
  const head = /^\s*(?:- +)*(?:(?:[\w$]+|`[^`]*`|"[^"]*"): +)?/.exec(line)?.[0] ?? "";
  const value = line.slice(head.length);
  if (value === "" || head.trim() === "" || value.startsWith("'")) return undefined;
  // Inside braces only a part of the line is meant.
  if (/^\{[^}]*:/.test(value)) return quoteInBracesFix(text, lineStart + head.length, lineStart + line.length, at);
  return quoteFix(text, lineStart + head.length, lineStart + line.length);
}
