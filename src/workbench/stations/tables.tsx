"use client";

import { useEffect, useMemo, useState } from "react";
import { FileTrigger } from "react-aria-components";
import styled from "styled-components";
import { useDesk, useDeskState } from "../desk/desk-context";
import { deriveTable, writeRows } from "../desk/shaping";
import { pasteTable, TABLE_ENDINGS, takeFiles } from "../desk/take-files";
import { type TrayName, WHOLE_TABLE } from "../desk/trays";
import { Coral, count, many, Press, Quiet, Word } from "../frame/kit";
import type { Sought, TableView } from "../worker/reply";
import { useAsked } from "./ask";
import { ruleOfBars } from "./column-head";
import { ColumnSummaries } from "./column-summary";
import { FirstCharts } from "./first-charts";
import { FoundColumns } from "./found-columns";
import { IntakeNotes } from "./intake-notes";
import { type BrushedBars, RowsGrid } from "./rows-grid";
import { MarkedLine } from "./shaping/marked-line";
import type { TrayProps } from "./shaping/tray-kit";
import { TRAYS } from "./shaping/trays";
import { Stream } from "./stream";

const Zone = styled.section`
  display: grid;
  grid-template-columns: 262px minmax(0, 1fr);
  height: 100%;
  outline: none;
  @media (max-width: 640px) {
    grid-template: minmax(0, 42%) minmax(0, 1fr) / minmax(0, 1fr);
  }
`;

const Left = styled.div`
  border-right: 1px solid var(--rule);
  min-height: 0;
  overflow: auto;
  padding: 8px 0 0 8px;
  @media (max-width: 640px) {
    border-right: 0;
    border-bottom: 1px solid var(--ink);
  }
`;

const Names = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  align-items: baseline;
  padding-right: 12px;
  margin-bottom: 8px;
`;

const Name = styled(Word)`
  font: 400 19px/1.3 var(--serif);
  &[aria-current] {
    font-weight: 400;
  }
`;

const Adds = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
  margin: 0 12px 12px 0;
`;

const Right = styled.div`
  display: grid;
  grid-template-rows: repeat(6, auto) minmax(0, 1fr);
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
  align-items: baseline;
  input {
    font: inherit;
    color: var(--ink);
    background: none;
    border: 0;
    border-bottom: 1px solid var(--ink);
    width: 170px;
    flex: none;
    padding: 0 0 2px;
  }
  & > :last-child {
    margin-left: auto;
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

const Steps = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
  padding: 0 12px 20px 14px;
`;

/** Ways for a table to come in: dropped anywhere here, picked, pasted, written, or made from another. */
function AddTable({ table }: { table: string | undefined }) {
  const desk = useDesk();
  return (
    <Adds>
      <FileTrigger
        acceptedFileTypes={TABLE_ENDINGS}
        allowsMultiple
        onSelect={(files) => files && void takeFiles(desk, [...files])}
      >
        <Press>add a table</Press>
      </FileTrigger>
      <Press onPress={() => writeRows(desk)}>write rows</Press>
      {table && <Press onPress={() => deriveTable(desk, table)}>one from {table}</Press>}
      <Quiet style={{ fontSize: 12 }}>drop or paste works too</Quiet>
    </Adds>
  );
}

interface Rows {
  table: TableView;
  stage: number;
  rowCount: number;
}

/** Trays that ask which columns by pressing their heads: each press takes one in or leaves it out. */
const BY_HEADS: ReadonlySet<TrayName> = new Set(["group", "unique"]);

/** What is looked for among rows: a text, bars that were brushed, the rows of a piece; and what was found. */
function useSought({ table, stage }: Rows, find: string, rule: string | undefined) {
  const { name } = table;
  const wanted = useDeskState((state) => state.way);
  const way = wanted?.table === name && stage === table.ledger.length ? wanted : undefined;
  const sought = useMemo<Sought | undefined>(() => {
    const text = find.trim();
    if (!text && !rule && !way) return undefined;
    const { piece, which } = way ?? {};
    return {
      ...(text ? { text } : {}),
      ...(rule ? { where: rule } : {}),
      ...(piece && which ? { way: { piece, which } } : {}),
    };
  }, [find, rule, way]);
  const asked = JSON.stringify(sought);
  const matching = useAsked(
    (call) => (sought ? call.sought(name, stage, sought).then((found) => ({ of: asked, ...found })) : undefined),
    [name, stage, asked],
  );
  return { way, sought, found: sought && matching?.of === asked ? matching : undefined };
}

/** Columns that are marked, by their names; another table or step has other columns in hand. */
function useMarks(key: string, columns: readonly { name: string }[], takesMore: boolean) {
  const [marked, setMarked] = useState<{ of: string; names: string[] }>({ of: key, names: [] });
  const set = (names: string[]) => setMarked({ of: key, names });
  useEffect(() => setMarked({ of: key, names: [] }), [key]);
  const names = marked.of === key ? marked.names.filter((own) => columns.some((column) => column.name === own)) : [];
  const mark = (column: string, withOthers: boolean) => {
    const more = withOthers || takesMore;
    const without = names.filter((own) => own !== column);
    if (names.includes(column)) set(more || names.length === 1 ? without : [column]);
    else set(more ? [...names, column] : [column]);
  };
  return { names, set, mark };
}

/** The search over the rows, and how many of them there are. */
function RowsAbove(props: {
  name: string;
  stage: number;
  rows: string;
  problem: string | undefined;
  rowCount: number;
  find: string;
  setFind: (text: string) => void;
  summed: boolean;
  setSummed: (on: boolean) => void;
}) {
  const { name, stage, rows, problem, rowCount, find, setFind, summed, setSummed } = props;
  return (
    <Above>
      <input
        type="search"
        aria-label={`Find in ${name}`}
        placeholder={`find in ${count(rowCount)} rows`}
        value={find}
        onChange={(event) => setFind(event.target.value)}
      />
      <span role="status">{problem ? <Coral>{problem}</Coral> : rows}</span>
      {stage === 0 && <Quiet>as read</Quiet>}
      <Word aria-pressed={summed} onPress={() => setSummed(!summed)}>
        {summed ? "the rows" : "all columns summed up"}
      </Word>
    </Above>
  );
}

/** What is known of the columns at a step: their kinds, and what their values sum up to. */
function useColumns({ name }: TableView, stage: number) {
  const known = useDeskState((state) => state.reply?.knowledge.tables.get(name)?.[stage]);
  const columns = useMemo(() => known ?? [], [known]);
  const key = `${name} ${stage}`;
  const summary = useAsked(
    (call) => call.summary(name, stage).then((found) => ({ of: key, found: new Map(found) })),
    [name, stage],
  );
  const summaries = useMemo(() => (summary?.of === key ? summary.found : new Map()), [summary, key]);
  return { key, columns, summaries };
}

/** The rule that brushed bars of a column stand for; let go where another table or step is looked at. */
function useBrushed({ key, columns, summaries }: ReturnType<typeof useColumns>) {
  const [bars, setBars] = useState<{ of: string; brushed: BrushedBars | undefined }>({ of: key, brushed: undefined });
  const setBrushed = (next: BrushedBars | undefined) => setBars({ of: key, brushed: next });
  useEffect(() => setBars({ of: key, brushed: undefined }), [key]);
  const brushed = bars.of === key ? bars.brushed : undefined;
  const column = brushed && columns.find(({ name }) => name === brushed.column);
  const summary = brushed && summaries.get(brushed.column);
  const rule = column && summary ? ruleOfBars(column, summary, brushed.bars[0], brushed.bars[1]) : undefined;
  return { brushed, setBrushed, rule };
}

/** The tray that is open. One that goes by marked columns begins anew with others, unless heads are pressed for it. */
function OpenTray({ tray, of, ...props }: TrayProps & { tray: TrayName; of: string }) {
  const Tray = TRAYS[tray];
  const about = BY_HEADS.has(tray) ? of : `${of} ${props.marked.join()}`;
  return <Tray {...props} key={`${tray} ${about}`} />;
}

/** The rows at a step with all that can be done to them: search, marks, brushes, trays, the summary. */
function RowsSide(props: Rows) {
  const { table, stage, rowCount } = props;
  const { name } = table;
  const desk = useDesk();
  const begun = useDeskState((state) => state.begun);
  const tray = useDeskState((state) => state.tray);
  const [find, setFind] = useState("");
  const [summed, setSummed] = useState(false);
  const known = useColumns(table, stage);
  const { key, columns, summaries } = known;
  const { brushed, setBrushed, rule } = useBrushed(known);
  const { way, sought, found } = useSought(props, find, rule);
  const marks = useMarks(key, columns, tray !== undefined && BY_HEADS.has(tray));
  const at = { table: name, stage, columns, summaries, marked: marks.names };
  const open = (next: TrayName | undefined) => desk.state.set({ tray: next });
  // Who looked for a column has found it, and wants to see its rows.
  const showColumn = (column: string) => {
    marks.set([column]);
    setFind("");
  };
  const rows = sought
    ? `${found ? count(found.rows) : "…"} of ${many(rowCount, "row")}`
    : `${many(rowCount, "row")} of ${many(columns.length, "column")}`;
  return (
    <Right>
      <RowsAbove {...{ name, stage, rows, rowCount, find, setFind, summed, setSummed }} problem={found?.problem} />
      {begun === name && !tray ? <FirstCharts table={name} columns={columns} /> : <span />}
      {find.trim().length > 1 ? <FoundColumns text={find.trim()} columns={columns} onPress={showColumn} /> : <span />}
      {way ? (
        <p role="status">
          rows of <b>{way.piece}</b>: {way.which} <Word onPress={() => desk.state.set({ way: undefined })}>let go</Word>
        </p>
      ) : (
        <span />
      )}
      <MarkedLine {...at} open={open} clear={() => marks.set([])} rule={rule} letGo={() => setBrushed(undefined)} />
      {tray ? <OpenTray {...at} tray={tray} of={key} mark={marks.set} close={() => open(undefined)} /> : <span />}
      {summed ? (
        <ColumnSummaries columns={columns} summaries={summaries} />
      ) : (
        <RowsGrid
          {...at}
          rowCount={sought ? (found?.rows ?? 0) : rowCount}
          stamp={table.stamps[stage] ?? 0}
          sought={sought}
          onMark={marks.mark}
          brushed={brushed}
          onBrush={setBrushed}
        />
      )}
    </Right>
  );
}

/** Takes tables that are pasted anywhere but into a field; gives what to say where something was no table. */
function usePasted(): string | undefined {
  const desk = useDesk();
  const [said, setSaid] = useState<string>();
  useEffect(() => {
    const listen = (event: ClipboardEvent) => {
      const target = event.target as HTMLElement | null;
      if (target?.closest("input, textarea, [contenteditable=true]")) return;
      const text = event.clipboardData?.getData("text/plain");
      if (!text) return;
      void pasteTable(desk, text).then((taken) =>
        setSaid(taken ? undefined : "what was pasted is no table: rows with commas, semicolons or tabs are expected"),
      );
    };
    document.addEventListener("paste", listen);
    return () => document.removeEventListener("paste", listen);
  }, [desk]);
  return said;
}

/** The steps of a table, and those that can be added to it as a whole. */
function StepsSide({ table, stage }: { table: TableView; stage: number }) {
  const desk = useDesk();
  const findings = useDeskState((state) => state.reply?.findings);
  return (
    <>
      <Stream
        key={table.name}
        table={table}
        stage={stage}
        onStage={(next) => desk.state.set({ table: table.name, stage: next })}
        finding={findings?.find(({ piece, severity }) => piece === `tables.${table.name}` && severity === "error")}
        onMend={(finding) => desk.mend(finding)}
      />
      <Steps role="toolbar" aria-label="Add a step">
        <Quiet>add a step:</Quiet>
        {WHOLE_TABLE.map(([tray, words]) => (
          <Press key={tray} onPress={() => desk.state.set({ tray })}>
            {words}
          </Press>
        ))}
      </Steps>
    </>
  );
}

/** Kinds of files that are told of where there is no table yet; others are read too. */
const TOLD_ENDINGS = TABLE_ENDINGS.filter((ending) => !/txt|jsonl|ndjson|tsv/.test(ending)).join(", ");

/** Tables: the steps as a stream at the left, the rows at the chosen step filling the rest. */
export function TablesStation() {
  const desk = useDesk();
  const tables = useDeskState((state) => state.reply?.tables);
  const chosen = useDeskState((state) => state.table);
  const chosenStage = useDeskState((state) => state.stage);
  const table = tables?.find(({ name }) => name === chosen) ?? tables?.[0];
  const last = table ? table.ledger.length : 0;
  const stage = Math.min(chosenStage ?? last, last);
  const name = table?.name ?? "";
  const pasted = usePasted();
  useEffect(() => {
    if (!name) return;
    desk.state.set({ hand: stage === 0 ? ["tables", name, "read"] : ["tables", name, "steps", stage - 1] });
  }, [desk, name, stage]);
  return (
    <Zone aria-label="Tables of the report">
      <Left>
        <Names>
          {tables?.map((one) => (
            <Name
              key={one.name}
              {...(one === table ? { "aria-current": "true" } : {})}
              onPress={() => desk.state.set({ table: one.name, stage: undefined, tray: undefined })}
            >
              {one.name}
            </Name>
          ))}
        </Names>
        <AddTable table={table?.name} />
        {pasted && <Quiet as="p">{pasted}</Quiet>}
        {table && <IntakeNotes key={table.name} table={table} />}
        {table && <StepsSide table={table} stage={stage} />}
      </Left>
      {table ? (
        <RowsSide
          table={table}
          stage={stage}
          rowCount={stage === 0 ? table.rowsIn : (table.ledger[stage - 1]?.rowsOut ?? 0)}
        />
      ) : (
        <Empty>
          <p>
            This report has no table yet. Drop a {TOLD_ENDINGS} file anywhere here, or paste rows from a spreadsheet.
          </p>
        </Empty>
      )}
    </Zone>
  );
}
