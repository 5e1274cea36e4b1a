"use client";

import { useEffect, useState } from "react";
import { Button, Dialog, FileTrigger, Heading } from "react-aria-components";
import styled from "styled-components";
import { copyReport, saveZip } from "../desk/actions";
import { LOOK } from "../desk/desk";
import { useDesk, useDeskState } from "../desk/desk-context";
import { FOLDER_ENDINGS, takeFiles } from "../desk/take-files";
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

/** The reports that this browser keeps, each with how it looked last, and how one is thrown away. */
function useKept() {
  const { projects } = useDesk();
  const [rows, setRows] = useState<ProjectRow[]>();
  const [looks, setLooks] = useState<ReadonlyMap<string, LookRow>>(new Map());
  useEffect(() => {
    // All at once: what is pressed below the tiles must not move away under the pointer.
    Promise.all([projects.list(), projects.looks()]).then(
      ([reports, pictures]) => {
        setRows(reports);
        setLooks(pictures);
      },
      // Where the browser keeps nothing, which the foot of the page says, there is nothing to list.
      () => setRows([]),
    );
  }, [projects]);
  const remove = async ({ id }: ProjectRow) => {
    await projects.remove(id);
    setRows(await projects.list());
  };
  return { rows, looks, remove };
}

interface ReportTileProps {
  row: ProjectRow;
  look: LookRow | undefined;
  isOpen: boolean;
  onOpen: () => void;
  onRemove: () => void;
}

const titleOf = ({ text, sheetName }: ProjectRow) => /^report:\s*(.+)$/m.exec(text)?.[1] ?? sheetName;

/** One report: pressed it opens; one that is not open can be thrown away, when that is said twice. */
function ReportTile({ row, look, isOpen, onOpen, onRemove }: ReportTileProps) {
  const [isAsked, setAsked] = useState(false);
  const ground = useDeskState((state) => state.ground);
  const title = titleOf(row);
  return (
    <li>
      <Tile onPress={onOpen} {...(isOpen ? { "aria-current": "true" } : {})}>
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
        {isOpen && ", open now"}
      </small>
      {!isOpen && !isAsked && (
        <Press onPress={() => setAsked(true)} aria-label={`throw away ${title}`}>
          throw away
        </Press>
      )}
      {!isOpen && isAsked && (
        <span>
          <Press onPress={onRemove}>yes, throw {title} away</Press>{" "}
          <Press onPress={() => setAsked(false)}>keep it</Press>
        </span>
      )}
    </li>
  );
}

/** What else can be done with reports. */
function ReportsFoot() {
  const desk = useDesk();
  const close = () => desk.state.set({ dialog: undefined });
  return (
    <Foot>
      <BeginWithTable />
      <FileTrigger
        acceptedFileTypes={FOLDER_ENDINGS}
        allowsMultiple
        onSelect={(files) => files && void takeFiles(desk, [...files])}
      >
        <Press>open a sheet with its tables</Press>
      </FileTrigger>
      <FileTrigger
        acceptedFileTypes={[".zip", ".html"]}
        onSelect={(files) => files && void takeFiles(desk, [...files])}
      >
        <Press>open a .still.zip or a dashboard</Press>
      </FileTrigger>
      <Press onPress={() => void saveZip(desk)}>save this one as a zip</Press>
      <Press onPress={() => void copyReport(desk).then(close)}>copy this one</Press>
      <Press onPress={() => desk.state.set({ dialog: "versions" })}>earlier versions</Press>
      <Press onPress={() => void desk.openDemoReport().then(close)}>the demo report anew</Press>
    </Foot>
  );
}

/** Reports in this browser, each as it looked last. */
export function Reports() {
  const desk = useDesk();
  const id = useDeskState((state) => state.id);
  const { rows, looks, remove } = useKept();
  const open = async (row: ProjectRow) => {
    desk.state.set({ dialog: undefined });
    if (row.id !== id) await desk.open(row);
  };
  return (
    <Dialog aria-label="Reports">
      <StationTitle as={Heading} slot="title">
        Reports in this browser
      </StationTitle>
      <Tiles>
        {rows?.map((row) => (
          <ReportTile
            key={row.id}
            row={row}
            look={looks.get(row.id)}
            isOpen={row.id === id}
            onOpen={() => void open(row)}
            onRemove={() => void remove(row)}
          />
        ))}
      </Tiles>
      {rows && <ReportsFoot />}
    </Dialog>
  );
}
