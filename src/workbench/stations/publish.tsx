"use client";

import styled from "styled-components";
import { saveZip, writeDashboard, writeEditions } from "../desk/actions";
import { useDesk, useDeskState } from "../desk/desk-context";
import { many, Press, Quiet, weight } from "../frame/kit";
import { useAsked } from "./ask";
import { PackingTable } from "./packing-table";
import { PublishChecks } from "./publish-checks";

const Frame = styled.div`
  display: grid;
  grid-template: minmax(0, 1fr) auto / minmax(0, 1fr) 250px;
  @media (max-width: 640px) {
    grid-template: minmax(0, 1fr) auto auto / minmax(0, 1fr);
  }
  height: 100%;
`;

const Build = styled.section`
  grid-column: 1 / -1;
  border-top: 1px solid var(--ink);
  padding: 12px 20px;
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  @media (max-width: 640px) {
    grid-template-columns: minmax(0, 1fr);
  }
  gap: 4px 28px;
  align-items: baseline;
  code {
    font-family: var(--code);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;

const Write = styled(Press)`
  font: 400 19px var(--serif);
`;

/** Other ways to take the report away, one under the other. */
const Ways = styled.div`
  display: grid;
  justify-items: start;
  gap: 4px;
`;

/** Publish: what leaves in the file, whether it may, and the file. */
export function PublishStation() {
  const desk = useDesk();
  const reply = useDeskState((state) => state.reply);
  const sheetName = useDeskState((state) => state.sheetName);
  const current = useDeskState((state) => state.replyText === state.text);
  const whole = useAsked((call) => call.weight(), []);
  const lines = [...(reply?.packing ?? [])].sort((a, b) => b.bytes - a.bytes);
  const data = lines.reduce((sum, { bytes }) => sum + bytes, 0);
  const terminal = `./still build ${/^[\w.-]+$/.test(sheetName) ? sheetName : `'${sheetName.replaceAll("'", "'\\''")}'`}`;
  return (
    <Frame>
      <PackingTable lines={lines} page={whole && Math.max(0, whole.bytes - data)} />
      {reply ? <PublishChecks reply={reply} current={current} /> : <span />}
      <Build aria-label="The file">
        <Write isDisabled={!reply?.ok || !current} onPress={() => void writeDashboard(desk)}>
          Write the file
        </Write>
        <span>
          {sheetName.replace(/\.still\.(?:yaml|json)$/, "")}.html, {whole ? weight(whole.bytes) : ""}{" "}
          <Quiet>{whole?.seal ? `seal ${whole.seal.slice(0, 12)}` : ""}</Quiet>
        </span>
        <Ways>
          {reply?.editions ? (
            <Press isDisabled={!reply.ok || !current} onPress={() => void writeEditions(desk)}>
              {`write ${many(reply.editions, "edition")} as a zip`}
            </Press>
          ) : null}
          <Press onPress={() => void saveZip(desk)}>save sheet and tables as a zip</Press>
        </Ways>
        <Quiet>the same from a terminal</Quiet>
        <code>{terminal}</code>
        <Press
          onPress={() =>
            void navigator.clipboard
              ?.writeText(terminal)
              .then(() => desk.state.set({ notice: "the terminal line is on the clipboard" }))
          }
        >
          copy
        </Press>
      </Build>
    </Frame>
  );
}
