"use client";

import { ToggleButton, ToggleButtonGroup } from "react-aria-components";
import styled from "styled-components";
import { useDesk, useDeskState } from "../desk/desk-context";
import { WIDTHS, type WidthName } from "../desk/state";
import { useStore } from "../desk/store";
import { Coral, Quiet } from "../frame/kit";
import { laying, proofPlace } from "../proof/proof-place";
import { ProofSlot } from "../proof/proof-slot";

const Frame = styled.div`
  display: grid;
  grid-template-rows: 30px minmax(0, 1fr);
  height: 100%;
`;

const Head = styled.div`
  display: flex;
  align-items: center;
  gap: 18px;
  padding: 0 16px;
  border-bottom: 1px solid var(--rule);
  white-space: nowrap;
  overflow: hidden;
`;

const Widths = styled(ToggleButtonGroup)`
  display: flex;
  gap: 14px;
`;

const HeadSwitch = styled(ToggleButton)`
  font: inherit;
  background: none;
  border: 0;
  padding: 4px 0;
  color: var(--quiet);
  cursor: pointer;
  &[data-selected] {
    color: var(--ink);
    box-shadow: inset 0 -2px var(--brass);
  }
  &[data-hovered] {
    color: var(--sea);
  }
`;

const Push = styled.span`
  flex: 1;
`;

const WORDS: Record<WidthName, string> = {
  fit: "as wide as here",
  desk: "desk 1280",
  tablet: "tablet 820",
  phone: "phone 390",
  paper: "paper 794",
};

/** The compiled dashboard at a width of the author's choice. */
export function PagesStation() {
  const desk = useDesk();
  const width = useDeskState((state) => state.width);
  const stale = useDeskState(
    (state) => state.update !== undefined && state.reply !== undefined && state.reply.update === undefined,
  );
  const box = useStore(proofPlace, (place) => place.box);
  const pixels = WIDTHS[width];
  const isLaying = useStore(laying, ({ on }) => on);
  const scale = box && pixels ? Math.min(1, box.width / pixels) : 1;
  return (
    <Frame>
      <Head>
        <Quiet id="width-label">shown</Quiet>
        <Widths
          aria-labelledby="width-label"
          selectionMode="single"
          disallowEmptySelection
          selectedKeys={[width]}
          onSelectionChange={(keys) => desk.state.set({ width: [...keys][0] as WidthName })}
        >
          {(Object.keys(WIDTHS) as WidthName[]).map((name) => (
            <HeadSwitch key={name} id={name}>
              {WORDS[name]}
            </HeadSwitch>
          ))}
        </Widths>
        <HeadSwitch isSelected={isLaying} onChange={(on) => laying.set({ on })}>
          lay out by hand
        </HeadSwitch>
        <Push />
        {stale ? (
          <Coral>the last good picture; the sheet as it is cannot be drawn</Coral>
        ) : (
          <Quiet>
            {pixels === 0 && box
              ? `${Math.round(box.width)} px`
              : scale < 1
                ? `at ${Math.round(scale * 100)} % of its size`
                : "true size"}
          </Quiet>
        )}
      </Head>
      <ProofSlot width={pixels} />
    </Frame>
  );
}
