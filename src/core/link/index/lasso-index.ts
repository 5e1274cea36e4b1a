import { type Corner, isInside, type Outline, outlineOn } from "../outline";
import type { SelectionState } from "../selection";
import { type Indexer, indexerOf, type Level } from "./in-hand";
import { OUT, SOME, WHOLE } from "./row-places";
import { LEVELS, TILES, type Tiles, tileLevels } from "./tile-places";

/** An index of outlines drawn by hand: tiles that lie whole inside one are counted as they are. */
export const lassoIndexer: Indexer = indexerOf(({ plan, columns }) => {
  const { outline } = plan;
  if (!outline) return undefined;
  const [x, y] = [columns.get(outline.x), columns.get(outline.y)];
  if (x.kind === "text" || y.kind === "text") return undefined;
  const own = [x.values, y.values] as const;
  const level = ({ places, xEdges, yEdges }: Tiles): Level => ({
    places,
    cover: (state) => {
      if (!isOutline(state)) return undefined;
      const drawn = outlineOn(state.outline, outline.bends);
      return {
        parts: partsOf(drawn, xEdges, yEdges),
        columns: own,
        holds: ([xs, ys], at) => drawn.holds((xs as Float64Array)[at] as number, (ys as Float64Array)[at] as number),
      };
    },
  });
  return { from: own, hasRim: true, levels: () => tileLevels(...own, TILES, LEVELS).map(level) };
});

const isOutline = (state: SelectionState): state is SelectionState & { outline: [number, number][] } =>
  Object.entries(state).every(([part, value]) => part === "outline" || value === undefined) && !!state.outline;

/** How much of each tile an outline holds, line by line: in part wherever one of its sides may come near. */
function partsOf({ corners, bend }: Outline, xEdges: Float64Array, yEdges: Float64Array): Uint8Array {
  const [xs, ys] = [xEdges.map(bend[0]), yEdges.map(bend[1])];
  const [across, down] = [xs.length - 1, ys.length - 1];
  const parts = new Uint8Array(across * down);
  corners.forEach((corner, at) => {
    markSide(parts, [corner, corners[(at + 1) % corners.length] as Corner], xs, ys);
  });
  for (let line = 0; line < down; line++) {
    let before = SOME;
    for (let column = 0; column < across; column++) {
      const tile = line * across + column;
      if (parts[tile] !== SOME) {
        // From one tile to the next nothing changes but at a side.
        parts[tile] = before !== SOME ? before : isInside(corners, middle(xs, column), middle(ys, line)) ? WHOLE : OUT;
      }
      before = parts[tile] as number;
    }
  }
  return parts;
}

const middle = (edges: Float64Array, place: number) => ((edges[place] as number) + (edges[place + 1] as number)) / 2;

/** Marks the tiles that a side may touch, and those whose ends have no place on a bent axis. */
function markSide(parts: Uint8Array, [a, b]: readonly [Corner, Corner], xs: Float64Array, ys: Float64Array) {
  const [across, down] = [xs.length - 1, ys.length - 1];
  const near = slack(xs);
  const [left, right] = [Math.min(a[0], b[0]) - near, Math.max(a[0], b[0]) + near];
  for (let column = 0; column < across; column++) {
    const [from, to] = [xs[column] as number, xs[column + 1] as number];
    if (to < left || from > right) continue;
    const [low, high] = heights(a, b, Math.max(left, from), Math.min(right, to), slack(ys));
    for (let line = 0; line < down; line++)
      if (!((ys[line + 1] as number) < low || (ys[line] as number) > high)) parts[line * across + column] = SOME;
  }
}

/** What is as good as touching: far more than rounding, far less than a pixel. */
function slack(edges: Float64Array): number {
  const known = edges.filter((edge) => edge === edge);
  return known.length ? ((known[known.length - 1] as number) - (known[0] as number)) * 1e-9 : 0;
}

/** Between which heights a side runs from one x to another. */
function heights(a: Corner, b: Corner, from: number, to: number, near: number): [low: number, high: number] {
  const run = b[0] - a[0];
  const height = (x: number) => a[1] + ((b[1] - a[1]) * (x - a[0])) / run;
  // A side that is nearly upright is taken whole.
  const ends = Math.abs(run) > near ? [height(from), height(to)] : [a[1], b[1]];
  const [low, high] = [Math.min(a[1], b[1]), Math.max(a[1], b[1])];
  const within = ends.map((end) => (end === end ? Math.max(low, Math.min(high, end)) : Number.NaN));
  return within.some((end) => end !== end)
    ? [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY]
    : [Math.min(...within) - near, Math.max(...within) + near];
}
