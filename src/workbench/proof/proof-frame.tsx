"use client";

import { type RefObject, useCallback, useEffect, useRef } from "react";
import styled from "styled-components";
import type { ProofUpdate } from "../../viewer/proof/exchange";
import type { Desk } from "../desk/desk";
import { useDesk, useDeskState } from "../desk/desk-context";
import { useStore } from "../desk/store";
import { setDragging } from "../frame/drop-anywhere";
import { ProofFrames, type ProofMessage } from "./frames";
import { LayPage } from "./lay-page";
import { laying, lighting, proofPlace } from "./proof-place";

const Host = styled.div`
  position: absolute;
  overflow: auto;
  background: var(--ground);
`;

const Stack = styled.div`
  position: relative;
  transform-origin: 0 0;
`;

const Fill = styled.div`
  position: absolute;
  inset: 0;
`;

/** Does what the dashboard in the frame tells of. */
function hear(desk: Desk, message: ProofMessage) {
  if (message.stillHarbor === "state") desk.state.set({ proofState: message.hash ?? "" });
  else if (message.stillHarbor === "left" && message.left) desk.state.set({ proofLeft: message.left });
  else if (message.stillHarbor === "part" && message.part) desk.state.set({ part: message.part });
  else if (message.stillHarbor === "tracks") laying.set({ tracks: message.tracks });
  else if (message.stillHarbor === "drag") setDragging(true);
  else if (message.stillHarbor === "piece" && message.piece) desk.atPiece(message.piece);
  else if (message.stillHarbor === "key" && typeof message.key === "string") {
    const { key, ctrlKey, altKey, shiftKey } = message;
    const held = { ctrlKey: ctrlKey === true, altKey: altKey === true, shiftKey: shiftKey === true };
    document.dispatchEvent(new KeyboardEvent("keydown", { key, ...held, cancelable: true }));
  }
}

/** The file as it would be written now; what it weighs is said. */
async function writtenFile(desk: Desk) {
  const written = await desk.file();
  if (written) {
    const weight = new Blob([written.file]).size;
    desk.state.set({ weight });
    void desk.keepLook(weight);
  }
  return written?.proof;
}

/** The frames of the proof in a place of the page. */
const framesIn = (desk: Desk, place: HTMLElement) =>
  new ProofFrames(place, {
    said: (message) => hear(desk, message),
    answers: (send) => {
      desk.ended();
      send({ stillHarbor: "tracks", on: laying.get().on });
      send({ stillHarbor: "alone", piece: proofPlace.get().alone });
      send({ stillHarbor: "light", ...lighting.get() });
    },
    state: () => desk.state.get().proofState,
    file: () => writtenFile(desk),
    columns: async (stamps) => desk.builder.call?.columns(stamps),
    problem: (problem) => desk.state.set({ problem }),
  });

/** Keeps frames in a place, in which each new plan is shown, and answers by what they are told of other things. */
function useFrames(desk: Desk, stack: RefObject<HTMLDivElement | null>) {
  const update = useDeskState((state) => state.update);
  const id = useDeskState((state) => state.id);
  const box = useStore(proofPlace, (place) => place.box);
  const frames = useRef<ProofFrames>(undefined);
  // A proof that nobody sees need not be made; the newest one is, as soon as it is looked at.
  const wanted = box === undefined ? undefined : update;
  const made = useRef<ProofUpdate>(undefined);
  const report = useRef<string>(undefined);
  // Told before its first plan is shown: a plan may be there sooner than an effect of the report's name.
  const begin = useCallback(() => {
    const { id: opened } = desk.state.get();
    if (!opened || opened === report.current) return;
    report.current = opened;
    // Another report begins with nothing selected.
    desk.state.set({ proofState: "", proofLeft: {} });
    frames.current?.forget();
  }, [desk]);
  useEffect(() => {
    if (!stack.current) return;
    const own = framesIn(desk, stack.current);
    frames.current = own;
    made.current = undefined;
    desk.onProof = (next) => {
      if (proofPlace.get().box === undefined || next === made.current) return false;
      made.current = next;
      begin();
      own.show(next);
      return true;
    };
    return () => {
      desk.onProof = undefined;
      own.close();
    };
  }, [desk, stack, begin]);
  useEffect(() => {
    if (id) begin();
  }, [begin, id]);
  useEffect(() => {
    if (wanted === undefined || wanted === made.current) return;
    made.current = wanted;
    frames.current?.show(wanted);
  }, [wanted]);
  return useCallback((message: Parameters<ProofFrames["send"]>[0]) => frames.current?.send(message), []);
}

/**
 * The proof: the real dashboard in a frame without an origin, for all stations one and the same.
 * What the reader has selected goes along from build to build.
 */
export function ProofFrame() {
  const desk = useDesk();
  const station = useDeskState((state) => state.station);
  const marked = useDeskState((state) => state.marked);
  const { box, alone, width, fit } = useStore(proofPlace, (place) => place);
  const stack = useRef<HTMLDivElement>(null);
  const send = useFrames(desk, stack);

  useEffect(() => send({ stillHarbor: "alone", piece: alone }), [send, alone]);
  useEffect(() => {
    send({ stillHarbor: "mark", piece: station === "pages" || station === "links" ? marked : undefined });
  }, [send, marked, station]);

  const lit = useStore(lighting, (all) => all);
  useEffect(() => send({ stillHarbor: "light", ...lit }), [send, lit]);

  const isLaying = useStore(laying, ({ on }) => on);
  useEffect(() => send({ stillHarbor: "tracks", on: isLaying }), [send, isLaying]);

  const scale = box && width > 0 && fit ? Math.min(1, box.width / width) : 1;
  const outer = box
    ? { left: box.left, top: box.top, width: box.width, height: box.height }
    : { left: 0, top: 0, width: 0, height: 0, visibility: "hidden" as const };
  const inner =
    width > 0
      ? {
          width,
          height: box ? box.height / scale : 0,
          transform: scale < 1 ? `scale(${scale})` : undefined,
          margin: box && scale === 1 && width < box.width ? "0 auto" : undefined,
        }
      : { width: "100%", height: "100%" };
  return (
    <Host style={outer} data-testid="proof">
      <Stack style={inner}>
        <Fill ref={stack} />
        {isLaying && station === "pages" && <LayPage />}
      </Stack>
    </Host>
  );
}
