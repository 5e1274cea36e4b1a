"use client";

import styled from "styled-components";
import type { PackingLine } from "../../core/dashboard/contents";
import { type PieceWeight, weightsByPiece } from "../../core/look/weights";
import { useDesk } from "../desk/desk-context";
import { Coral, many, Press, Quiet, StationTitle, weight } from "../frame/kit";
import type { BuildReply } from "../worker/reply";

const Checks = styled.section`
  border-left: 1px solid var(--rule);
  padding: 10px 16px;
  overflow: auto;
  ul {
    list-style: none;
    margin-top: 8px;
  }
  li {
    padding: 5px 0;
    border-bottom: 1px solid var(--rule);
  }
  b {
    color: var(--moss);
    font-weight: 600;
  }
  ul + h2 {
    margin-top: 20px;
  }
`;

/** What of the report's tables leaves in columns and groups; the sheet's text and pictures are told elsewhere. */
function leavingColumns(packing: readonly PackingLine[]): string {
  const columns = packing.filter(({ beside }) => !beside);
  const tables = new Set(columns.map(({ table }) => table));
  const groups = [...tables].filter((table) => table.includes("/groups")).length;
  const what = groups
    ? `${many(tables.size - groups, "table")} and ${many(groups, "table")} of groups`
    : many(tables.size, "table");
  return `${many(columns.length, "column")} of ${what} leave; what no chart needs stays here`;
}

/** Whether the file may leave, what would make it lighter, and what each piece of it weighs. */
export function PublishChecks({ reply, current }: { reply: BuildReply; current: boolean }) {
  const { findings, packing, picturesOutside, sheetLeaves, lighter, pieces, controls } = reply;
  const errors = findings.filter(({ severity }) => severity === "error").length;
  const warnings = findings.filter(({ severity }) => severity === "warning").length;
  const weights = weightsByPiece(packing, new Set([...pieces.map(({ name }) => name), ...controls]));
  return (
    <Checks aria-labelledby="checks">
      <StationTitle id="checks">Checks</StationTitle>
      <ul>
        <li>
          {errors ? (
            <Coral>{errors} to mend before anything is written</Coral>
          ) : (
            <>
              <b>passes</b> nothing to mend
            </>
          )}
        </li>
        <li>
          {warnings ? (
            <>{many(warnings, "warning")}; the file can be written all the same</>
          ) : (
            <>
              <b>passes</b> nothing unused
            </>
          )}
        </li>
        <li>
          {picturesOutside ? (
            <Coral>pictures in tables are fetched from their addresses whenever somebody reads the file</Coral>
          ) : (
            "the file's own policy lets it ask for nothing from any network"
          )}
        </li>
        <li>
          {sheetLeaves ? (
            "the sheet's text goes along, so that the file can be worked on again"
          ) : (
            <>
              <b>left out</b> the sheet's text stays here
            </>
          )}
        </li>
        <li>{leavingColumns(packing)}</li>
      </ul>
      {lighter.length > 0 && <LighterWays ways={lighter} current={current} />}
      {weights.length > 0 && <Weights weights={weights} />}
    </Checks>
  );
}

function LighterWays({ ways, current }: { ways: BuildReply["lighter"]; current: boolean }) {
  const desk = useDesk();
  return (
    <>
      <StationTitle id="lighter">Lighter</StationTitle>
      <ul aria-labelledby="lighter">
        {ways.map(({ says, bytes, edits }) => (
          <li key={says}>
            {says} <Quiet>{`about ${weight(bytes)} less`}</Quiet>{" "}
            <Press isDisabled={!current} aria-label={`Do it: ${says}`} onPress={() => desk.edit(edits)}>
              do it
            </Press>
          </li>
        ))}
      </ul>
    </>
  );
}

/** What each piece weighs by the columns that it needs. */
function Weights({ weights }: { weights: readonly PieceWeight[] }) {
  return (
    <>
      <StationTitle id="by-piece">By chart</StationTitle>
      <ul aria-labelledby="by-piece">
        {weights.map(({ name, bytes, alone }) => (
          <li key={name}>
            {name} {weight(bytes)}
            {alone > 0 && <Quiet>{`, ${weight(alone)} for it alone`}</Quiet>}
          </li>
        ))}
      </ul>
    </>
  );
}
