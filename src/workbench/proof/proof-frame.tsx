"use client";

import { useEffect, useRef } from "react";
import styled from "styled-components";
import { useDesk, useDeskState } from "../desk/desk-context";
import { useStore } from "../desk/store";
import { proofPlace } from "./proof-place";

const Host = styled.div`
  position: absolute;
  overflow: auto;
  background: var(--ground);
`;

const Stack = styled.div`
  position: relative;
  transform-origin: 0 0;
`;

const TITLE = "The dashboard as it stands";
const FRAME = "position:absolute;inset:0;width:100%;height:100%;border:0;";

interface Message {
  stillHarbor?: string;
  hash?: string;
  piece?: string;
  key?: string;
  ctrlKey?: boolean;
  altKey?: boolean;
  shiftKey?: boolean;
}

/**
 * The proof: the real dashboard in a frame without an origin. Each build goes into a new frame
 * behind the one in sight, which is taken away only when the new one answers, so nothing flickers;
 * what the reader has selected goes along in the address, and the place that was scrolled to.
 */
export function ProofFrame() {
  const desk = useDesk();
  const html = useDeskState((state) => state.html);
  const station = useDeskState((state) => state.station);
  const id = useDeskState((state) => state.id);
  const marked = useDeskState((state) => state.marked);
  const { box, alone, width, fit } = useStore(proofPlace, (place) => place);
  const stack = useRef<HTMLDivElement>(null);
  const shown = useRef<HTMLIFrameElement>(undefined);
  const aloneNow = useRef(alone);
  aloneNow.current = alone;
  const hidden = box === undefined;
  // A proof that nobody sees need not be made; the newest one is, as soon as it is looked at.
  const wanted = hidden ? undefined : html;
  const made = useRef<string>(undefined);

  useEffect(() => {
    // Another report begins with nothing selected.
    if (!id) return;
    desk.state.set({ proofState: "" });
    made.current = undefined;
  }, [desk, id]);

  useEffect(() => {
    const host = stack.current;
    if (!host || wanted === undefined || wanted === made.current) return;
    const frame = document.createElement("iframe");
    frame.setAttribute("sandbox", "allow-scripts allow-downloads allow-modals");
    // A frame that is still being made is nobody's business.
    frame.setAttribute("aria-hidden", "true");
    frame.tabIndex = -1;
    frame.style.cssText = `${FRAME}visibility:hidden`;
    const listen = (event: MessageEvent<Message | null>) => {
      const data = event.data;
      if (event.source !== frame.contentWindow || !data) return;
      if (data.stillHarbor === "shell") frame.contentWindow?.postMessage({ stillHarbor: "proof", html: wanted }, "*");
      else if (data.stillHarbor === "state" && shown.current === frame) desk.state.set({ proofState: data.hash ?? "" });
      else if (data.stillHarbor === "key" && typeof data.key === "string") {
        const { key, ctrlKey, altKey, shiftKey } = data;
        document.dispatchEvent(new KeyboardEvent("keydown", { key, ctrlKey: ctrlKey === true, altKey: altKey === true, shiftKey: shiftKey === true, cancelable: true }));
      } else if (data.stillHarbor === "piece" && data.piece) desk.atPiece(data.piece);
      else if (data.stillHarbor === "ready") {
        frame.contentWindow?.postMessage({ stillHarbor: "alone", piece: aloneNow.current }, "*");
        // What was selected while this frame was being made is taken over too.
        frame.contentWindow?.postMessage({ stillHarbor: "restore", hash: desk.state.get().proofState }, "*");
        frame.style.visibility = "visible";
        frame.title = TITLE;
        frame.removeAttribute("aria-hidden");
        frame.removeAttribute("tabindex");
        const hadFocus = document.activeElement === shown.current;
        shown.current = frame;
        made.current = wanted;
        for (const other of [...host.children]) if (other !== frame) other.remove();
        if (hadFocus) frame.focus();
        performance.mark("still-harbor proof");
      }
    };
    window.addEventListener("message", listen);
    const { proofState } = desk.state.get();
    frame.src = `/proof${proofState ? `#${proofState}` : ""}`;
    host.append(frame);
    return () => {
      // One in sight stays, and goes on being listened to, until the next answers.
      if (shown.current !== frame) {
        window.removeEventListener("message", listen);
        frame.remove();
      } else {
        const watch = new MutationObserver(() => {
          if (frame.isConnected) return;
          window.removeEventListener("message", listen);
          watch.disconnect();
        });
        watch.observe(host, { childList: true });
      }
    };
  }, [desk, wanted]);

  useEffect(() => {
    shown.current?.contentWindow?.postMessage({ stillHarbor: "alone", piece: alone }, "*");
  }, [alone]);
  useEffect(() => {
    shown.current?.contentWindow?.postMessage({ stillHarbor: "mark", piece: station === "pages" || station === "links" ? marked : undefined }, "*");
  }, [marked, station]);

  const scale = box && width > 0 && fit ? Math.min(1, box.width / width) : 1;
  const outer = box ? { left: box.left, top: box.top, width: box.width, height: box.height } : { left: 0, top: 0, width: 0, height: 0, visibility: "hidden" as const };
  const inner = width > 0 ? { width, height: box ? box.height / scale : 0, transform: scale < 1 ? `scale(${scale})` : undefined, margin: box && scale === 1 && width < box.width ? "0 auto" : undefined } : { width: "100%", height: "100%" };
  return (
    <Host style={outer} data-testid="proof">
      <Stack ref={stack} style={inner} />
    </Host>
  );
}
