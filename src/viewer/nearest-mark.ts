import type { Drawn } from "../core/chart/draw";
import type { Marks } from "../core/scene/scene";

/** A mark on the screen: which layer, which of its marks, and where it is. */
export interface Found {
  layer: number;
  mark: number;
  id: number;
  x: number;
  y: number;
  distance: number;
}

/** The middle of a mark, where its tooltip points. */
export function middleOf(marks: Marks, mark: number): { x: number; y: number } {
  if (marks.shape === "bars")
    return {
      x: (marks.x[mark] as number) + (marks.width[mark] as number) / 2,
      y: (marks.y[mark] as number) + (marks.height[mark] as number) / 2,
    };
  return { x: marks.x[mark] as number, y: marks.y[mark] as number };
}

function distanceTo(marks: Marks, mark: number, x: number, y: number, along: "x" | "y"): number {
  if (marks.shape !== "bars") return Math.hypot((marks.x[mark] as number) - x, (marks.y[mark] as number) - y);
  const [left, top, width, height] = [
    marks.x[mark] as number,
    marks.y[mark] as number,
    marks.width[mark] as number,
    marks.height[mark] as number,
  ];
  const dx = Math.max(left - x, 0, x - left - width);
  const dy = Math.max(top - y, 0, y - top - height);
  // Beside a bar, but over its place on the axis, is near enough: thin bars need not be hit.
  return along === "x" ? dx * 4 + dy * 0.05 : dy * 4 + dx * 0.05;
}

/** The nearest mark within reach of a place. Layers drawn later win where they are as near. */
export function nearestMark(drawn: Drawn, along: "x" | "y", x: number, y: number, reach = 40): Found | undefined {
  let best: Found | undefined;
  drawn.layers.forEach(({ marks }, layer) => {
    for (let mark = 0; mark < marks.ids.length; mark++) {
      const distance = distanceTo(marks, mark, x, y, along);
      if (!(distance <= reach) || (best && distance > best.distance)) continue;
      best = { layer, mark, id: marks.ids[mark] as number, distance, ...middleOf(marks, mark) };
    }
  });
  return best;
}

/** All marks that share the nearest value along x, one of each series: for a rule with its readout. */
export function marksAtX(drawn: Drawn, x: number): Found[] {
  let nearest = Number.POSITIVE_INFINITY;
  let at = Number.NaN;
  for (const { marks } of drawn.layers) {
    for (let mark = 0; mark < marks.ids.length; mark++) {
      const distance = Math.abs(middleOf(marks, mark).x - x);
      if (distance >= nearest) continue;
      nearest = distance;
      at = middleOf(marks, mark).x;
    }
  }
  const found: Found[] = [];
  const seen = new Set<string>();
  drawn.layers.forEach(({ marks }, layer) => {
    for (let mark = 0; mark < marks.ids.length; mark++) {
      const middle = middleOf(marks, mark);
      if (Math.abs(middle.x - at) > 0.01) continue;
      // Points over a line say the same thing twice.
      const key = `${marks.color[mark]} ${Math.round(middle.y * 10)}`;
      if (seen.has(key)) continue;
      seen.add(key);
      found.push({ layer, mark, id: marks.ids[mark] as number, distance: nearest, ...middle });
    }
  });
  return found;
}
