"use client";

import styled from "styled-components";
import { copyReport } from "../desk/actions";
import { useDesk, useDeskState } from "../desk/desk-context";
import { Press } from "./kit";

const Notice = styled.p`
  position: absolute;
  z-index: 3;
  left: 0;
  right: 0;
  top: 0;
  padding: 6px 16px;
  background: var(--band);
  border-bottom: 1px solid var(--rule);
  display: flex;
  gap: 16px;
`;

/** Said while another tab has the report in hand. */
export function Following() {
  const desk = useDesk();
  const follows = useDeskState((state) => state.keeping.type === "following");
  if (!follows) return null;
  return (
    <Notice role="alert">
      <span>
        This report is being written in another tab. This one follows it, and takes over when that one is closed.
      </span>
      <Press onPress={() => void copyReport(desk)}>write in a copy</Press>
    </Notice>
  );
}
