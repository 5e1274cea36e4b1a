"use client";

import { useMemo } from "react";
import { Button, Menu, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import { writeCount } from "../../core/formula/format";
import { type EffectName, effectSpec } from "../../core/link/effects/index";
import type { LinkCell, LinkMatrix, LinkRow } from "../../core/look/matrix";
import { useDeskState } from "../desk/desk-context";
import { Choices, PlainChoice } from "../frame/choices";
import { Quiet } from "../frame/kit";

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
  tbody tr.begun th {
    box-shadow: inset 3px 0 var(--brass);
    padding-left: 8px;
  }
  tbody tr.rows {
    border-bottom-color: var(--quiet);
    color: var(--quiet);
    td {
      padding: 3px 6px;
      font-variant-numeric: tabular-nums;
    }
    td.fewer {
      color: var(--ink);
    }
  }
  tbody tr.controls {
    border-top: 2px solid var(--quiet);
  }
  td {
    text-align: center;
    padding: 4px 6px;
    white-space: nowrap;
  }
  td.nothing,
  td.nothing button {
    color: var(--quiet);
  }
  td.itself .stroke {
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

export const CellButton = styled(Button)`
  font: inherit;
  background: none;
  border: 0;
  padding: 2px 6px;
  min-width: 46px;
  min-height: 24px;
  cursor: pointer;
  &[data-hovered],
  &[aria-expanded="true"] {
    color: var(--sea);
    box-shadow: inset 0 -1px var(--sea);
  }
`;

export const Choice = styled(PlainChoice)`
  display: grid;
  grid-template-columns: 84px 1fr;
  b {
    justify-self: start;
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

/** What stands in a cell. */
function CellWord({ cell }: { cell: LinkCell }) {
  if (cell.type === "does") return cell.word;
  if (cell.type === "itself")
    return (
      <>
        <span className="stroke" />
        <i className="sr">marks its own pick</i>
      </>
    );
  return (
    <>
      <span aria-hidden="true">•</span>
      <i className="sr">{cell.type === "impossible" ? cell.reason : "nothing"}</i>
    </>
  );
}

interface CellProps {
  cell: LinkCell;
  /** Whose cell it is, for those who hear it. */
  label: string;
  /** Said by `cross-filter` alone, so that nothing is no choice. */
  isFixed: boolean;
  choose: (effect: EffectName | undefined) => void;
}

/** A cell that is pressed to say something else. */
function Cell({ cell, label, isFixed, choose }: CellProps) {
  if (cell.type === "impossible")
    return (
      <td className="impossible" title={cell.reason}>
        <i className="sr">{cell.reason}</i>
      </td>
    );
  if (cell.choices.length === 0)
    return (
      <td className={cell.type}>
        <CellWord cell={cell} />
      </td>
    );
  const current = cell.type === "does" ? cell.effect : "nothing";
  return (
    <td className={cell.type}>
      <MenuTrigger>
        <CellButton aria-label={label}>
          <CellWord cell={cell} />
        </CellButton>
        <Choices placement="bottom">
          <Menu
            aria-label={label}
            selectionMode="single"
            selectedKeys={[current]}
            disabledKeys={isFixed ? ["nothing"] : []}
            onAction={(key) => choose(key === "nothing" ? undefined : (key as EffectName))}
          >
            {cell.choices.map((name) => (
              <Choice key={name} id={name} textValue={effectSpec(name).word}>
                <b>{effectSpec(name).word}</b>
                {effectSpec(name).says}
              </Choice>
            ))}
            <Choice id="nothing" textValue="nothing">
              <b>{cell.type === "itself" ? "its own pick" : "nothing"}</b>
              {isFixed ? "cross-filter says it, below." : "It is left as it is."}
            </Choice>
          </Menu>
        </Choices>
      </MenuTrigger>
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

/** How many rows each target has left while the dashboard is used. */
function LeftRow({ targets }: { targets: LinkMatrix["targets"] }) {
  const rows = useDeskState(({ proofLeft }) => proofLeft);
  return (
    <tr className="rows">
      <th scope="row">
        <Quiet>rows left</Quiet>
      </th>
      {targets.map(({ name }) => {
        const own = rows[name];
        return (
          <td
            key={name}
            className={own && own.left < own.all ? "fewer" : ""}
            title={own && `${writeCount(own.left)} of ${writeCount(own.all)}`}
          >
            {own ? writeCount(own.left) : ""}
          </td>
        );
      })}
    </tr>
  );
}

const saidOf = (cell: LinkCell): string =>
  cell.type === "does" ? cell.word : cell.type === "itself" ? "marks its own pick" : "nothing";

interface SquareProps {
  matrix: LinkMatrix;
  /** Turns the sheet to the sentence of a row. */
  turn: (row: LinkRow) => void;
  /** Writes what a row does to a target. */
  choose: (row: LinkRow, target: string, effect: EffectName | undefined) => void;
}

/** Who drives whom as a square: sources down, targets across, each cell a word that is pressed to say another. */
export function LinkSquare({ matrix, turn, choose }: SquareProps) {
  const marked = useDeskState((state) => state.marked);
  const proofState = useDeskState((state) => state.proofState);
  const used = useMemo(() => inUse(proofState), [proofState]);
  const firstControl = matrix.rows.find(({ gesture }) => gesture === "control");
  return (
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
        <LeftRow targets={matrix.targets} />
        {matrix.rows.map((row) => (
          <tr
            key={row.selection}
            className={[
              used.has(row.selection) ? "used" : "",
              row === firstControl ? "controls" : "",
              row.source === marked ? "begun" : "",
            ].join(" ")}
          >
            <th scope="row">
              <Source onPress={() => turn(row)}>
                {row.title}
                <small>{row.gesture}</small>
              </Source>
            </th>
            {row.cells.map((cell, at) => {
              const target = matrix.targets[at];
              return (
                <Cell
                  key={target?.name}
                  cell={cell}
                  label={`${row.title}, ${row.gesture}, on ${target?.title}: ${saidOf(cell)}`}
                  isFixed={row.sentences.length === 0}
                  choose={(effect) => target && choose(row, target.name, effect)}
                />
              );
            })}
          </tr>
        ))}
      </tbody>
    </Matrix>
  );
}
