"use client";

import { type ReactNode, useMemo } from "react";
import styled from "styled-components";
import type { KnownColumn } from "../../core/sheet/assist/knowledge";
import { useDeskState } from "../desk/desk-context";
import { Quiet } from "../frame/kit";
import { useAsked } from "./ask";
import { Distribution } from "./distribution";

const Columns = styled.aside`
  grid-row: 1 / 3;
  grid-column: 2;
  border-left: 1px solid var(--rule);
  overflow: auto;
  padding: 10px 12px;
  min-height: 0;
  /* On a small screen the picture has the room; columns are found at Tables. */
  @media (max-width: 640px) {
    display: none;
  }
  ul {
    list-style: none;
    margin-top: 6px;
  }
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 62px;
    gap: 8px;
    align-items: center;
    padding: 4px 0;
    border-bottom: 1px solid var(--rule);
    min-height: 28px;
  }
  li > span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;

/** The columns of a table as it stands behind its last step, each with how it spreads. */
export function ColumnsBeside({ table, name }: { table: string; name: (column: KnownColumn) => ReactNode }) {
  const stages = useDeskState((state) => state.reply?.knowledge.tables.get(table));
  const summary = useAsked((call) => (table ? call.summary(table, (stages?.length ?? 1) - 1) : undefined), [table]);
  const summaries = useMemo(() => new Map(summary), [summary]);
  return (
    <Columns aria-label={`Columns of ${table}`}>
      <Quiet>columns of </Quiet>
      <b>{table}</b>
      <ul>
        {(stages?.at(-1) ?? []).map((column) => {
          const bars = summaries.get(column.name)?.bars ?? [];
          return (
            <li key={column.name}>
              {name(column)}
              {bars.length > 0 && (
                <Distribution bars={bars} width={62} height={16} label={`how ${column.name} spreads`} />
              )}
            </li>
          );
        })}
      </ul>
    </Columns>
  );
}
