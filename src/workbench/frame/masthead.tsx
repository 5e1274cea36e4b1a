"use client";

import { useEffect, useState } from "react";
import { Button, Input } from "react-aria-components";
import styled from "styled-components";
import { setValue } from "../../core/sheet/edit/edit";
import { useDesk, useDeskState } from "../desk/desk-context";
import { STATIONS, type Station } from "../desk/state";
import type { BuildReply } from "../worker/reply";
import { Word } from "./kit";

const Bar = styled.header`
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto minmax(0, 1fr);
  align-items: stretch;
  gap: 20px;
  padding: 0 14px;
  border-bottom: 1px solid var(--ink);
  /* Where the three do not stand side by side, the stations have a line of their own. */
  @media (max-width: 1100px) {
    grid-template-columns: minmax(90px, 1fr) auto;
    gap: 0 20px;
  }
`;

const Name = styled(Input)`
  font: 400 19px var(--serif);
  background: none;
  border: 0;
  padding: 0;
  min-width: 0;
  align-self: center;
  text-overflow: ellipsis;
  &[data-hovered] {
    box-shadow: inset 0 -1px var(--rule);
  }
  &[data-focused] {
    box-shadow: inset 0 -1px var(--ink);
  }
`;

const Stations = styled.nav`
  display: flex;
  gap: 26px;
  @media (max-width: 1100px) {
    grid-row: 2;
    grid-column: 1 / -1;
    overflow-x: auto;
    min-height: 32px;
    gap: clamp(12px, 3vw, 26px);
  }
`;

const StationWord = styled(Button)`
  font: inherit;
  background: none;
  border: 0;
  border-bottom: 3px solid transparent;
  padding: 3px 0 0;
  margin-bottom: -1px;
  cursor: pointer;
  white-space: nowrap;
  color: var(--ink);
  &[aria-current] {
    border-bottom-color: var(--brass);
    font-weight: 600;
  }
  &[data-hovered] {
    color: var(--sea);
  }
  small {
    font-size: inherit;
    font-weight: 400;
    color: var(--quiet);
  }
  em {
    font-style: normal;
    font-weight: 400;
    color: var(--coral);
  }
`;

const Right = styled.div`
  display: flex;
  gap: 14px;
  justify-content: flex-end;
  align-items: center;
  min-width: 0;
  @media (max-width: 1100px) {
    min-height: 36px;
    gap: 10px;
  }
  @media (max-width: 480px) {
    font-size: 12px;
    gap: 8px;
  }
`;

const TITLES: Record<Station, string> = {
  tables: "Tables",
  charts: "Charts",
  links: "Links",
  pages: "Pages",
  publish: "Publish",
};
const PART_STATIONS: Record<string, Station> = {
  tables: "tables",
  charts: "charts",
  controls: "charts",
  links: "links",
  pages: "pages",
};

/** How many errors each station has to mend, by the part of the sheet in which they stand. */
export function toMend(reply: BuildReply | undefined, text: string): Partial<Record<Station, number>> {
  const counts: Partial<Record<Station, number>> = {};
  for (const finding of reply?.findings ?? []) {
    if (finding.severity !== "error") continue;
    const before = text.slice(0, (finding.span?.start ?? 0) + 1);
    const part = [...before.matchAll(/^([a-z]+):/gm)].at(-1)?.[1] ?? "";
    const station = PART_STATIONS[part] ?? "pages";
    counts[station] = (counts[station] ?? 0) + 1;
  }
  return counts;
}

function counts(reply: BuildReply | undefined): Partial<Record<Station, number>> {
  return reply
    ? { tables: reply.tables.length, charts: reply.pieces.length, links: reply.links, pages: reply.pages.length }
    : {};
}

/** The report's name, edited in place: one edit of the sheet when it is left or entered. */
function ReportName() {
  const desk = useDesk();
  const report = useDeskState((state) => state.reply?.report ?? "");
  const [text, setText] = useState(report);
  useEffect(() => setText(report), [report]);
  const commit = () => {
    const name = text.trim();
    if (name && name !== report) desk.edit(setValue(desk.state.get().text, ["report"], name));
    else setText(report);
  };
  return (
    <Name
      aria-label="Name of the report"
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") setText(report);
      }}
    />
  );
}

export function Masthead() {
  const desk = useDesk();
  const station = useDeskState((state) => state.station);
  const reply = useDeskState((state) => state.reply);
  const replyText = useDeskState((state) => state.replyText);
  const canUndo = useDeskState((state) => state.canUndo);
  const canRedo = useDeskState((state) => state.canRedo);
  const ground = useDeskState((state) => state.ground);
  const report = reply?.report;
  const mend = toMend(reply, replyText);
  const have = counts(reply);
  return (
    <Bar>
      <h1 className="sr">{report ? `${report}, a report in Still Harbor` : "Still Harbor"}</h1>
      <ReportName />
      <Stations aria-label="Stations">
        {STATIONS.map((name) => (
          <StationWord
            key={name}
            {...(name === station ? { "aria-current": "page" } : {})}
            onPress={() => desk.state.set({ station: name })}
          >
            {TITLES[name]}
            {have[name] !== undefined && <small> {have[name]}</small>}
            {mend[name] !== undefined && <em> {mend[name]} to mend</em>}
          </StationWord>
        ))}
      </Stations>
      <Right>
        <Word isDisabled={!canUndo} onPress={() => desk.undo()}>
          undo
        </Word>
        <Word isDisabled={!canRedo} onPress={() => desk.redo()}>
          redo
        </Word>
        <Word onPress={() => desk.state.set({ dialog: "reports" })}>reports</Word>
        <Word onPress={() => desk.state.set({ dialog: "palette" })}>find a command</Word>
        <Word onPress={() => desk.setGround(ground === "light" ? "dark" : "light")}>
          {ground === "light" ? "dark" : "light"}
        </Word>
      </Right>
    </Bar>
  );
}
