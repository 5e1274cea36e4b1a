"use client";

import { FileTrigger } from "react-aria-components";
import { useDesk } from "../desk/desk-context";
import { FOLDER_ENDINGS, takeFiles } from "../desk/take-files";
import { Press } from "./kit";

/** Makes a report of its own of tables that its reader chooses. */
export function BeginWithTable() {
  const desk = useDesk();
  return (
    <FileTrigger
      acceptedFileTypes={FOLDER_ENDINGS}
      allowsMultiple
      onSelect={(files) => files && void takeFiles(desk, [...files], true)}
    >
      <Press>begin with my own table</Press>
    </FileTrigger>
  );
}
