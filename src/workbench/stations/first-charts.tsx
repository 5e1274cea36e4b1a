"use client";

import styled from "styled-components";
import { wideColumns } from "../../core/advice/wide";
import type { KnownColumn } from "../../core/sheet/assist/knowledge";
import { takeSuggestions } from "../desk/actions";
import { useDesk } from "../desk/desk-context";
import { count, many, Press, Quiet, Word } from "../frame/kit";
import { useAsked } from "./ask";

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

/**
 * First charts for a table that has just come in: what they would be and why, taken in one press. A wide table
 * is made long first.
 */
export function FirstCharts({ table, columns }: { table: string; columns: readonly KnownColumn[] }) {
  const desk = useDesk();
  const suggestions = useAsked((call) => call.suggest(table), [table]);
  const wide = wideColumns(columns);
  if (!suggestions?.length) return null;
  return (
    <Begun role="region" aria-label="First charts">
      {wide.length > 0 && (
        <p>
          {wide[0]}, {wide[1]} and {count(wide.length - 2)} more columns look like one measure in many columns. Charts
          want it in one: <Press onPress={() => desk.state.set({ tray: "long" })}>make it long</Press>
        </p>
      )}
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
