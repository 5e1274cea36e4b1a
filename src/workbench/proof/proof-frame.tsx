"use client";

import { useEffect, useRef } from "react";
import styled from "styled-components";

const Stack = styled.div`
  position: relative;
  width: 100%;
  height: 100%;
  background: var(--ground);
`;

const frameStyle = "position:absolute;inset:0;width:100%;height:100%;border:0;";

/**
 * The proof: the real dashboard in a frame without an origin. Each build goes into a new frame
 * behind the one in sight, which is taken away only when the new one answers, so nothing flickers;
 * what the reader has selected goes along in the address.
 */
export function ProofFrame({ html, title }: { html: string | undefined; title: string }) {
  const stack = useRef<HTMLDivElement>(null);
  const state = useRef("");
  useEffect(() => {
    const host = stack.current;
    if (!host || html === undefined) return;
    const frame = document.createElement("iframe");
    frame.setAttribute("sandbox", "allow-scripts allow-downloads allow-modals");
    // A frame that is still being made is nobody's business.
    frame.setAttribute("aria-hidden", "true");
    frame.tabIndex = -1;
    frame.style.cssText = `${frameStyle}visibility:hidden`;
    const listen = (event: MessageEvent) => {
      if (event.source !== frame.contentWindow) return;
      const data = event.data as { stillHarbor?: string; hash?: string } | null;
      if (data?.stillHarbor === "shell") frame.contentWindow?.postMessage({ stillHarbor: "proof", html }, "*");
      else if (data?.stillHarbor === "state") state.current = data.hash ?? "";
      else if (data?.stillHarbor === "ready") {
        frame.style.visibility = "visible";
        frame.title = title;
        frame.removeAttribute("aria-hidden");
        frame.removeAttribute("tabindex");
        for (const other of [...host.children]) if (other !== frame) other.remove();
      }
    };
    window.addEventListener("message", listen);
    frame.src = `/proof${state.current ? `#${state.current}` : ""}`;
    host.append(frame);
    return () => {
      window.removeEventListener("message", listen);
      // A build that never came into sight leaves at once; one in sight stays until the next answers.
      if (frame.style.visibility === "hidden") frame.remove();
    };
  }, [html, title]);
  return <Stack ref={stack} data-testid="proof" />;
}
