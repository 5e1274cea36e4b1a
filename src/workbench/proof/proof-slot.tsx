"use client";

import { useLayoutEffect, useRef } from "react";
import styled from "styled-components";
import { proofPlace } from "./proof-place";

const Slot = styled.div`
  flex: 1;
  min-width: 0;
  min-height: 0;
  width: 100%;
  height: 100%;
`;

/**
 * The place that a station keeps for the proof. The proof itself is one frame for all stations and
 * is laid over this place, so that turning to another station neither reloads nor forgets anything.
 */
export function ProofSlot({
  alone,
  width = 0,
  fit = true,
}: {
  alone?: string | undefined;
  width?: number;
  fit?: boolean;
}) {
  const slot = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const element = slot.current;
    const station = element?.closest("main");
    if (!element || !station) return;
    const measure = () => {
      const own = element.getBoundingClientRect();
      const around = station.getBoundingClientRect();
      proofPlace.set({
        box: { left: own.left - around.left, top: own.top - around.top, width: own.width, height: own.height },
      });
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    observer.observe(station);
    return () => {
      observer.disconnect();
      proofPlace.set({ box: undefined });
    };
  }, []);
  useLayoutEffect(() => proofPlace.set({ alone, width, fit }), [alone, width, fit]);
  return <Slot ref={slot} />;
}
