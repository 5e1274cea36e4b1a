import type { TextEdit } from "../../finding/finding";

/** The change from one text to another without what stays the same at either end. */
export function shortestEdit(before: string, after: string): TextEdit {
  let start = 0;
  while (start < before.length && before[start] === after[start]) start += 1;
  let tail = 0;
  while (
    tail < before.length - start &&
    tail < after.length - start &&
    before[before.length - 1 - tail] === after[after.length - 1 - tail]
  )
    tail += 1;
  return { start, end: before.length - tail, text: after.slice(start, after.length - tail) };
}
