"use client";

import { useEffect, useRef } from "react";
import { useDeskState } from "../desk/desk-context";

/** The package that draws is fetched with the first distribution, not with the page. */
const drawing = () => import("./distribution-chart");

/** How a column's values lie, as small as a word. */
export function Distribution({
  bars,
  width,
  height,
  label,
  lit,
}: {
  bars: readonly number[];
  width: number;
  height: number;
  label: string;
  lit?: readonly [number, number] | undefined;
}) {
  const host = useRef<HTMLDivElement>(null);
  const ground = useDeskState((state) => state.ground);
  const drawn = bars.join();
  const [from, to] = lit ?? [-1, -1];
  // biome-ignore lint/correctness/useExhaustiveDependencies: the ground decides the colour that is read from the page.
  useEffect(() => {
    const element = host.current;
    if (!element || width < 4) return;
    let takeAway: (() => void) | undefined;
    let isGone = false;
    void drawing().then(({ drawDistribution }) => {
      if (isGone) return;
      takeAway = drawDistribution(element, { bars: drawn.split(",").map(Number), width, height, lit: [from, to] });
    });
    return () => {
      isGone = true;
      takeAway?.();
    };
  }, [drawn, width, height, ground, from, to]);
  return <div ref={host} role="img" aria-label={label} style={{ width, height }} />;
}
