"use client";

import { useState } from "react";
import { useDesk, useDeskState } from "../desk/desk-context";
import { count, many, Press, Quiet } from "../frame/kit";
import type { TableView } from "../worker/reply";

/** Decisions about columns, those that were the same for several columns said once. */
function decidedAlike(columns: readonly { name: string; note?: string }[]): string[] {
  const alike = new Map<string, { names: string[]; note: string }>();
  for (const { name, note = "" } of columns) {
    // The example in a note is another in each column.
    const key = note.replace(/^"[^"]*" is read as [\d.]+/, "");
    const known = alike.get(key) ?? { names: [], note };
    known.names.push(name);
    alike.set(key, known);
  }
  return [...alike.values()].map(
    ({ names, note }) =>
      `${names[0]}${names.length === 2 ? ` and ${names[1]}` : names.length > 2 ? ` and ${names.length - 1} more columns` : ""}: ${note}`,
  );
}

/** What is offered beside the account of a file, each in one press. */
const OFFERED: ReadonlySet<string> = new Set([
  "odd-spellings",
  "heads-look-like-data",
  "several-in-a-cell",
  "thousands-as-decimals",
]);

/** What became of the file, where something was lost or had to be decided. */
export function IntakeNotes({ table }: { table: TableView }) {
  const desk = useDesk();
  const [all, setAll] = useState(false);
  const findings = useDeskState((state) => state.reply?.findings);
  const offered = (findings ?? []).filter(
    ({ piece, fix, code }) => piece === `tables.${table.name}` && fix && OFFERED.has(code),
  );
  const { report } = table;
  if (!report) return null;
  const unread = report.columns.filter((column) => column.unread > 0);
  const decided = report.columns.filter((column) => column.note !== undefined);
  const notes = [
    ...report.notes,
    ...unread.map(
      (column) =>
        `${column.name}: ${many(column.unread, "cell")} could not be read as a ${column.kind}, such as ${column.examples
          .slice(0, all ? 5 : 1)
          .map(({ row, text }) => `"${text}" in row ${count(row)}`)
          .join(", ")}`,
    ),
    ...decidedAlike(decided),
  ];
  if (notes.length === 0 && offered.length === 0) return null;
  return (
    <Quiet
      as="div"
      role="region"
      aria-label={`What became of ${table.source}`}
      style={{ padding: "0 12px 8px 0", fontSize: 12, overflowWrap: "anywhere" }}
    >
      {notes.slice(0, all ? undefined : 3).map((note) => (
        <p key={note}>{note}</p>
      ))}
      {offered.map((finding) => (
        <p key={finding.message}>
          {finding.message} <Press onPress={() => desk.mend(finding)}>{finding.fix?.title}</Press>
        </p>
      ))}
      {notes.length > 3 && <Press onPress={() => setAll(!all)}>{all ? "less" : `${notes.length - 3} more`}</Press>}
    </Quiet>
  );
}
