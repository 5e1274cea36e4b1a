"use client";

import { useEffect, useState } from "react";
import {
  Autocomplete,
  Dialog,
  Heading,
  Input,
  Label,
  Menu,
  MenuItem,
  Modal,
  ModalOverlay,
  SearchField,
  useFilter,
} from "react-aria-components";
import styled from "styled-components";
import { changesBetween } from "../../core/sheet/edit/changes";
import { goBack } from "../desk/actions";
import { COMMANDS } from "../desk/commands";
import { useDesk, useDeskState } from "../desk/desk-context";
import { answerIntake } from "../desk/intake";
import { FOLDER_ENDINGS, takeFiles } from "../desk/take-files";
import type { VersionRow } from "../store/database";
import { Guide } from "./guide";
import { IntakeDialog } from "./intake-dialog";
import { Press, Quiet, StationTitle, when } from "./kit";
import { Reports } from "./reports";

const Overlay = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  background: rgb(16 32 31 / 0.35);
  display: grid;
  justify-items: center;
  align-items: start;
  padding-top: 72px;
  z-index: 50;
`;

const Box = styled(Modal)`
  background: var(--ground);
  color: var(--ink);
  border: 1px solid var(--rule);
  border-top: 3px solid var(--brass);
  width: min(640px, 92vw);
  max-height: 76vh;
  overflow: auto;
  padding: 14px 18px 16px;
  &[data-wide] {
    width: min(900px, 92vw);
  }
`;

const Find = styled(SearchField)`
  display: grid;
  position: sticky;
  top: -14px;
  background: var(--ground);
  padding-top: 4px;
  gap: 2px;
  label {
    color: var(--quiet);
  }
  input {
    background: none;
    border: 0;
    border-bottom: 1px solid var(--ink);
    padding: 4px 0;
    font-size: 15px;
  }
  input::-webkit-search-cancel-button {
    display: none;
  }
`;

const Items = styled(Menu)`
  outline: none;
  padding-top: 6px;
`;

const Item = styled(MenuItem)`
  display: flex;
  gap: 16px;
  padding: 4px 8px;
  cursor: pointer;
  outline: none;
  &[data-focused] {
    background: var(--ink);
    color: var(--ground);
  }
  &[data-disabled] {
    color: var(--quiet);
  }
  span {
    flex: 1;
  }
`;

const Rows = styled.table`
  border-collapse: collapse;
  width: 100%;
  margin-top: 10px;
  td,
  th {
    text-align: left;
    padding: 5px 12px 5px 0;
    border-bottom: 1px solid var(--rule);
    vertical-align: baseline;
    font-weight: 400;
  }
  td:last-child {
    text-align: right;
    white-space: nowrap;
    padding-right: 0;
  }
`;

function Palette() {
  const desk = useDesk();
  const { contains } = useFilter({ sensitivity: "base" });
  return (
    <Dialog aria-label="Find a command">
      <Autocomplete filter={contains}>
        <Find autoFocus>
          <Label>Find a command</Label>
          <Input placeholder="what do you want to do?" />
        </Find>
        <Items
          aria-label="Commands"
          onAction={(id) => {
            desk.state.set({ dialog: undefined });
            const command = COMMANDS.find((one) => one.id === id);
            requestAnimationFrame(() => command?.run(desk));
          }}
          disabledKeys={COMMANDS.filter((command) => command.isDisabled?.(desk)).map(({ id }) => id)}
        >
          {COMMANDS.filter(({ id }) => id !== "palette").map(({ id, label, also, keys }) => (
            <Item key={id} id={id} textValue={`${label} ${also ?? ""}`}>
              <span>{label}</span>
              {keys && <kbd>{keys}</kbd>}
            </Item>
          ))}
        </Items>
      </Autocomplete>
    </Dialog>
  );
}

function Keys() {
  const desk = useDesk();
  return (
    <Dialog aria-label="All keys">
      <StationTitle as={Heading} slot="title">
        All keys
      </StationTitle>
      <p>
        How the work goes from a table to a file is told in{" "}
        <Press onPress={() => desk.state.set({ dialog: "guide" })}>the guide</Press>.
      </p>
      <Rows>
        <tbody>
          {COMMANDS.filter(({ keys }) => keys).map(({ id, label, keys }) => (
            <tr key={id}>
              <th scope="row">{label}</th>
              <td>
                <kbd>{keys}</kbd>
              </td>
            </tr>
          ))}
          <tr>
            <th scope="row">In the sheet: proposals for what could stand here</th>
            <td>
              <kbd>Ctrl Space</kbd>
            </td>
          </tr>
          <tr>
            <th scope="row">In the sheet: find, and exchange</th>
            <td>
              <kbd>Ctrl F</kbd>
            </td>
          </tr>
          <tr>
            <th scope="row">In the sheet: a further cursor at the next same word</th>
            <td>
              <kbd>Ctrl D</kbd>
            </td>
          </tr>
        </tbody>
      </Rows>
    </Dialog>
  );
}

function Versions() {
  const desk = useDesk();
  const id = useDeskState((state) => state.id);
  const text = useDeskState((state) => state.text);
  const [versions, setVersions] = useState<VersionRow[]>();
  useEffect(() => {
    void desk.projects.versions(id).then(setVersions);
  }, [desk, id]);
  return (
    <Dialog aria-label="Earlier versions">
      <StationTitle as={Heading} slot="title">
        Earlier versions
      </StationTitle>
      {versions?.length === 0 && (
        <Quiet as="p">
          None yet: one is kept at the first change, before a file is replaced, and whenever the file is written.
        </Quiet>
      )}
      <Rows>
        <tbody>
          {versions?.map((version) => {
            const changes = changesBetween(version.text, text);
            return (
              <tr key={version.id}>
                <th scope="row">
                  {when(version.made)}, {version.note}
                </th>
                <td>
                  <Quiet>
                    {changes.length
                      ? `since then: ${changes.slice(0, 4).join("; ")}${changes.length > 4 ? ` and ${changes.length - 4} more` : ""}`
                      : "as now"}
                  </Quiet>
                </td>
                <td>
                  <Press
                    isDisabled={changes.length === 0}
                    onPress={() => void goBack(desk, version)}
                    aria-label={`Go back to ${when(version.made)}`}
                  >
                    go back
                  </Press>
                </td>
              </tr>
            );
          })}
        </tbody>
      </Rows>
    </Dialog>
  );
}

const CONTENT = {
  palette: Palette,
  keys: Keys,
  guide: Guide,
  reports: Reports,
  versions: Versions,
  intake: IntakeDialog,
};

/** The one dialog that is open, if one is. */
export function Dialogs() {
  const desk = useDesk();
  const name = useDeskState((state) => state.dialog);
  const Content = name && CONTENT[name];
  return (
    <>
      <Overlay
        isOpen={name !== undefined}
        onOpenChange={(open) =>
          !open && (name === "intake" ? answerIntake(desk, "keep") : desk.state.set({ dialog: undefined }))
        }
        isDismissable
      >
        <Box {...(name === "guide" ? { "data-wide": true } : {})}>{Content && <Content />}</Box>
      </Overlay>
      <input
        type="file"
        hidden
        data-pick="new"
        accept={FOLDER_ENDINGS.join()}
        multiple
        aria-label="Begin with a table"
        onChange={(event) => void takeFiles(desk, [...(event.target.files ?? [])], true)}
      />
      <input
        type="file"
        hidden
        data-pick="zip"
        accept=".zip,.html"
        aria-label="Open a zip or a dashboard"
        onChange={(event) => void takeFiles(desk, [...(event.target.files ?? [])])}
      />
    </>
  );
}
