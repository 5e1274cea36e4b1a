"use client";

import styled from "styled-components";
import { saveZip, writeDashboard, writeEditions } from "../desk/actions";
import { useDesk, useDeskState } from "../desk/desk-context";
import { Coral, count, many, Press, Quiet, StationTitle, weight } from "../frame/kit";
import { useAsked } from "./ask";

const Frame = styled.div`
  display: grid;
  grid-template: minmax(0, 1fr) auto / minmax(0, 1fr) 250px;
  @media (max-width: 640px) {
    grid-template: minmax(0, 1fr) auto auto / minmax(0, 1fr);
  }
  height: 100%;
`;

const Packed = styled.section`
  overflow: auto;
  padding: 10px 20px;
  min-height: 0;
  table {
    border-collapse: collapse;
    width: 100%;
    margin-top: 8px;
  }
  th,
  td {
    text-align: left;
    font-weight: 400;
    padding: 4px 12px 4px 0;
    border-bottom: 1px solid var(--rule);
    vertical-align: baseline;
  }
  thead th {
    color: var(--quiet);
    border-bottom-color: var(--ink);
    position: sticky;
    top: -10px;
    background: var(--ground);
  }
  .number {
    text-align: right;
    white-space: nowrap;
  }
  tbody th {
    font-weight: 600;
  }
`;

const Bar = styled.span`
  display: inline-block;
  height: 8px;
  background: var(--bars);
  vertical-align: baseline;
`;

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

/** Publish: what leaves in the file, whether it may, and the file. */
export function PublishStation() {
  const desk = useDesk();
  const reply = useDeskState((state) => state.reply);
  const sheetName = useDeskState((state) => state.sheetName);
  const current = useDeskState((state) => state.replyText === state.text);
  const whole = useAsked((call) => call.weight(), []);
  const lines = [...(reply?.packing ?? [])].sort((a, b) => b.bytes - a.bytes);
  const heaviest = lines[0]?.bytes ?? 1;
  const data = lines.reduce((sum, { bytes }) => sum + bytes, 0);
  const errors = reply?.findings.filter(({ severity }) => severity === "error").length ?? 0;
  const warnings = reply?.findings.filter(({ severity }) => severity === "warning").length ?? 0;
  const sheetLeaves = reply?.sheetLeaves ?? true;
  const terminal = `./still build ${/^[\w.-]+$/.test(sheetName) ? sheetName : `'${sheetName.replaceAll("'", "'\\''")}'`}`;
  return (
    <Frame>
      <Packed aria-labelledby="packed">
        <StationTitle id="packed">What is in the file</StationTitle>
        <table>
          <thead>
            <tr>
              <th scope="col">column</th>
              <th scope="col">table</th>
              <th scope="col" className="number">
                rows
              </th>
              <th scope="col">kind</th>
              <th scope="col" className="number">
                bytes
              </th>
              <th scope="col">
                <span className="sr">share</span>
              </th>
              <th scope="col">needed by</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((line) => (
              <tr key={`${line.table} ${line.column}`}>
                <th scope="row">{line.column}</th>
                <td>{line.table.replaceAll("/", ", ")}</td>
                <td className="number">{count(line.rows)}</td>
                <td>{line.kind}</td>
                <td className="number">{weight(line.bytes)}</td>
                <td>
                  <Bar style={{ width: Math.max(1, (line.bytes / heaviest) * 90) }} />
                </td>
                <td>
                  <Quiet>{line.neededBy.join(", ")}</Quiet>
                  {line.smallest && (
                    <div>{`groups in place of rows; the smallest is ${line.smallest.group || "the only one"} with ${many(line.smallest.rows, "row")}`}</div>
                  )}
                </td>
              </tr>
            ))}
            <tr>
              <th scope="row">the page itself</th>
              <td>
                <Quiet>pictures, viewer, type</Quiet>
              </td>
              <td />
              <td />
              <td className="number">{whole ? weight(Math.max(0, whole.bytes - data)) : ""}</td>
              <td />
              <td>
                <Quiet>every dashboard</Quiet>
              </td>
            </tr>
          </tbody>
        </table>
      </Packed>
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
            {reply?.picturesOutside ? (
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
          <li>{`${many(lines.length, "column")} of ${many(new Set(lines.map(({ table }) => table)).size, "table")} leave; what no chart needs stays here`}</li>
        </ul>
        {reply && reply.lighter.length > 0 && (
          <>
            <StationTitle id="lighter">Lighter</StationTitle>
            <ul aria-labelledby="lighter">
              {reply.lighter.map(({ says, bytes, edits }) => (
                <li key={says}>
                  {says} <Quiet>{`about ${weight(bytes)} less`}</Quiet>{" "}
                  <Press isDisabled={!current} aria-label={`Do it: ${says}`} onPress={() => desk.edit(edits)}>
                    do it
                  </Press>
                </li>
              ))}
            </ul>
          </>
        )}
      </Checks>
      <Build aria-label="The file">
        <Write isDisabled={!reply?.ok || !current} onPress={() => void writeDashboard(desk)}>
          Write the file
        </Write>
        <span>
          {sheetName.replace(/\.still\.(?:yaml|json)$/, "")}.html, {whole ? weight(whole.bytes) : ""}{" "}
          <Quiet>{whole?.seal ? `seal ${whole.seal.slice(0, 12)}` : ""}</Quiet>
        </span>
        {reply?.editions ? (
          <Press isDisabled={!reply.ok || !current} onPress={() => void writeEditions(desk)}>
            {`write ${many(reply.editions, "edition")} as a zip`}
          </Press>
        ) : null}
        <Press onPress={() => void saveZip(desk)}>save sheet and tables as a zip</Press>
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
