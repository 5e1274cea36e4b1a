"use client";

import { useEffect, useState } from "react";
import { Button, Dialog, FileTrigger, Heading } from "react-aria-components";
import styled from "styled-components";
import { copyReport, saveZip, takeFiles } from "../desk/actions";
import { LOOK } from "../desk/desk";
import { useDesk, useDeskState } from "../desk/desk-context";
import type { LookRow, ProjectRow } from "../store/database";
import { BeginWithTable } from "./begin-with-table";
import { many, Press, StationTitle, weight, when } from "./kit";

const Tiles = styled.ul`
  list-style: none;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(160px, 1fr));
  gap: 18px 22px;
  margin-top: 12px;
  small {
    display: block;
    font-size: 12px;
    color: var(--quiet);
  }
`;

const Look = styled.img``;

const Tile = styled(Button)`
  font: inherit;
  color: inherit;
  display: grid;
  width: 100%;
  padding: 6px 0 2px;
  background: none;
  border: 0;
  border-top: 3px solid var(--rule);
  text-align: left;
  cursor: pointer;
  img,
  i {
    display: block;
    width: 100%;
    height: 100px;
    object-fit: contain;
    object-position: left;
  }
  i {
    font-style: normal;
    color: var(--quiet);
    line-height: 100px;
  }
  b {
    font: 400 15px/1.3 var(--serif);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  &[aria-current] {
    border-top-color: var(--brass);
  }
  &[data-hovered] b {
    color: var(--sea);
  }
`;

const Foot = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 20px;
  padding-top: 14px;
`;

/** Reports in this browser, each as it looked last. */
export function Reports() {
  const desk = useDesk();
  const id = useDeskState((state) => state.id);
  const [rows, setRows] = useState<ProjectRow[]>();
  const [asked, setAsked] = useState<string>();
  const [looks, setLooks] = useState<ReadonlyMap<string, LookRow>>(new Map());
  const ground = useDeskState((state) => state.ground);
  useEffect(() => {
    // All at once: what is pressed below the tiles must not move away under the pointer.
    Promise.all([desk.projects.list(), desk.projects.looks()]).then(
      ([reports, pictures]) => {
        setRows(reports);
        setLooks(pictures);
      },
      // Where the browser keeps nothing, which the foot of the page says, there is nothing to list.
      () => setRows([]),
    );
  }, [desk]);
  const open = async (row: ProjectRow) => {
    desk.state.set({ dialog: undefined });
    if (row.id !== id) await desk.open(row);
  };
  const remove = async (row: ProjectRow) => {
    await desk.projects.remove(row.id);
    setRows(await desk.projects.list());
    setAsked(undefined);
  };
  const titleOf = ({ text, sheetName }: ProjectRow) => /^report:\s*(.+)$/m.exec(text)?.[1] ?? sheetName;
  return (
    <Dialog aria-label="Reports">
      <StationTitle as={Heading} slot="title">
        Reports in this browser
      </StationTitle>
      <Tiles>
        {rows?.map((row) => {
          const look = looks.get(row.id);
          const title = titleOf(row);
          return (
            <li key={row.id}>
              <Tile onPress={() => void open(row)} {...(row.id === id ? { "aria-current": "true" } : {})}>
                {look?.pictures ? (
                  // A picture runs nothing, whatever stands in it.
                  <Look src={`data:image/svg+xml,${encodeURIComponent(look.pictures[ground])}`} alt="" {...LOOK} />
                ) : (
                  <i>{look ? "no chart yet" : "not looked at since"}</i>
                )}
                <b>{title}</b>
              </Tile>
              <small>
                {look ? `${many(look.rows, "row")} · ${weight(look.bytes)}` : many(row.files.length, "file")}
                <br />
                {when(row.changed)}
                {row.id === id && ", open now"}
              </small>
              {row.id !== id &&
                (asked === row.id ? (
                  <span>
                    <Press onPress={() => void remove(row)}>yes, throw {title} away</Press>{" "}
                    <Press onPress={() => setAsked(undefined)}>keep it</Press>
                  </span>
                ) : (
                  <Press onPress={() => setAsked(row.id)} aria-label={`throw away ${title}`}>
                    throw away
                  </Press>
                ))}
            </li>
          );
        })}
      </Tiles>
      {rows && (
        <Foot>
          <BeginWithTable />
          <FileTrigger
            acceptedFileTypes={[".zip", ".html"]}
            onSelect={(files) => files && void takeFiles(desk, [...files])}
          >
            <Press>open a .still.zip or a dashboard</Press>
          </FileTrigger>
          <Press onPress={() => void saveZip(desk)}>save this one as a zip</Press>
          <Press onPress={() => void copyReport(desk).then(() => desk.state.set({ dialog: undefined }))}>
            copy this one
          </Press>
          <Press onPress={() => desk.state.set({ dialog: "versions" })}>earlier versions</Press>
          <Press onPress={() => void desk.openDemoReport().then(() => desk.state.set({ dialog: undefined }))}>
            the demo report anew
          </Press>
        </Foot>
      )}
    </Dialog>
  );
}
