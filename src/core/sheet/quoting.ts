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
  // Inside braces only a part of the line is meant, and which part cannot be told.
  if (/^\{[^}]*:/.test(value)) return undefined;
  return quoteFix(text, lineStart + head.length, lineStart + line.length);
}
