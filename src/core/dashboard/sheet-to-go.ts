import { Lexer } from "yaml";
import type { Compiled } from "../compile/compile";
import { applyEdits } from "../finding/finding";
import { setValue } from "../sheet/edit/edit";
import { readSheet } from "../sheet/read-sheet";

/** Marks in the stream of lexemes that are no text: the beginning of a document, a mistake, a scalar that follows. */
const DOCUMENT = "\u0002";
const MISTAKE = "\u0018";
const SCALAR = "\u001f";

/** A sheet's text without its comments, which are between authors. */
export function withoutComments(text: string): string {
  let out = "";
  let isScalar = false;
  let tookLine = false;
  for (const lexeme of new Lexer().lex(text)) {
    if (lexeme === DOCUMENT || lexeme === MISTAKE) continue;
    if (lexeme === SCALAR) {
      isScalar = true;
      continue;
    }
    if (!isScalar && lexeme.startsWith("#")) {
      out = out.replace(/[ \t]+$/, "");
      tookLine = out === "" || out.endsWith("\n");
    } else if (!(tookLine && /^\r?\n$/.test(lexeme))) {
      out += lexeme;
      tookLine = false;
    } else tookLine = false;
    isScalar = false;
  }
  return out;
}

/** A sheet's text whose tables have no rows written in them any more. */
export function withoutCells(text: string): string {
  let cut = text;
  for (const [name, spec] of readSheet(text, "part").tables) {
    const edits = spec.rows === undefined ? undefined : setValue(cut, ["tables", name, "rows"], "");
    if (edits) cut = applyEdits(cut, edits);
  }
  return cut;
}

/** True if all cells that a table has in the sheet are in the file anyway. */
function isPackedWhole({ tables, stages, plan }: Compiled, name: string): boolean {
  const source = stages.get(name)?.tables[0];
  const packed = tables.get(name) ?? tables.get(`${name}/source`);
  if (!source || !packed || !plan.tables.some((table) => table.name === name)) return false;
  return (
    packed.rowCount === source.rowCount && [...source.columns.keys()].every((column) => packed.columns.has(column))
  );
}

/**
 * The sheet's text as it goes along in the file, so that it can be opened again: without comments, and
 * without rows written in it of which some cell is not in the file; of those the names of the packed
 * columns stay. With `style: {tables: whole}` it is the author's own text.
 */
export function sheetToGo(compiled: Compiled, text: string): string {
  const { sheet } = compiled;
  if (sheet.style.tables === "whole") return text;
  let cut = withoutComments(text);
  for (const [name, spec] of sheet.tables) {
    if (spec.rows === undefined || isPackedWhole(compiled, name)) continue;
    const packed = compiled.tables.get(name) ?? compiled.tables.get(`${name}/source`);
    const heads = [...(packed?.columns.keys() ?? [])].join(",");
    const edits = setValue(cut, ["tables", name, "rows"], heads);
    if (edits) cut = applyEdits(cut, edits);
  }
  return cut;
}
