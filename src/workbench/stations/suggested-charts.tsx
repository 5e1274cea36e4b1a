"use client";

import { useState } from "react";
import { Checkbox } from "react-aria-components";
import styled from "styled-components";
import { type DrawnSuggestion, SUGGESTED } from "../../core/look/suggested";
import { takeSuggestions } from "../desk/actions";
import { useDesk, useDeskState } from "../desk/desk-context";
import { count, Press, Quiet } from "../frame/kit";
import { useAsked } from "./ask";
import { PictureOf } from "./picture-of";

const Grid = styled.ul`
  list-style: none;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 0 20px;
  align-content: start;
  overflow: auto;
  min-height: 0;
  padding: 2px;
  /* Titles of one or two lines share their row, so that the pictures under them stand side by side. */
  & > li,
  & > li > * {
    display: grid;
    grid-row: span 3;
    grid-template-rows: subgrid;
    row-gap: 0;
  }
  & > li {
    margin-bottom: 12px;
  }
`;

/** A picture with its title; the line above it says whether it is taken. */
const Tile = styled(Checkbox)`
  border-top: 3px solid var(--rule);
  padding-top: 4px;
  cursor: pointer;
  /* Said by the element itself to those who do not see it. */
  &[data-selected] b::after {
    content: " ✓" / "";
    color: var(--brass);
  }
  b {
    font-weight: 600;
  }
  small {
    font-size: 12px;
    color: var(--quiet);
  }
  svg {
    display: block;
    width: 100%;
    height: var(--picture, 132px);
  }
  big {
    font: 400 27px/90px var(--serif);
  }
  &[data-selected] {
    border-top-color: var(--brass);
  }
  &:not([data-selected]) svg,
  &:not([data-selected]) big {
    opacity: 0.6;
  }
  &[data-hovered] b {
    color: var(--sea);
  }
  &[data-focus-visible] {
    outline: 2px solid var(--sea);
    outline-offset: 2px;
  }
`;

const Line = styled.p`
  display: flex;
  align-items: baseline;
  gap: 18px;
  flex-wrap: wrap;
`;

interface Props {
  table: string;
  /** Columns that stand in each of them; without any, first charts. */
  columns: readonly string[];
  /** Is told which chart was written first. */
  onWritten: (first: string | undefined) => void;
  /** What else can be done instead. */
  children?: React.ReactNode;
}

/** Charts that a table could have, drawn from its rows and ticked; those that stay so are written into the sheet. */
export function SuggestedCharts({ table, columns, onWritten, children }: Props) {
  const ground = useDeskState((state) => state.ground);
  const asked = `${table} ${columns.join("\n")}`;
  const answer = useAsked(
    async (call) => ({ asked, found: await call.suggest(table, columns, ground) }),
    [asked, ground],
  );
  // Charts of other columns do not stand there as if they were those of these.
  if (answer?.asked !== asked) return <Quiet as="p">drawing …</Quiet>;
  return (
    <Tiles
      key={asked}
      table={table}
      found={answer.found}
      isFirst={columns.length === 0}
      onWritten={onWritten}
      more={children}
    />
  );
}

function Tiles({
  table,
  found,
  isFirst,
  onWritten,
  more,
}: {
  table: string;
  found: readonly DrawnSuggestion[];
  /** First charts begin ticked; of others one is wanted mostly. */
  isFirst: boolean;
  onWritten: Props["onWritten"];
  more: React.ReactNode;
}) {
  const desk = useDesk();
  /** Those that are left out, by their places. */
  const [left, setLeft] = useState<ReadonlySet<number>>(() => new Set(isFirst ? [] : [...found.keys()].slice(1)));
  const taken = found.filter((_, at) => !left.has(at));
  const toggle = (at: number, on: boolean) => {
    const next = new Set(left);
    if (on) next.delete(at);
    else next.add(at);
    setLeft(next);
  };
  return (
    <>
      <Line>
        {found.length === 0 && <Quiet>nothing can be drawn of this</Quiet>}
        {taken.length > 0 && (
          <Press onPress={() => onWritten(takeSuggestions(desk, taken, table))}>
            write {taken.length === 1 ? "it" : count(taken.length)} into the sheet
          </Press>
        )}
        {more}
      </Line>
      <Grid aria-label="Suggested charts">
        {found.map(({ spec, why, picture }, at) => {
          const every = picture.type === "svg" ? picture.every : undefined;
          return (
            <li key={JSON.stringify(spec)}>
              <Tile isSelected={!left.has(at)} onChange={(on) => toggle(at, on)}>
                <b title={String(spec.title)}>{String(spec.title)}</b>
                <small>{every ? `one row of ${count(every)} is drawn here` : why}</small>
                <PictureOf picture={picture} height={SUGGESTED.height} />
              </Tile>
            </li>
          );
        })}
      </Grid>
    </>
  );
}
