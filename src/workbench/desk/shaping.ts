import { withColumnWords } from "../../core/sheet/edit/column-edit";
import type { SheetValue } from "../../core/sheet/edit/edit";
import { shortestEdit } from "../../core/sheet/edit/shortest-edit";
import { addTable, insertStep, type StepValue } from "../../core/sheet/edit/step-edit";
import type { Desk } from "./desk";
import { tableNameFor } from "./take-files";

/** What gestures at the Tables station write into the sheet. Each is one step of the history. */

/** Where a step that is written now takes its place: right after the one that is looked at. */
export interface Standing {
  table: string;
  stage: number;
}

/** Writes a step after the one that is looked at, and stands on it. */
export function takeStep(desk: Desk, { table, stage }: Standing, step: StepValue): boolean {
  const edits = insertStep(desk.state.get().text, table, stage, step);
  const taken = desk.edit(edits);
  if (taken) desk.state.set({ table, stage: stage + 1 });
  else if (!edits) desk.state.set({ notice: "the step could not be written: the sheet cannot be read at the moment" });
  return taken;
}

/** Says several things of a column. */
export function takeColumnWords(
  desk: Desk,
  table: string,
  column: string,
  words: Readonly<Record<string, SheetValue | undefined>>,
): boolean {
  const { text } = desk.state.get();
  const after = withColumnWords(text, table, column, words);
  return after !== text && desk.edit([shortestEdit(text, after)]);
}

/** Writes a table whose rows stand in the sheet itself, and puts the cursor into them. */
export function writeRows(desk: Desk): void {
  const { text, reply } = desk.state.get();
  const table = tableNameFor("rows", reply?.tables.map(({ name }) => name) ?? []);
  const rows = "name,value\nfirst,1";
  if (!desk.edit(addTable(text, table, { rows }))) return;
  desk.state.set({ table, stage: 0 });
  const at = desk.state.get().text.indexOf("name,value", desk.state.get().text.indexOf(`${table}:`));
  if (at >= 0) desk.show(at, at + rows.indexOf("\n"), true);
}

/** Writes a table that is made from another. */
export function deriveTable(desk: Desk, from: string): void {
  const { text, reply } = desk.state.get();
  const table = tableNameFor(`${from}_2`, reply?.tables.map(({ name }) => name) ?? []);
  if (desk.edit(addTable(text, table, { from }))) desk.state.set({ table, stage: 0 });
}
