import { partsOfRange } from "./axis-places";
import { isOn, rangeOn, valuesOn } from "./brush-index";
import { type Indexed, type Indexer, indexerOf, type Level, type PartingPlan } from "./in-hand";
import { type Cover, OUT, SOME, WHOLE } from "./row-places";
import { LEVELS, TILES, type Tiles, tileLevels } from "./tile-places";

const AXES = ["x", "y"] as const;

/** An index of a brush with two axes, over tiles of their plane. */
export const boxIndexer: Indexer = indexerOf((of) => {
  const [x, y] = AXES.map((axis) => valuesOn(of, axis));
  return x && y && inTiles(of, x, y);
});

function inTiles(of: Indexed, x: Float64Array, y: Float64Array): PartingPlan {
  const level = ({ places, xEdges, yEdges }: Tiles): Level => ({
    places,
    cover: (state) => {
      const [across, down] = isOn(state, AXES) ? AXES.map((axis) => rangeOn(of, state, axis)) : [];
      if (!across || !down) return undefined;
      return {
        parts: crossed(partsOfRange(xEdges, ...across), partsOfRange(yEdges, ...down)),
        columns: [x, y],
        holds: ([xs, ys], at) =>
          isWithin((xs as Float64Array)[at] as number, across) && isWithin((ys as Float64Array)[at] as number, down),
      };
    },
  });
  return {
    from: [x, y],
    hasRim: true,
    levels: () => tileLevels(x, y, TILES, LEVELS).map(level),
  };
}

const isWithin = (value: number, [low, high]: readonly [number, number]) => value >= low && value < high;

/** How much of each tile is held, line by line, where columns and lines are held so. */
function crossed(columns: Uint8Array, lines: Uint8Array): Cover["parts"] {
  const parts = new Uint8Array(columns.length * lines.length);
  lines.forEach((line, y) => {
    if (line === OUT) return;
    columns.forEach((column, x) => {
      if (column !== OUT) parts[y * columns.length + x] = line === WHOLE && column === WHOLE ? WHOLE : SOME;
    });
  });
  return parts;
}
