"use client";

import { useEffect, useMemo, useState } from "react";
import { DropZone, FileTrigger, Text } from "react-aria-components";
import styled from "styled-components";
import { pasteTable, TABLE_ENDINGS, takeFiles, takeSuggestions } from "../desk/actions";
import { useDesk, useDeskState } from "../desk/desk-context";
import { count, many, Press, Quiet, Word } from "../frame/kit";
import type { TableView } from "../worker/reply";
import { useAsked } from "./ask";
import { RowsGrid } from "./rows-grid";
import { Stream } from "./stream";

const Zone = styled(DropZone)`
  display: grid;
  grid-template-columns: 262px minmax(0, 1fr);
  height: 100%;
  outline: none;
  &[data-drop-target] {
    background: var(--band);
  }
`;

const Left = styled.div`
  border-right: 1px solid var(--rule);
  min-height: 0;
  overflow: auto;
  padding: 8px 0 0 8px;
`;

const Names = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  align-items: baseline;
  padding-right: 12px;
  margin-bottom: 12px;
`;

const Name = styled(Word)`
  font: 400 19px/1.3 var(--serif);
  &[aria-current] {
    font-weight: 400;
  }
`;

const Adds = styled.div`
  display: flex;
  gap: 14px;
  margin: 0 12px 14px 0;
`;

const Right = styled.div`
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr);
  padding-left: 12px;
  min-width: 0;
  min-height: 0;
`;

const Above = styled.div`
  display: flex;
  gap: 18px;
  padding: 8px 14px 4px 0;
  white-space: nowrap;
  overflow: hidden;
`;

const Begun = styled.div`
  background: var(--band);
  margin-right: 14px;
  padding: 8px 12px;
  display: grid;
  gap: 4px;
  ul {
    list-style: none;
    display: flex;
    flex-wrap: wrap;
    gap: 2px 18px;
  }
`;

const Empty = styled.div`
  padding: 60px 40px;
  max-width: 52ch;
  font-size: 15px;
  display: grid;
  gap: 14px;
  justify-items: start;
`;

/** Ways for a table to come in: dropped anywhere here, picked, or pasted. */
function AddTable() {
  const desk = useDesk();
  return (
    <Adds>
      <FileTrigger acceptedFileTypes={TABLE_ENDINGS} allowsMultiple onSelect={(files) => files && void takeFiles(desk, [...files])}>
        <Press>add a table</Press>
      </FileTrigger>
      <Quiet>or drop or paste it here</Quiet>
    </Adds>
  );
}

/** First charts for a table that has just come in: what they would be and why, taken in one press. */
function Suggestions({ table }: { table: string }) {
  const desk = useDesk();
  const suggestions = useAsked((call) => call.suggest(table), [table]);
  if (!suggestions?.length) return null;
  return (
    <Begun role="region" aria-label="First charts">
      <p>
        {many(suggestions.length, "first chart")} for {table}:
      </p>
      <ul>
        {suggestions.map((suggestion) => (
          <li key={suggestion.name}>
            {String(suggestion.spec.title)} <Quiet>({suggestion.why})</Quiet>
          </li>
        ))}
      </ul>
      <p>
        <Press
          onPress={() => {
            takeSuggestions(desk, suggestions, table);
            desk.state.set({ station: "pages" });
          }}
        >
          write them into the sheet
        </Press>{" "}
        <Word onPress={() => desk.state.set({ begun: undefined })}>not now</Word>
      </p>
    </Begun>
  );
}

/** What became of the file, where something was lost or had to be decided. */
function Intake({ table }: { table: TableView }) {
  const { report } = table;
  if (!report) return null;
  const unread = report.columns.filter((column) => column.unread > 0);
  const notes = [...report.notes, ...unread.map((column) => `${column.name}: ${count(column.unread)} cells could not be read as a ${column.kind}, such as "${column.examples[0]?.text ?? ""}" in row ${column.examples[0]?.row ?? ""}`)];
  if (notes.length === 0) return null;
  return (
    <Quiet as="p" style={{ padding: "0 12px 8px 0", fontSize: 12 }}>
      {notes.slice(0, 4).join(" · ")}
    </Quiet>
  );
}

/** Tables: the steps as a stream at the left, the rows at the chosen step filling the rest. */
export function TablesStation() {
  const desk = useDesk();
  const reply = useDeskState((state) => state.reply);
  const chosen = useDeskState((state) => state.table);
  const chosenStage = useDeskState((state) => state.stage);
  const begun = useDeskState((state) => state.begun);
  const table = reply?.tables.find(({ name }) => name === chosen) ?? reply?.tables[0];
  const last = table ? table.ledger.length : 0;
  const stage = Math.min(chosenStage ?? last, last);
  const name = table?.name ?? "";
  const columns = reply?.knowledge.tables.get(name)?.[stage] ?? [];
  const summary = useAsked((call) => (name ? call.summary(name, stage).then((found) => ({ of: `${name} ${stage}`, found: new Map(found) })) : undefined), [name, stage]);
  const summaries = useMemo(() => (summary?.of === `${name} ${stage}` ? summary.found : new Map()), [summary, name, stage]);
  const [pasted, setPasted] = useState<string>();
  useEffect(() => {
    if (!name) return;
    desk.state.set({ hand: stage === 0 ? ["tables", name, "read"] : ["tables", name, "steps", stage - 1] });
  }, [desk, name, stage]);
  useEffect(() => {
    const listen = (event: ClipboardEvent) => {
      const target = event.target as HTMLElement | null;
      if (target?.closest("input, textarea, [contenteditable=true]")) return;
      const text = event.clipboardData?.getData("text/plain");
      if (!text) return;
      void pasteTable(desk, text).then((taken) => setPasted(taken ? undefined : "what was pasted is no table: rows with commas, semicolons or tabs are expected"));
    };
    document.addEventListener("paste", listen);
    return () => document.removeEventListener("paste", listen);
  }, [desk]);
  const words = stage === 0 ? `as read from ${table?.source ?? ""}` : `after ${table?.ledger[stage - 1]?.step ?? ""}`;
  const rows = stage === 0 ? (table?.rowsIn ?? 0) : (table?.ledger[stage - 1]?.rowsOut ?? 0);
  return (
    <Zone
      aria-label="Tables of the report"
      onDrop={(event) => {
        void Promise.all(event.items.filter((item) => item.kind === "file").map((item) => item.getFile())).then((files) => takeFiles(desk, files));
      }}
    >
      <Left>
        <Text slot="label" className="sr">
          Drop tables here
        </Text>
        <Names>
          {reply?.tables.map((one) => (
            <Name key={one.name} {...(one === table ? { "aria-current": "true" } : {})} onPress={() => desk.state.set({ table: one.name, stage: undefined })}>
              {one.name}
            </Name>
          ))}
        </Names>
        <AddTable />
        {pasted && <Quiet as="p">{pasted}</Quiet>}
        {table && <Intake table={table} />}
        {table && (
          <Stream
            table={table}
            stage={stage}
            onStage={(next) => desk.state.set({ table: table.name, stage: next })}
            finding={reply?.findings.find(({ piece, severity }) => piece === `tables.${table.name}` && severity === "error")}
            onMend={(finding) => desk.mend(finding)}
          />
        )}
      </Left>
      <Right>
        <Above>
          {table && (
            <>
              <span>
                {many(rows, "row")} <Quiet>of</Quiet> {many(columns.length, "column")}
              </span>
              <Quiet>{words}</Quiet>
            </>
          )}
        </Above>
        {begun && table?.name === begun ? <Suggestions table={begun} /> : <span />}
        {table ? (
          <RowsGrid table={table.name} stage={stage} columns={columns} summaries={summaries} rowCount={rows} stamp={table.stamps[stage] ?? 0} />
        ) : (
          <Empty>
            <p>This report has no table yet. Drop a .csv or .json file anywhere here, or paste rows from a spreadsheet.</p>
          </Empty>
        )}
      </Right>
    </Zone>
  );
}
