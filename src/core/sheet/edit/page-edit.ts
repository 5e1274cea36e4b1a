import { isMap, isScalar, type Node, type Pair } from "yaml";
import type { TextEdit } from "../../finding/finding";
import { columnOf, documentOf, nodeAt, setValue, startOf, valueEnd } from "./edit";

/**
 * Writes the grid of a page. A grid that stands in a block keeps its indentation; one on a line of its
 * page becomes a block where the page is written in lines, and stays a text where it is not.
 */
export function setGrid(text: string, page: number, lines: readonly string[]): TextEdit[] | undefined {
  const root = documentOf(text).contents as Node | null;
  const path = ["pages", page, "grid"];
  const node = nodeAt(root, path);
  const own = nodeAt(root, ["pages", page]);
  const isBlock = isScalar(node) && (node.type === "BLOCK_LITERAL" || node.type === "BLOCK_FOLDED");
  if (isBlock) {
    const source = text.slice(startOf(node), valueEnd(node));
    const indent = /\n([ \t]*)\S/.exec(source)?.[1] ?? "      ";
    const written = `|\n${lines.map((line) => `${indent}${line}\n`).join("")}`;
    return [{ start: startOf(node), end: valueEnd(node), text: source.endsWith("\n") ? written : written.trimEnd() }];
  }
  if (!isMap(own) || own.flow || lines.length === 1) return setValue(text, path, lines.join("\n"));
  const column = columnOf(text, startOf((own.items[0] as Pair).key as Node));
  const block = `|\n${lines.map((line) => `${" ".repeat(column + 2)}${line}`).join("\n")}`;
  const edits = setValue(text, path, "GRID");
  return edits?.map((edit) => ({ ...edit, text: edit.text.replace("GRID", () => block) }));
}

/** The sizes of columns or rows, as CSS tracks. */
export const setTracks = (
  text: string,
  page: number,
  along: "columns" | "rows",
  tracks: readonly string[],
): TextEdit[] | undefined => setValue(text, ["pages", page, along], tracks.join(" "));
