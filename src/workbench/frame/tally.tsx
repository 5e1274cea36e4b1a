"use client";

import { useRef } from "react";
import styled from "styled-components";
import { nextFinding, saveZip } from "../desk/actions";
import { useDesk, useDeskState } from "../desk/desk-context";
import type { Progress } from "../worker/client";
import { Coral, count, many, Press, Quiet, Word, weight } from "./kit";

const Foot = styled.footer`
  grid-column: 1 / -1;
  display: flex;
  gap: 18px;
  align-items: center;
  padding: 0 14px;
  font-size: 12px;
  border-top: 1px solid var(--ink);
  white-space: nowrap;
  overflow: auto hidden;
  scrollbar-width: none;
`;

const Fact = styled(Word)`
  font-size: 12px;
  color: var(--ink);
`;

const Push = styled.span`
  flex: 1;
`;

/** Whether the report is kept, in one word; what to do where it is not. */
function Kept() {
  const desk = useDesk();
  const keeping = useDeskState((state) => state.keeping);
  if (keeping.type === "saved") return <Quiet>saved</Quiet>;
  if (keeping.type === "saving") return <Quiet>saving</Quiet>;
  if (keeping.type === "following") return <Quiet>written in another tab</Quiet>;
  return (
    <>
      <Coral>not saved: {keeping.reason}</Coral>
      <Press onPress={() => void saveZip(desk)}>save as file</Press>
    </>
  );
}

/** Seconds that what is under way will still take, if it goes on as it began; nothing below half a second. */
function useSecondsLeft(work: Progress | undefined): number | undefined {
  const begun = useRef<{ what: string; at: number }>(undefined);
  if (!work) {
    begun.current = undefined;
    return undefined;
  }
  if (begun.current?.what !== work.what) begun.current = { what: work.what, at: performance.now() };
  const gone = (performance.now() - begun.current.at) / 1000;
  if (gone < 0.5 || work.part <= 0.02) return undefined;
  return Math.max(1, Math.round((gone * (1 - work.part)) / work.part));
}

/** The line at the foot: always true, each item leads to its place. */
export function Tally() {
  const desk = useDesk();
  const reply = useDeskState((state) => state.reply);
  const bytes = useDeskState((state) => state.weight);
  const work = useDeskState((state) => state.work);
  const problem = useDeskState((state) => state.problem);
  const notice = useDeskState((state) => state.notice);
  const left = useSecondsLeft(work);
  const errors = reply?.findings.filter(({ severity }) => severity === "error") ?? [];
  const read = reply?.tables.filter(({ report }) => report) ?? [];
  const rowsIn = read.reduce((sum, { report }) => sum + (report?.rows ?? 0), 0);
  const kept = read.reduce((sum, { ledger, rowsIn: all }) => sum + (ledger.at(-1)?.rowsOut ?? all), 0);
  const first = errors[0];
  return (
    <Foot>
      {/* What is counted is read out as one line; what is under way stands beside it. */}
      <div role="status" aria-label="The report in numbers" style={{ display: "contents" }}>
        {reply && (
          <>
            <Fact onPress={() => desk.state.set({ station: "tables" })}>{many(rowsIn, "row")} in</Fact>
            <Fact onPress={() => desk.state.set({ station: "tables" })}>{count(kept)} kept</Fact>
            <Fact onPress={() => desk.state.set({ station: "charts" })}>{many(reply.pieces.length, "chart")}</Fact>
            <Fact onPress={() => desk.state.set({ station: "links" })}>{many(reply.links, "link")}</Fact>
            {bytes !== undefined && <Fact onPress={() => desk.state.set({ station: "publish" })}>{weight(bytes)}</Fact>}
            {first ? (
              <Fact onPress={() => nextFinding(desk)}>
                <Coral>{errors.length} to mend</Coral>
              </Fact>
            ) : (
              <Quiet>nothing to mend</Quiet>
            )}
          </>
        )}
        {problem && <Coral>{problem}</Coral>}
        {notice && <Quiet>{notice}</Quiet>}
      </div>
      <Push />
      {work && work.what !== "compiling" && (
        <>
          <Quiet>
            {work.what}
            {work.rows ? `, ${count(work.rows)} rows` : ""}
            {work.part > 0 ? `, ${Math.round(work.part * 100)} %` : ""}
            {left !== undefined ? `, ${left} s left` : ""}
          </Quiet>
          <Press onPress={() => desk.builder.stop()}>stop</Press>
        </>
      )}
      {work?.what === "compiling" && <Quiet>compiling</Quiet>}
      <Kept />
      <Fact onPress={() => desk.state.set({ dialog: "keys" })}>keys</Fact>
    </Foot>
  );
}
