import type { Finding } from "../finding/finding";
import { listed, nearest } from "../finding/nearest";
import { decodedOf } from "./decoded";
import type { RawColumn } from "./infer";
import type { SheetCells } from "./sheet-cells";
import {
  guessHeader,
  headNames,
  type ReadOptions,
  type ReadResult,
  tableOfCells,
  unreadable,
  warnOfDataAsHeads,
} from "./texts";

/** So many rows are looked at for the one that names the columns. */
const LOOKED_AT = 40;

const cellAt = ({ codes, dictionary }: RawColumn, row: number) => dictionary[codes[row] as number] ?? null;

/** The first rows of a sheet as texts, among the columns that hold something. */
const firstRows = ({ columns, rowNumbers }: SheetCells): (string | null)[][] =>
  Array.from({ length: Math.min(LOOKED_AT, rowNumbers.length) }, (_, row) =>
    columns.map(({ cells }) => cellAt(cells, row)),
  );

/** The sheet of the wanted name; without one the first that can be seen and has rows, or the first with rows. */
function sheetOf(sheets: readonly SheetCells[], wanted: string | undefined): SheetCells | undefined {
  if (wanted !== undefined) return sheets.find(({ name }) => name === wanted);
  const filled = sheets.filter(({ rowNumbers }) => rowNumbers.length > 0);
  return filled.find(({ hidden }) => !hidden) ?? filled[0] ?? sheets[0];
}

/** The place of the row of heads among the rows that hold something; -1 for none, nothing where that row is empty. */
function headRow(sheet: SheetCells, header: ReadOptions["header"]): number | undefined {
  if (header === "none") return -1;
  if (header === undefined) return guessHeader(firstRows(sheet));
  const row = sheet.rowNumbers.indexOf(header);
  return row < 0 ? undefined : row;
}

/** Reads one sheet of a workbook that was decoded ahead. */
export function readXlsx(file: string, bytes: Uint8Array, options: ReadOptions): ReadResult {
  const decoded = decodedOf(bytes);
  if (decoded?.type === "problem") return unreadable(file, decoded.code, `${file} ${decoded.message}`);
  if (decoded?.type !== "workbook")
    return unreadable(file, "not-decoded", `${file} was not decoded before the sheet was compiled`);
  const findings: Finding[] = [];
  const names = decoded.sheets.map(({ name }) => name);
  const sheet = sheetOf(decoded.sheets, options.sheet);
  if (!sheet && options.sheet === undefined) return unreadable(file, "empty-file", `${file} holds no sheet of cells`);
  if (!sheet) {
    const near = nearest(options.sheet ?? "", names);
    return unreadable(
      file,
      "no-such-sheet",
      `${file} has no sheet "${options.sheet}"${near ? `; did you mean "${near}"?` : `; its sheets are ${listed(names)}`}`,
    );
  }
  const { rowNumbers, columns } = sheet;
  const head = headRow(sheet, options.header);
  if (rowNumbers.length === 0 || head === undefined)
    return unreadable(
      file,
      "empty-file",
      `the sheet "${sheet.name}" of ${file} ` +
        `${rowNumbers.length === 0 ? "holds no rows" : `has nothing in row ${options.header}, which should name the columns`}`,
    );
  const notes = notesOf(sheet, names, head, options);
  const heads = columns.map(({ place, cells }) => (head < 0 ? `column_${place + 1}` : (cellAt(cells, head) ?? "")));
  const body = rowNumbers.length - head - 1;
  // A column with neither a head nor a cell below it holds only something of the title.
  const used = columns
    .map((_, at) => at)
    .filter(
      (at) =>
        (heads[at] as string).trim() !== "" ||
        (columns[at] as SheetCells["columns"][number]).cells.codes.subarray(head + 1).some((code) => code >= 0),
    );
  const cells = used.map((at): RawColumn => {
    const { codes, dictionary } = (columns[at] as SheetCells["columns"][number]).cells;
    return { codes: codes.subarray(head + 1), dictionary };
  });
  const named = used.map((at) => heads[at] as string);
  const result = tableOfCells(
    file,
    headNames(
      named,
      notes,
      used.map((at) => (columns[at] as SheetCells["columns"][number]).place),
    ),
    cells,
    body,
    notes,
    findings,
    options,
  ) as ReadResult;
  if (options.header === undefined) warnOfDataAsHeads(file, named, result.table, findings);
  return result;
}

/** What is to be said of the sheet as a whole. */
function notesOf(sheet: SheetCells, names: readonly string[], head: number, options: ReadOptions): string[] {
  const { rowNumbers, errors, errorExample, unfinished, name } = sheet;
  const notes: string[] = [];
  if (names.length > 1) notes.push(`the sheet "${name}" of ${listed(names)}`);
  if (head > 0 && options.header === undefined)
    notes.push(`row ${rowNumbers[head]} names the columns; what stands above it was left out`);
  const first = head < 0 ? 0 : (rowNumbers[head] as number);
  const blank = (rowNumbers.at(-1) as number) - first - (rowNumbers.length - head - 1);
  if (blank > 0) notes.push(`${blank} empty row${blank === 1 ? " was" : "s were"} left out`);
  if (errors)
    notes.push(
      `${errors} cell${errors === 1 ? " shows" : "s show"} an error ` +
        `(${errorExample}) and ${errors === 1 ? "is" : "are"} missing`,
    );
  if (unfinished)
    notes.push(
      `${unfinished} formula${unfinished === 1 ? " has" : "s have"} no result in the file and ` +
        `${unfinished === 1 ? "is" : "are"} missing; open the workbook and save it once`,
    );
  return notes;
}
