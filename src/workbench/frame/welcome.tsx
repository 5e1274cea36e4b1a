"use client";

import { useEffect, useRef } from "react";
import styled from "styled-components";
import { useDeskState } from "../desk/desk-context";
import { BeginWithTable } from "./begin-with-table";

/**
 * It is there from the first paint, so that nothing jumps when the desk is set up: whether this is a first visit is
 * written on the page before anything is painted.
 */
const Line = styled.section`
  display: none;
  html[data-first-visit] & {
    display: block;
  }
  padding: 5px 14px 6px;
  background: var(--band);
  border-bottom: 1px solid var(--rule);
`;

/** What this is, in one line over the demo report, until somebody who was never here has used it. */
export function Welcome() {
  const canUndo = useDeskState((state) => state.canUndo);
  const id = useDeskState((state) => state.id);
  const first = useRef("");
  useEffect(() => {
    first.current ||= id;
    if (canUndo || id !== first.current) delete document.documentElement.dataset.firstVisit;
  }, [canUndo, id]);
  return (
    <Line aria-label="What this is">
      Tables and a sheet become one file that answers. This is a made-up harbour; <BeginWithTable />.
    </Line>
  );
}
