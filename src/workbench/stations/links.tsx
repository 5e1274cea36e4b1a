"use client";

import { useMemo } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import type { LinkCell, LinkRow } from "../../core/look/matrix";
import { useDesk, useDeskState } from "../desk/desk-context";
import { useStore } from "../desk/store";
import { Quiet, StationTitle } from "../frame/kit";
import { proofPlace } from "../proof/proof-place";
import { ProofSlot } from "../proof/proof-slot";

const Frame = styled.div`
  display: grid;
  grid-template-columns: minmax(300px, auto) minmax(300px, 1fr);
  height: 100%;
  @media (max-width: 640px) {
    grid-template: minmax(0, 46%) minmax(0, 1fr) / minmax(0, 1fr);
  }
`;

const Left = styled.section`
  overflow: auto;
  max-width: 58vw;
  padding: 10px 18px 20px;
  border-right: 1px solid var(--rule);
  min-height: 0;
  @media (max-width: 640px) {
    max-width: none;
    border-right: 0;
    border-bottom: 1px solid var(--ink);
  }
`;

const Right = styled.section`
  display: grid;
  grid-template-rows: 30px minmax(0, 1fr);
  min-height: 0;
  min-width: 0;
  > p {
    padding: 6px 14px 0;
    border-bottom: 1px solid var(--rule);
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

const Matrix = styled.table`
  border-collapse: collapse;
  margin-top: 8px;
  thead th {
    height: 112px;
    vertical-align: bottom;
    font-weight: 400;
    padding: 0;
    border-bottom: 2px solid var(--quiet);
    position: relative;
    min-width: 58px;
  }
  thead th span {
    position: absolute;
    left: 26px;
    bottom: 8px;
    transform: rotate(-38deg);
    transform-origin: 0 100%;
    white-space: nowrap;
    max-width: 150px;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  tbody th {
    text-align: left;
    font-weight: 400;
    padding: 4px 14px 4px 0;
    min-width: 118px;
    max-width: 190px;
  }
  tbody tr {
    border-bottom: 1px solid var(--rule);
  }
  tbody tr.used {
    background: var(--band);
  }
  tbody tr.controls {
    border-top: 2px solid var(--quiet);
  }
  td {
    text-align: center;
    padding: 4px 6px;
    white-space: nowrap;
  }
  td.nothing {
    color: var(--quiet);
  }
  td.itself span {
    display: inline-block;
    width: 26px;
    border-top: 1px solid var(--rule);
    vertical-align: middle;
  }
  td.impossible {
    background: repeating-linear-gradient(135deg, transparent 0 4px, var(--rule) 4px 5px) content-box;
    padding: 5px 6px;
  }
`;

const Source = styled(Button)`
  font: inherit;
  background: none;
  border: 0;
  padding: 0;
  text-align: left;
  cursor: pointer;
  &[data-hovered] {
    color: var(--sea);
  }
  small {
    display: block;
    font-size: 12px;
    color: var(--quiet);
  }
`;

const Sentences = styled.div`
  margin-top: 18px;
  padding: 10px 12px;
  background: var(--sheet);
  border-top: 1px solid var(--rule);
  font: 13px/20px var(--code);
  white-space: pre-wrap;
`;

function Cell({ cell }: { cell: LinkCell }) {
  if (cell.type === "does") return <td>{cell.word}</td>;
  if (cell.type === "itself")
    return (
      <td className="itself">
        <span />
        <i className="sr">marks its own pick</i>
      </td>
    );
  if (cell.type === "impossible")
    return (
      <td className="impossible" title={cell.reason}>
        <i className="sr">{cell.reason}</i>
      </td>
    );
  return (
    <td className="nothing">
      <span aria-hidden="true">•</span>
      <i className="sr">nothing</i>
    </td>
  );
}

/** Names of selections that hold something now, from the state that the proof reports. */
function inUse(proofState: string): Set<string> {
  return new Set(
    proofState
      .split("&")
      .map((part) => decodeURIComponent(part.split("=")[0] ?? ""))
      .filter(Boolean),
  );
}

/** Links: who drives whom as a square to read, and the dashboard beside it to try it. */
export function LinksStation() {
  const desk = useDesk();
  const matrix = useDeskState((state) => state.reply?.matrix);
  const text = useDeskState((state) => state.replyText);
  const proofState = useDeskState((state) => state.proofState);
  const box = useStore(proofPlace, (place) => place.box);
  const used = useMemo(() => inUse(proofState), [proofState]);
  const turn = (row: LinkRow) =>
    desk.state.set({
      hand:
        row.sentence === undefined
          ? [row.gesture === "control" ? "controls" : "charts", row.source]
          : ["links", row.sentence],
      marked: row.source,
    });
  const firstControl = matrix?.rows.find(({ gesture }) => gesture === "control");
  const sentences = /^links:\s*\n((?:[ \t-].*\n?|\s*\n)*)/m.exec(text)?.[1]?.trimEnd() ?? "";
  return (
    <Frame>
      <Left aria-labelledby="drives">
        <StationTitle id="drives">Who drives whom</StationTitle>
        {matrix && matrix.rows.length > 0 ? (
          <Matrix>
            <thead>
              <tr>
                <td />
                {matrix.targets.map(({ name, title }) => (
                  <th key={name} scope="col" title={title}>
                    <span>{title}</span>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {matrix.rows.map((row) => (
                <tr
                  key={row.selection}
                  className={`${used.has(row.selection) ? "used" : ""}${row === firstControl ? " controls" : ""}`}
                >
                  <th scope="row">
                    <Source onPress={() => turn(row)}>
                      {row.title}
                      <small>{row.gesture}</small>
                    </Source>
                  </th>
                  {row.cells.map((cell, at) => (
                    <Cell key={matrix.targets[at]?.name} cell={cell} />
                  ))}
                </tr>
              ))}
            </tbody>
          </Matrix>
        ) : (
          <Quiet as="p" style={{ paddingTop: 12 }}>
            Nothing drives anything yet. Write links: into the sheet, such as - cross-filter and the name of a table.
          </Quiet>
        )}
        {sentences && <Sentences aria-label="Links as written">{sentences.replace(/^ {2}/gm, "")}</Sentences>}
      </Left>
      <Right aria-label="Proof">
        <p>
          <Quiet>The dashboard as it stands: use it and its row lights up</Quiet>
        </p>
        <ProofSlot width={box && box.width > 500 ? 860 : 0} />
      </Right>
    </Frame>
  );
}
