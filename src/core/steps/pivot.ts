import { keepRoom } from "../finding/limits";
import { evaluate, frameOf } from "../formula/evaluate";
import { groupRows } from "../formula/groups";
import { answerMeasure, answerVector, makeMeasure } from "../formula/measures";
import { columnsOf, type Formula } from "../formula/tree";
import { columnOf } from "../formula/vector";
import { isoDate, isoDatetime, MONTHS } from "../table/calendar";
import { type Column, gather, type NumericColumn, type TextColumn } from "../table/column";
import { textPlaces } from "../table/compare";
import type { Table } from "../table/table";
import { readIsoDate } from "../table/time-text";
import type { HeadKind, StepKind } from "./step";

/** A year, a month or a quarter as heads tell them: `2024`, `2024-03`, `Mar 24`, `March 2024`, `2024 Q2`. */
const PERIOD =
  /^(?:(?<year>\d{4})(?:[-/. _]?(?<month>\d{1,2}))?|(?<word>[a-z]{3,9})[. _'-]*(?<wordYear>\d{4}|\d{2})|(?<yearWord>\d{4})[. _-]?(?<lateWord>[a-z]{3,9})|q(?<quarter>[1-4])[ _-]?(?<quarterYear>\d{4})|(?<yearQuarter>\d{4})[ _-]?q(?<lateQuarter>[1-4]))$/;

/** The month of an English name or of its first letters, from 1; `NaN` for other words. */
function monthOf(word: string): number {
  const at = MONTHS.findIndex((month) => month.toLowerCase().startsWith(word));
  return at < 0 ? Number.NaN : at + 1;
}

/** Reads an old head as a value of the kind asked for; years, months and quarters are dates too, their first day. */
export function readHead(head: string, kind: "number" | "date"): number {
  const text = head.trim().toLowerCase();
  if (kind === "number") return /^[+-]?\d+(?:\.\d+)?$/.test(text) ? Number(text) : Number.NaN;
  const part = PERIOD.exec(text)?.groups;
  if (!part) return readIsoDate(text);
  const { month = "1", word = part.lateWord, quarter = part.lateQuarter } = part;
  const year = part.year ?? part.wordYear ?? part.yearWord ?? part.quarterYear ?? part.yearQuarter ?? "";
  const number = word ? monthOf(word) : quarter ? Number(quarter) * 3 - 2 : Number(month);
  return readIsoDate(`${year.length === 2 ? `20${year}` : year}-${String(number).padStart(2, "0")}-01`);
}

function headColumn(heads: readonly string[], kind: HeadKind, rowCount: number): Column {
  const repeated = <Values extends Float64Array | Int32Array>(values: Values, make: (head: number) => number) => {
    for (let at = 0; at < values.length; at++) values[at] = make(at % heads.length);
    return values;
  };
  if (kind === "text")
    return {
      kind: "text",
      codes: repeated(new Int32Array(rowCount), (head) => head),
      dictionary: heads,
      ordered: true,
    };
  const read = heads.map((head) => readHead(head, kind));
  return { kind, values: repeated(new Float64Array(rowCount), (head) => read[head] as number) };
}

/** Wide to long: for every row one row per column, in the columns' order; the other columns repeat. */
export const unpivot: StepKind<"unpivot"> = {
  run(step, table) {
    const heads = step.columns.filter((name) => table.columns.has(name));
    const rowCount = table.rowCount * heads.length;
    keepRoom(rowCount, table.columns.size - heads.length + 2, "the long table");
    const rows = new Int32Array(rowCount);
    for (let at = 0; at < rowCount; at++) rows[at] = Math.floor(at / heads.length);
    const columns = new Map<string, Column>();
    const long = new Set(step.columns);
    for (const [name, column] of table.columns) if (!long.has(name)) columns.set(name, gather(column, rows));
    const wide = heads.map((name) => table.columns.get(name) as Column);
    columns.set(step.name, headColumn(heads, step.nameKind, rowCount));
    columns.set(step.value, interleaved(wide, table.rowCount));
    return { table: { rowCount, columns, info: table.info }, losses: [], origin: { type: "rows", rows } };
  },
  formulas: () => [],
  needs: (step, wanted) => [
    ...[...wanted].filter((name) => name !== step.name && name !== step.value),
    ...step.columns,
  ],
  gives(step, columns) {
    const long = new Set(step.columns);
    return [...[...columns].filter((name) => !long.has(name)), step.name, step.value];
  },
};

/** The values of several columns of one kind, row by row. */
function interleaved(wide: readonly Column[], rowCount: number): Column {
  const first = wide[0];
  const width = wide.length;
  if (!first || first.kind === "text") {
    const dictionary: string[] = [];
    const known = new Map<string, number>();
    const codes = new Int32Array(rowCount * width);
    wide.forEach((column, at) => {
      const texts = column as TextColumn;
      const recode = Int32Array.from(texts.dictionary, (text) => {
        const code = known.get(text) ?? dictionary.push(text) - 1;
        known.set(text, code);
        return code;
      });
      for (let row = 0; row < rowCount; row++) codes[row * width + at] = recode[texts.codes[row] as number] ?? -1;
    });
    return { kind: "text", codes, dictionary };
  }
  const values = new Float64Array(rowCount * width);
  wide.forEach((column, at) => {
    const own = (column as NumericColumn).values;
    for (let row = 0; row < rowCount; row++) values[row * width + at] = own[row] as number;
  });
  return { kind: first.kind, values };
}

/** A value as the head of a column. */
function headOf(column: Column, row: number): string | undefined {
  if (column.kind === "text") return column.dictionary[column.codes[row] as number];
  const value = column.values[row] as number;
  if (value !== value) return undefined;
  if (column.kind === "date") return isoDate(value);
  if (column.kind === "datetime") return isoDatetime(value);
  return column.kind === "boolean" ? String(value === 1) : String(value);
}

/**
 * The heads that a pivot makes of a column's values: in their own order, else numbers by value and texts by code
 * unit.
 */
export function headsOf(table: Table, name: string): string[] {
  const column = table.columns.get(name) as Column;
  const groups = groupRows([column], table.rowCount);
  const rows = [...groups.firstRows].filter((row) => headOf(column, row) !== undefined);
  if (column.kind === "text") {
    const places = textPlaces(column.dictionary, column.ordered === true, table.info.get(name)?.order);
    rows.sort((a, b) => (places[column.codes[a] as number] as number) - (places[column.codes[b] as number] as number));
  } else rows.sort((a, b) => (column.values[a] as number) - (column.values[b] as number));
  return rows.map((row) => headOf(column, row) as string);
}

/** Long to wide: one row for each combination of `by`, one column for each head. */
export const pivot: StepKind<"pivot"> = {
  run(step, table, { setting }) {
    const keys = step.by.map((name) => table.columns.get(name) as Column);
    const names = table.columns.get(step.name) as Column;
    const groups = groupRows(keys, table.rowCount);
    const place = new Map(step.heads.map((head, at) => [head, at]));
    const width = step.heads.length;
    keepRoom(groups.count, width + step.by.length, "the wide table");
    const cells = new Int32Array(table.rowCount);
    let without = 0;
    for (let row = 0; row < table.rowCount; row++) {
      const head = headOf(names, row);
      const at = head === undefined ? undefined : place.get(head);
      if (at === undefined) without += 1;
      cells[row] = at === undefined ? -1 : (groups.of[row] as number) * width + at;
    }
    const frame = frameOf(table, setting);
    const call = step.value as Formula & { type: "call" };
    const measure = makeMeasure(
      call.name,
      call.arguments.map((argument) => evaluate(argument, frame)),
      table.rowCount,
    );
    const all = columnOf(
      answerVector(measure, answerMeasure(measure, cells, groups.count * width, null)),
      groups.count * width,
    );
    const columns = new Map<string, Column>(
      step.by.map((name, at) => [name, gather(keys[at] as Column, groups.firstRows)]),
    );
    step.heads.forEach((head, at) => {
      columns.set(
        head,
        gather(
          all,
          Int32Array.from({ length: groups.count }, (_, group) => group * width + at),
        ),
      );
    });
    return {
      table: { rowCount: groups.count, columns, info: table.info },
      losses: [],
      ...(without ? { notes: [{ rows: without, reason: `have no ${step.name} and stand in no column` }] } : {}),
      origin: {
        type: "merged",
        into: groups.of,
        count: groups.count,
        keys: step.by.map((name) => columns.get(name) as Column),
      },
    };
  },
  formulas: ({ value }) => [value],
  needs: ({ by, name, value }) => [...by, name, ...columnsOf(value)],
  gives: ({ by, heads }) => [...by, ...heads],
  merges: true,
};
