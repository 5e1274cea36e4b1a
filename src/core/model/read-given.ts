import { listed } from "../finding/nearest";
import { ownOf } from "../finding/own";
import type { OpenTable } from "../plan/plan";
import { readJson } from "../read/json";
import { endingOf, TEXT_READERS, withinBounds } from "../read/text-readers";
import type { Reader, ReadOptions, ReadResult } from "../read/texts";
import type { Table } from "../table/table";
import { columnsAmiss } from "./given-rows";

/** Rows that can take the place of a table's own, with what was lost in reading them; or why they cannot. */
export type GivenRows = { table: Table; unread: string[] } | { problem: string };

const optionsOf = ({ columns, reading }: OpenTable): ReadOptions => ({
  ...reading,
  columns: new Map(Object.entries(columns)),
});

function checked(name: string, from: string, opened: OpenTable, { table, report, findings }: ReadResult): GivenRows {
  const wrong = findings.find(({ severity }) => severity === "error");
  if (wrong) return { problem: wrong.message };
  const amiss = columnsAmiss(opened, table.columns.keys());
  if (amiss.length)
    return {
      problem:
        `${name} needs the ${amiss.length === 1 ? "column" : "columns"} ` +
        `${listed(amiss)}, not there in ${from}; there are ${listed(table.columns.keys())}`,
    };
  const unread = report.columns
    .filter((column) => column.unread > 0 && Object.hasOwn(opened.columns, column.name))
    .map(
      (column) =>
        `${column.unread === 1 ? "one cell" : `${column.unread} cells`} ` +
        `of ${column.name} could not be read as a ${column.kind}`,
    );
  return { table, unread };
}

/** Reads a file in the way in which a table's own was read; `readers` by the endings of files. */
export function readGivenFile(
  name: string,
  opened: OpenTable,
  file: string,
  bytes: Uint8Array,
  readers: Readonly<Record<string, Reader>> = TEXT_READERS,
): GivenRows {
  const read = ownOf(readers, endingOf(file));
  if (!read) {
    const kinds = Object.keys(readers).map((kind) => `.${kind}`);
    return { problem: `${file} is none of the kinds that this dashboard reads: ${listed(kinds)}` };
  }
  return checked(
    name,
    file,
    opened,
    withinBounds(file, () => read(file, bytes, optionsOf(opened))),
  );
}

/** Seconds as a file would hold them: a plain number in a cell of a file is no span of time. */
function spanText(seconds: number): string {
  const [whole, rest] = [Math.trunc(Math.abs(seconds)), Math.abs(seconds) % 1];
  const two = (part: number) => String(part).padStart(2, "0");
  const fraction = rest ? rest.toFixed(3).slice(1) : "";
  return `${seconds < 0 ? "-" : ""}${Math.trunc(whole / 3600)}:${two(Math.trunc(whole / 60) % 60)}:${two(whole % 60)}${fraction}`;
}

/** Rows with their spans of time, which a dashboard gives in seconds, as texts. */
function withSpans({ columns }: OpenTable, rows: readonly object[]): readonly object[] {
  const spans = Object.keys(columns).filter((name) => columns[name]?.type === "duration");
  if (spans.length === 0) return rows;
  return rows.map((row) => {
    const own: Record<string, unknown> = { ...row };
    for (const name of spans) if (typeof own[name] === "number") own[name] = spanText(own[name]);
    return own;
  });
}

/**
 * Takes rows of a script: one object for each, as a JSON file would hold them; spans of time are texts, or
 * numbers of seconds.
 */
export function readGivenRows(name: string, opened: OpenTable, rows: readonly object[]): GivenRows {
  const said = `the rows given for ${name}`;
  // No rows at all have the columns that the table has, each of them empty.
  const own = rows.length
    ? withSpans(opened, rows)
    : Object.fromEntries(Object.keys(opened.columns).map((column) => [column, []]));
  return checked(
    name,
    said,
    opened,
    withinBounds(said, () => readJson(said, JSON.stringify(own), optionsOf(opened))),
  );
}
