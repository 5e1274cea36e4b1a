"use client";

import { useEffect, useRef } from "react";
import type { Cells } from "../../core/page/grid-edit";
import type { PagePlan } from "../../core/page/page";
import type { ProofTracks } from "../../viewer/proof/listen";
import { useDesk } from "../desk/desk-context";

/** What the picture shows of a page at the moment. */
export interface Laid {
  page: PagePlan;
  cells: Cells;
  tracks: ProofTracks;
}

/** Carries a gesture out, now or when the picture has caught up with the sheet. */
export type InTurn = (act: (laid: Laid) => void, isRepeat?: boolean) => void;

/**
 * Gestures are made on a picture, and the picture is of the sheet as it was a moment ago: what a second press in
 * that moment would reckon from is not what stands in the text. Such a press is not lost: it waits until the picture
 * has caught up, and all are carried out in their order, each on what the one before has left.
 * @returns a key held down (`isRepeat`) does not run ahead of the picture: its repeats wait for nothing
 */
export function useInTurn(laid: Laid): InTurn {
  const desk = useDesk();
  const waiting = useRef<((laid: Laid) => void)[]>([]);
  const isCurrent = () => desk.state.get().replyText === desk.state.get().text;
  useEffect(() => {
    while (waiting.current.length && isCurrent()) waiting.current.shift()?.(laid);
  });
  return (act, isRepeat) => {
    if (!waiting.current.length && isCurrent()) act(laid);
    else if (!isRepeat) waiting.current.push(act);
  };
}
