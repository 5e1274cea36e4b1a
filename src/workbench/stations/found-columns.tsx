"use client";

import styled from "styled-components";
import type { KnownColumn } from "../../core/sheet/assist/knowledge";
import { count, Press, Quiet } from "../frame/kit";

const Line = styled.p`
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
  padding: 0 14px 4px 0;
`;

/** So many names are offered. */
const MOST = 8;

interface FoundColumnsProps {
  text: string;
  columns: readonly KnownColumn[];
  onPress: (column: string) => void;
}

/**
 * Columns whose names hold what is looked for, those that begin with it first; pressed, one is marked and comes
 * into sight.
 */
export function FoundColumns({ text, columns, onPress }: FoundColumnsProps) {
  const wanted = text.toLowerCase();
  const place = (name: string) => name.toLowerCase().indexOf(wanted);
  const found = columns
    .map(({ name }) => name)
    .filter((name) => place(name) >= 0)
    .sort((a, b) => Number(place(a) > 0) - Number(place(b) > 0) || a.length - b.length);
  if (found.length === 0) return <span />;
  return (
    <Line role="group" aria-label="Columns of this name">
      <Quiet>{found.length === 1 ? "column" : "columns"}:</Quiet>
      {found.slice(0, MOST).map((name) => (
        <Press key={name} onPress={() => onPress(name)}>
          {name}
        </Press>
      ))}
      {found.length > MOST && <Quiet>and {count(found.length - MOST)} more</Quiet>}
    </Line>
  );
}
