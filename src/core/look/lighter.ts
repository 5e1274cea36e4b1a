import { isScalar, isSeq } from "yaml";
import type { Compiled } from "../compile/compile";
import type { PackingLine } from "../dashboard/contents";
import type { TextEdit } from "../finding/finding";
import { writeCount } from "../formula/format";
import { documentOf, nodeAt, removeValue, setValue } from "../sheet/edit/edit";
import { insertStep } from "../sheet/edit/step-edit";

/** Something that would make the file lighter, with the change of the sheet that does it. */
export interface Lighter {
  says: string;
  /** About so many bytes fewer. */
  bytes: number;
  edits: TextEdit[];
}

/** Parts of the file smaller than this are not worth a word. */
const WORTH = 1 / 50;

/**
 * What would make a file lighter: columns that only a data table shows, rows that only lists show, and rows that
 * leave although nothing but their groups is shown.
 */
export function lighterWays(compiled: Compiled, packing: readonly PackingLine[]): Lighter[] {
  const { text } = compiled.sheet.source;
  const all = packing.reduce((sum, { bytes }) => sum + bytes, 0);
  const ways = [
    ...columnsOfLists(compiled, text, packing),
    ...rowsOfLists(compiled, text, packing),
    ...groupsForRows(compiled, text, packing),
  ];
  return ways.filter(({ bytes }) => bytes > all * WORTH).sort((a, b) => b.bytes - a.bytes);
}

/** Columns that stand in one data table and are needed by nothing else. */
function columnsOfLists({ plan }: Compiled, text: string, packing: readonly PackingLine[]): Lighter[] {
  const root = documentOf(text).contents;
  return packing.flatMap(({ column, bytes, neededBy: [by, ...more] }): Lighter[] => {
    const piece = plan.pieces.find(({ name }) => name === by);
    const columns = by === undefined ? undefined : nodeAt(root, ["charts", by, "columns"]);
    if (!piece || more.length || piece.plan.type !== "table" || !isSeq(columns) || columns.items.length < 2) return [];
    const at = columns.items.findIndex((item) => isScalar(item) && item.value === column);
    const edits = at < 0 ? undefined : removeValue(text, ["charts", piece.name, "columns", at]);
    return edits ? [{ says: `leave ${column} out of ${piece.words.title}`, bytes, edits }] : [];
  });
}

/** Rows that a list keeps when it is cut short. */
const SHORT = 1000;

/** Rows of tables that are looked at in lists alone: the first of them may do. */
function rowsOfLists({ plan, steps, sheet }: Compiled, text: string, packing: readonly PackingLine[]): Lighter[] {
  const isList = (name: string) => {
    const piece = plan.pieces.find((one) => one.name === name)?.plan;
    return piece?.type === "table" && !piece.query.grouped;
  };
  return [...new Set(packing.map(({ table }) => table))].flatMap((table): Lighter[] => {
    const lines = packing.filter((line) => line.table === table);
    const rows = lines[0]?.rows ?? 0;
    const isListed = lines.every(({ neededBy }) => neededBy.length > 0 && neededBy.every(isList));
    if (!sheet.tables.has(table) || rows <= SHORT || !isListed) return [];
    const edits = insertStep(text, table, steps.get(table)?.length ?? 0, { first: SHORT });
    const bytes = lines.reduce((sum, line) => sum + line.bytes, 0) * (1 - SHORT / rows);
    return edits ? [{ says: `keep the first ${writeCount(SHORT)} rows of ${table}`, bytes, edits }] : [];
  });
}

/**
 * Rows of pieces that show groups alone and whose rows nothing picks, but that the sheet could not say of these, or
 * that a crosshair or zoom ties to the rows of others: they go along so that the file can be opened again.
 */
function groupsForRows(
  { outOfReach, groups, sheet }: Compiled,
  text: string,
  packing: readonly PackingLine[],
): Lighter[] {
  const lines = packing.filter(
    ({ table, neededBy }) => !groups.has(table) && neededBy.length && neededBy.every((name) => outOfReach.has(name)),
  );
  const edits =
    sheet.style.sheet === "leave_out" || lines.length === 0
      ? undefined
      : setValue(text, ["style", "sheet"], "leave_out");
  if (!edits) return [];
  const count = new Set(lines.flatMap(({ neededBy }) => neededBy)).size;
  const says =
    "leave the sheet behind: " +
    `${count === 1 ? "one piece" : `${count} pieces`} then go along as groups, without rows`;
  return [{ says, bytes: lines.reduce((sum, { bytes }) => sum + bytes, 0), edits }];
}
