"use client";

import styled from "styled-components";
import { wideColumns } from "../../core/advice/wide";
import type { KnownColumn } from "../../core/sheet/assist/knowledge";
import { useDesk } from "../desk/desk-context";
import { count, Press, Word } from "../frame/kit";
import { SuggestedCharts } from "./suggested-charts";

const Begun = styled.div`
  background: var(--band);
  margin-right: 14px;
  padding: 8px 12px;
  display: grid;
  gap: 6px;
  max-height: 58vh;
  --picture: 104px;
  grid-template-rows: auto auto minmax(0, 1fr);
`;

/**
 * First charts for a table that has just come in, drawn from its rows and taken in one press. A wide table is made
 * long first.
 */
export function FirstCharts({ table, columns }: { table: string; columns: readonly KnownColumn[] }) {
  const desk = useDesk();
  const wide = wideColumns(columns);
  return (
    <Begun role="region" aria-label="First charts">
      {wide.length > 0 ? (
        <p>
          {wide[0]}, {wide[1]} and {count(wide.length - 2)} more columns look like one measure in many columns. Charts
          want it in one: <Press onPress={() => desk.state.set({ tray: "long" })}>make it long</Press>
        </p>
      ) : (
        <span />
      )}
      <SuggestedCharts table={table} columns={[]} onWritten={() => desk.state.set({ station: "pages" })}>
        <Word onPress={() => desk.state.set({ begun: undefined })}>not now</Word>
      </SuggestedCharts>
    </Begun>
  );
}
