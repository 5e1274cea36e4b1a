import { suggestCharts, suggestFor } from "../advice/suggest";
import { writeSuggestions } from "../advice/write-suggestions";
import { type CompileInput, compile } from "../compile/compile";
import { Model } from "../model/model";
import type { Ground } from "../scene/theme";
import type { Table } from "../table/table";
import { pictureOf } from "./pictures";
import { type DrawnSuggestion, SUGGESTED } from "./suggested";

/**
 * Charts that a table could have, drawn from its rows: first ones, or those in which some columns stand. What
 * cannot be drawn is not suggested. The sheet stays as it is.
 * @param rows the table as it stands behind its last step
 */
export function drawSuggestions(
  input: CompileInput,
  table: string,
  rows: Table,
  columns: readonly string[],
  ground: Ground,
): DrawnSuggestion[] {
  const { sheet: _, ...before } = input;
  const found = columns.length ? suggestFor(table, rows, columns) : suggestCharts(table, rows);
  const { text, names } = writeSuggestions(input.text, found, table);
  const { plan, tables } = compile({ ...before, text, keepsUnplaced: true });
  const model = new Model(plan, tables, input.cache?.answers.answer);
  const { width, height } = SUGGESTED;
  return found.flatMap((suggestion, at) => {
    const name = names[at] as string;
    if (!model.piece(name)) return [];
    return [{ ...suggestion, picture: pictureOf(model, name, width, height, ground, true) }];
  });
}
