"use client";

import { useState } from "react";
import { ToggleButton } from "react-aria-components";
import styled from "styled-components";
import { useDesk, useDeskState } from "../desk/desk-context";
import { Quiet, StationTitle, Word } from "../frame/kit";
import { ColumnsBeside } from "./columns-beside";
import { SuggestedCharts } from "./suggested-charts";

const Sheet = styled.section`
  grid-row: 1 / 3;
  display: grid;
  grid-template-rows: auto auto auto minmax(0, 1fr);
  gap: 8px;
  padding: 12px 20px 0;
  min-width: 0;
  min-height: 0;
`;

const Tables = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
`;

const Name = styled(ToggleButton)`
  font: inherit;
  background: none;
  border: 0;
  border-left: 3px solid transparent;
  padding: 2px 0 2px 6px;
  text-align: left;
  cursor: pointer;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  &[data-hovered] {
    color: var(--sea);
  }
  &[data-selected] {
    border-left-color: var(--brass);
    font-weight: 600;
  }
`;

/** More columns than this stand in no chart that is suggested. */
const MOST = 3;

/** Of which table the chart is. */
function TableChoice({ names, chosen }: { names: readonly string[]; chosen: string }) {
  const desk = useDesk();
  return (
    <Tables role="toolbar" aria-label="Table that it is drawn from">
      {names.map((name) => (
        <Word
          key={name}
          aria-pressed={name === chosen}
          onPress={() => desk.state.set({ table: name, stage: undefined })}
        >
          {name}
        </Word>
      ))}
    </Tables>
  );
}

/** A chart that is not there yet: columns are pressed, and what could be drawn of them stands here as pictures. */
export function NewChart({ isFirst }: { isFirst: boolean }) {
  const desk = useDesk();
  const tables = useDeskState((state) => state.reply?.tables) ?? [];
  const wanted = useDeskState((state) => state.table);
  const names = tables.map(({ name }) => name);
  const table = names.find((name) => name === wanted) ?? names.at(-1);
  const [pressed, setPressed] = useState<{ of: string; columns: readonly string[] }>({ of: "", columns: [] });
  if (table === undefined)
    return (
      <Quiet as="p" style={{ padding: 40 }}>
        A chart is drawn from a table: add one at Tables.
      </Quiet>
    );
  const columns = pressed.of === table ? pressed.columns : [];
  const toggle = (name: string) => {
    const rest = columns.filter((own) => own !== name);
    setPressed({ of: table, columns: rest.length < columns.length ? rest : [...rest, name].slice(-MOST) });
  };
  return (
    <>
      <Sheet aria-label="New chart">
        <StationTitle>{isFirst ? "First charts" : "New chart"}</StationTitle>
        {tables.length > 1 ? <TableChoice names={names} chosen={table} /> : <span />}
        <SuggestedCharts
          table={table}
          columns={columns}
          onWritten={(first) => desk.state.set({ isAdding: false, ...(first === undefined ? {} : { piece: first }) })}
        >
          <Quiet>
            {columns.length
              ? `with ${columns.join(" and ")}`
              : "as rows and kinds suggest; press one or two columns for charts of those"}
          </Quiet>
          {columns.length > 0 && <Word onPress={() => setPressed({ of: table, columns: [] })}>of all columns</Word>}
        </SuggestedCharts>
      </Sheet>
      <ColumnsBeside
        table={table}
        name={({ name }) => (
          <Name isSelected={columns.includes(name)} onChange={() => toggle(name)}>
            {name}
          </Name>
        )}
      />
    </>
  );
}
