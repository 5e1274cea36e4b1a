"use client";

import { useEffect, useRef } from "react";
import styled from "styled-components";
import type { ProofUpdate } from "../../viewer/proof/exchange";
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

/**
 * The proof: the real dashboard in a frame without an origin, for all stations one and the same.
 * What the reader has selected goes along from build to build.
 */
export function ProofFrame() {
  const desk = useDesk();
  const update = useDeskState((state) => state.update);
  const station = useDeskState((state) => state.station);
  const id = useDeskState((state) => state.id);
  const marked = useDeskState((state) => state.marked);
  const { box, alone, width, fit } = useStore(proofPlace, (place) => place);
  const stack = useRef<HTMLDivElement>(null);
  const frames = useRef<ProofFrames>(undefined);
  // A proof that nobody sees need not be made; the newest one is, as soon as it is looked at.
  const wanted = box === undefined ? undefined : update;
  const made = useRef<ProofUpdate>(undefined);

  useEffect(() => {
    if (!stack.current) return;
    const said = (message: ProofMessage) => {
      if (message.stillHarbor === "state") desk.state.set({ proofState: message.hash ?? "" });
      else if (message.stillHarbor === "left" && message.left) desk.state.set({ proofLeft: message.left });
      else if (message.stillHarbor === "part" && message.part) desk.state.set({ part: message.part });
      else if (message.stillHarbor === "tracks") laying.set({ tracks: message.tracks });
      else if (message.stillHarbor === "drag") setDragging(true);
      else if (message.stillHarbor === "piece" && message.piece) desk.atPiece(message.piece);
      else if (message.stillHarbor === "key" && typeof message.key === "string") {
        const { key, ctrlKey, altKey, shiftKey } = message;
        document.dispatchEvent(
          new KeyboardEvent("keydown", {
            key,
            ctrlKey: ctrlKey === true,
            altKey: altKey === true,
            shiftKey: shiftKey === true,
            cancelable: true,
          }),
        );
      }
    };
    const own = new ProofFrames(stack.current, {
      said,
      answers: (send) => {
        desk.ended();
        send({ stillHarbor: "tracks", on: laying.get().on });
        send({ stillHarbor: "alone", piece: proofPlace.get().alone });
        send({ stillHarbor: "light", ...lighting.get() });
      },
      state: () => desk.state.get().proofState,
      file: async () => {
        const written = await desk.file();
        if (written) {
          const weight = new Blob([written.file]).size;
          desk.state.set({ weight });
          void desk.keepLook(weight);
        }
        return written?.proof;
      },
      columns: async (stamps) => desk.builder.call?.columns(stamps),
      problem: (problem) => desk.state.set({ problem }),
    });
    frames.current = own;
    made.current = undefined;
    desk.onProof = (next) => {
      if (proofPlace.get().box === undefined || next === made.current) return false;
      made.current = next;
      own.show(next);
      return true;
    };
    return () => {
      desk.onProof = undefined;
      own.close();
    };
  }, [desk]);

  useEffect(() => {
    // Another report begins with nothing selected.
    if (!id) return;
    desk.state.set({ proofState: "", proofLeft: {} });
    frames.current?.forget();
  }, [desk, id]);

  useEffect(() => {
    if (wanted === undefined || wanted === made.current) return;
    made.current = wanted;
    frames.current?.show(wanted);
  }, [wanted]);

  useEffect(() => frames.current?.send({ stillHarbor: "alone", piece: alone }), [alone]);
  useEffect(() => {
    frames.current?.send({
      stillHarbor: "mark",
      piece: station === "pages" || station === "links" ? marked : undefined,
    });
  }, [marked, station]);

  const lit = useStore(lighting, (all) => all);
  useEffect(() => frames.current?.send({ stillHarbor: "light", ...lit }), [lit]);

  const isLaying = useStore(laying, ({ on }) => on);
  useEffect(() => frames.current?.send({ stillHarbor: "tracks", on: isLaying }), [isLaying]);

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
