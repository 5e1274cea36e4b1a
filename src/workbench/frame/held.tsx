"use client";

import { useEffect, useState } from "react";
import styled from "styled-components";
import { saveFile, saveZip } from "../desk/actions";
import { useDesk, useDeskState } from "../desk/desk-context";
import { Press, Quiet, StationTitle, weight } from "./kit";

const Board = styled.section`
  position: absolute;
  inset: 0;
  z-index: 3;
  overflow: auto;
  padding: 40px clamp(16px, 6vw, 72px);
  background: var(--ground);
  p {
    max-width: 60ch;
    margin: 8px 0 0;
  }
  table {
    border-collapse: collapse;
    margin: 12px 0 20px;
  }
  td,
  th {
    text-align: left;
    font-weight: 400;
    padding: 4px 24px 4px 0;
    border-bottom: 1px solid var(--rule);
  }
`;

const Ways = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 24px;
  padding: 16px 0 24px;
`;

/** Bytes of each file of the report, as far as the browser has them. */
function useSizes(files: ReadonlyMap<string, string>): ReadonlyMap<string, number> {
  const desk = useDesk();
  const [sizes, setSizes] = useState<ReadonlyMap<string, number>>(new Map());
  useEffect(() => {
    let over = false;
    void Promise.all([...files].map(async ([path, hash]) => [path, (await desk.bytes(hash))?.length] as const)).then(
      (found) => {
        if (!over) setSizes(new Map(found.filter((one): one is [string, number] => one[1] !== undefined)));
      },
    );
    return () => {
      over = true;
    };
  }, [desk, files]);
  return sizes;
}

/**
 * A report whose last compile brought the page down is opened without compiling: its text stands in
 * the sheet, its files here, and nothing is begun until the author says so.
 */
export function Held() {
  const desk = useDesk();
  const held = useDeskState((state) => state.held);
  const files = useDeskState((state) => state.files);
  const sizes = useSizes(files);
  if (!held) return null;
  return (
    <Board role="alert" aria-labelledby="held">
      <StationTitle id="held">This report was opened without compiling it</StationTitle>
      <p>
        The last time, the page came to its end in the middle of that. Nothing is lost: the sheet's text stands at the
        left and can be changed, and its files are here. If a step or formula was the cause, take it out first.
      </p>
      <Ways>
        <Press onPress={() => desk.release()}>compile it now</Press>
        <Press onPress={() => desk.state.set({ dialog: "versions" })}>earlier versions</Press>
        <Press onPress={() => void saveZip(desk)}>save all as a zip</Press>
        <Press onPress={() => desk.state.set({ dialog: "reports" })}>another report</Press>
      </Ways>
      {files.size > 0 && (
        <table aria-label="Files of the report">
          <tbody>
            {[...files].map(([path, hash]) => (
              <tr key={path}>
                <th scope="row">{path}</th>
                <td>
                  <Quiet>{sizes.has(path) ? weight(sizes.get(path) as number) : ""}</Quiet>
                </td>
                <td>
                  <Press aria-label={`save ${path}`} onPress={() => void saveFile(desk, path, hash)}>
                    save
                  </Press>
                </td>
                <td>
                  <Press aria-label={`take ${path} out`} onPress={() => desk.edit([], [{ path, hash: undefined }])}>
                    take out
                  </Press>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Board>
  );
}
