"use client";

import { useEffect, useRef } from "react";
import styled from "styled-components";
import type { RowsOnTheWay } from "../../core/look/accounting";
import { useDesk, useDeskState } from "../desk/desk-context";
import { Coral, count, Press } from "../frame/kit";
import { ProofSlot } from "../proof/proof-slot";
import { AdviceList } from "./advice-list";
import { useAsked } from "./ask";
import { ChartStrip } from "./chart-strip";
import { ColumnsBeside } from "./columns-beside";
import { NewChart } from "./new-chart";
import { ColumnOnto } from "./onto-picture";
import { PictureParts } from "./picture-parts";

const Frame = styled.div`
  display: grid;
  grid-template: minmax(0, 1fr) auto 112px / minmax(0, 1fr) 172px;
  @media (max-width: 640px) {
    grid-template-columns: minmax(0, 1fr);
  }
  height: 100%;
`;

const Large = styled.div`
  min-height: 0;
  min-width: 0;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
`;

/** The picture alone, on which columns are dropped. */
const Shown = styled.div`
  min-height: 0;
  min-width: 0;
  display: flex;
`;

const Under = styled.div`
  padding: 6px 20px 8px;
  min-width: 0;
  max-height: 190px;
  overflow: auto;
`;

const Account = styled.ol`
  list-style: none;
  display: flex;
  @media (max-width: 640px) {
    flex-direction: column;
  }
  li {
    flex: 1;
    min-width: 0;
    background: var(--stream);
    padding: 3px 8px 4px;
    border-left: 2px solid var(--ground);
    align-self: flex-start;
  }
  b {
    display: block;
  }
  button {
    color: inherit;
    padding: 0;
  }
  small {
    display: block;
    font-size: 12px;
    margin: 4px -8px -4px;
    padding: 1px 8px 0;
    color: var(--quiet);
    background: var(--ground);
  }
`;

interface AccountProps {
  chart: string;
  /** Shows rows that an entry counts, or all at a step. */
  look: (which: RowsOnTheWay | undefined, stage?: number) => void;
}

/** The way of a chart's rows, from the table to what is drawn; each count leads to its rows. */
function AccountLine({ chart, look }: AccountProps) {
  const account = useAsked((call) => (chart ? call.account(chart) : undefined), [chart]);
  return (
    <Account aria-label="From rows to marks">
      {account?.map(({ count: rows, what, lost, stage, rows: these, lostRows }) => (
        <li key={what}>
          <b>{count(rows)}</b>
          {stage === undefined && !these ? what : <Press onPress={() => look(these, stage)}>{what}</Press>}
          {lost && <small title={lost}>{lostRows ? <Press onPress={() => look(lostRows)}>{lost}</Press> : lost}</small>}
        </li>
      ))}
    </Account>
  );
}

/** Charts: one large and live, where its rows went, what could be better, and all others small. */
export function ChartsStation() {
  const desk = useDesk();
  const reply = useDeskState((state) => state.reply);
  const wanted = useDeskState((state) => state.piece);
  const isAdding = useDeskState((state) => state.isAdding);
  const pieces = reply?.pieces ?? [];
  const piece = pieces.find(({ name }) => name === wanted) ?? pieces.find(({ kind }) => kind === "chart") ?? pieces[0];
  const name = piece?.name ?? "";
  const from = piece?.from ?? "";
  const large = useRef<HTMLDivElement>(null);
  useEffect(() => {
    // One that was just written is wanted already and not known yet: it is not given up for another.
    if (name && !isAdding) desk.state.set({ hand: ["charts", name], ...(wanted === undefined ? { piece: name } : {}) });
  }, [desk, name, isAdding, wanted]);
  if (!reply) return null;
  const look: AccountProps["look"] = (which, stage) => {
    const way = which && { table: from, piece: name, which };
    desk.state.set({ station: "tables", table: from, stage, tray: undefined, way });
  };
  const strip = <ChartStrip pieces={pieces} chosen={isAdding ? undefined : name} />;
  if (isAdding || !piece)
    return (
      <Frame>
        <NewChart isFirst={pieces.length === 0} />
        {strip}
      </Frame>
    );
  return (
    <Frame>
      <Large>
        <PictureParts chart={name} />
        <Shown ref={large}>
          {piece.kind === "broken" ? (
            <Coral as="p" style={{ padding: 20 }}>
              {piece.problem}
            </Coral>
          ) : (
            <ProofSlot alone={name} />
          )}
        </Shown>
      </Large>
      <Under>
        <AccountLine chart={name} look={look} />
        <AdviceList chart={name} />
      </Under>
      <ColumnsBeside
        table={from}
        name={(column) => <ColumnOnto chart={name} column={column} picture={() => large.current} />}
      />
      {strip}
    </Frame>
  );
}
