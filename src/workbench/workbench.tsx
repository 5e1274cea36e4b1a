"use client";

import { useEffect, useState } from "react";
import styled from "styled-components";
import { Desk } from "./desk/desk";
import { DeskContext, useDeskState } from "./desk/desk-context";
import { isFolded, NARROW } from "./desk/state";
import { Dialogs } from "./frame/dialogs";
import { useDropAnywhere } from "./frame/drop-anywhere";
import { Following } from "./frame/following";
import { Held } from "./frame/held";
import { useKeys } from "./frame/keys";
import { Masthead } from "./frame/masthead";
import { Tally } from "./frame/tally";
import { Welcome } from "./frame/welcome";
import { ProofFrame } from "./proof/proof-frame";
import { SheetPane } from "./sheet/sheet-pane";
import { ChartsStation } from "./stations/charts";
import { LinksStation } from "./stations/links";
import { PagesStation } from "./stations/pages";
import { PublishStation } from "./stations/publish";
import { TablesStation } from "./stations/tables";

const Frame = styled.div<{ $folded: boolean }>`
  display: grid;
  grid-template: minmax(40px, auto) minmax(0, 1fr) 24px / ${({ $folded }) => ($folded ? "28px" : "minmax(320px, 36%)")} minmax(0, 1fr);
  height: 100vh;
  overflow: hidden;
  /* On a narrow screen there is room for the sheet or for the station, not for both. */
  @media (max-width: ${NARROW}px) {
    grid-template-columns: ${({ $folded }) => ($folded ? "28px minmax(0, 1fr)" : "minmax(0, 1fr) 0")};
  }
`;

const Top = styled.div`
  grid-column: 1 / -1;
  min-width: 0;
  display: grid;
  grid-template-rows: minmax(40px, 1fr) auto;
`;

const Main = styled.main`
  position: relative;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
`;

const STATION = {
  tables: TablesStation,
  charts: ChartsStation,
  links: LinksStation,
  pages: PagesStation,
  publish: PublishStation,
};
const NAMES = { tables: "Tables", charts: "Charts", links: "Links", pages: "Pages", publish: "Publish" };

function Bench() {
  const folded = useDeskState(isFolded);
  const station = useDeskState((state) => state.station);
  useKeys();
  useDropAnywhere();
  const Station = STATION[station];
  return (
    <Frame $folded={folded}>
      <Top>
        <Masthead />
        <Welcome />
      </Top>
      <SheetPane />
      <Main aria-label={NAMES[station]}>
        <Following />
        <Held />
        <Station />
        <ProofFrame />
      </Main>
      <Tally />
      <Dialogs />
    </Frame>
  );
}

/** A desk whose compiler starts while the page is still being made. */
function beginDesk(): Desk {
  const desk = new Desk();
  if (typeof window !== "undefined") desk.builder.warm();
  return desk;
}

/** The workbench: one desk for as long as the page lives. */
export function Workbench() {
  const [desk] = useState(beginDesk);
  const [started, setStarted] = useState(false);
  useEffect(() => {
    if (started) return;
    setStarted(true);
    void desk.start();
  }, [desk, started]);
  return (
    <DeskContext value={desk}>
      <Bench />
    </DeskContext>
  );
}
