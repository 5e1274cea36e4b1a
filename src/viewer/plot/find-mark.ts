import type { Drawn, Panel } from "../../core/chart/draw";
import type { Shape } from "../../core/scene/shapes/shape";

/** A mark on the screen: in which panel, layer and shape, which of its marks, and where it is. */
export interface Found {
  panel: number;
  layer: number;
  shape: number;
  mark: number;
  /** The group or row that it stands for. */
  id: number;
  x: number;
  y: number;
  distance: number;
}

export function shapeOf({ panels }: Drawn, { panel, layer, shape }: Omit<Found, "mark">): Shape | undefined {
  return panels[panel]?.layers[layer]?.shapes[shape];
}

/** All shapes that can be pointed at, with their places. */
function eachShape(drawn: Drawn, visit: (shape: Shape, at: Pick<Found, "panel" | "layer" | "shape">) => void) {
  drawn.panels.forEach(({ layers }, panel) => {
    layers.forEach(({ shapes }, layer) => {
      shapes.forEach((one, shape) => {
        visit(one, { panel, layer, shape });
      });
    });
  });
}

/** The nearest mark within reach of a place. Layers drawn later win where they are as near. */
export function nearestMark(drawn: Drawn, along: "x" | "y", x: number, y: number, reach = 40): Found | undefined {
  let best: Found | undefined;
  eachShape(drawn, (shape, at) => {
    for (let mark = 0; mark < shape.ids.length; mark++) {
      const distance = shape.distance(mark, x, y, along);
      if (!(distance <= reach) || (best && distance > best.distance)) continue;
      best = { ...at, mark, id: shape.ids[mark] as number, distance, ...shape.middle(mark) };
    }
  });
  return best;
}

/** Marks whose middles are no farther from one another lie at the same place, in pixels. */
const SAME_PLACE = 1;
/** Among more marks than these others at a place are not sought while the pointer moves. */
const MOST_SOUGHT = 100_000;

/** The other marks of a layer that lie at the place of one: one over the other, only the uppermost is seen. */
export function marksBeside(drawn: Drawn, found: Found): Found[] {
  const beside: Found[] = [];
  eachShape(drawn, (shape, at) => {
    if (at.layer !== found.layer || at.panel !== found.panel || shape.ids.length > MOST_SOUGHT) return;
    for (let mark = 0; mark < shape.ids.length; mark++) {
      if (at.shape === found.shape && mark === found.mark) continue;
      const middle = shape.middle(mark);
      const away = Math.hypot(middle.x - found.x, middle.y - found.y);
      if (away <= SAME_PLACE) beside.push({ ...at, mark, id: shape.ids[mark] as number, distance: away, ...middle });
    }
  });
  return beside;
}

/** All marks that share the nearest value along x, one of each series: for a rule with its readout. */
export function marksAtX(drawn: Drawn, x: number): Found[] {
  let nearest = Number.POSITIVE_INFINITY;
  let at = Number.NaN;
  eachShape(drawn, (shape) => {
    for (let mark = 0; mark < shape.ids.length; mark++) {
      const middle = shape.middle(mark).x;
      if (!(Math.abs(middle - x) < nearest)) continue;
      nearest = Math.abs(middle - x);
      at = middle;
    }
  });
  const found: Found[] = [];
  const seen = new Set<string>();
  eachShape(drawn, (shape, place) => {
    for (let mark = 0; mark < shape.ids.length; mark++) {
      const middle = shape.middle(mark);
      if (Math.abs(middle.x - at) > 0.01) continue;
      // Points over a line say the same thing twice.
      const key = `${shape.color[mark]} ${Math.round(middle.y * 10)}`;
      if (seen.has(key)) continue;
      seen.add(key);
      found.push({ ...place, mark, id: shape.ids[mark] as number, distance: nearest, ...middle });
    }
  });
  return found;
}

/** The panel under a place, else the nearest one. */
export function panelAt(drawn: Drawn, x: number, y: number): number {
  let best = 0;
  let least = Number.POSITIVE_INFINITY;
  drawn.panels.forEach(({ plot }: Panel, at) => {
    const away = Math.max(plot.x - x, 0, x - plot.x - plot.width) + Math.max(plot.y - y, 0, y - plot.y - plot.height);
    if (away < least) [best, least] = [at, away];
  });
  return best;
}
