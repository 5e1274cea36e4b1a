import { formulaOn, heldRange } from "../predicate";
import type { SelectionState } from "../selection";
import { axisPlaces, coverOfRange, partsOfRange } from "./axis-places";
import { type Indexed, type Indexer, indexerOf, type Level, type PartingPlan } from "./in-hand";
import { type Cover, OUT, SOME, WHOLE } from "./row-places";
import { LEVELS, TILES, type Tiles, tileLevels } from "./tile-places";

type Axis = "x" | "y";
const AXES = ["x", "y"] as const;

/** An index of a brush: along the edges of its axis, or over tiles where it has two. */
export const brushIndexer = (edges: Partial<Record<Axis, Float64Array>>): Indexer =>
  indexerOf((of) => {
    const axes = AXES.filter((axis) => edges[axis]);
    const values = axes.map((axis) => valuesOn(of, axis));
    if (values.includes(undefined)) return undefined;
    const [first, second] = values as Float64Array[];
    if (!first) return undefined;
    if (second) return inTiles(of, first, second);
    const [axis] = axes as [Axis];
    return alongAxis(of, axis, first, edges[axis] as Float64Array);
  });

/** The values of an axis that a selection goes by now; none where these are texts. */
export function valuesOn({ plan, columns, state }: Indexed, axis: Axis): Float64Array | undefined {
  const formula = formulaOn(plan, state, axis);
  const column = formula && columns.get(formula);
  return column && column.kind !== "text" ? column.values : undefined;
}

/** The range that a state holds on an axis, where that shows what it showed when the index was made. */
function rangeOn({ plan, columns, state: made }: Indexed, state: SelectionState, axis: Axis) {
  const formula = formulaOn(plan, state, axis);
  const range = state[axis];
  if (!range || !formula || formula !== formulaOn(plan, made, axis)) return undefined;
  return heldRange(plan, columns.get(formula).kind, range);
}

/** True for a state of ranges on just these axes. */
const isOn = (state: SelectionState, axes: readonly Axis[]) =>
  !(state.keys || state.rows || state.outline || state.search || state.conditions) &&
  AXES.every((axis) => (state[axis] !== undefined) === axes.includes(axis));

/** Rows parted by the edges of one axis. */
export function alongAxis(of: Indexed, axis: Axis, values: Float64Array, edges: Float64Array): PartingPlan {
  return {
    from: [values, edges],
    hasRim: false,
    levels: () => [
      {
        places: axisPlaces(values, edges),
        cover: (state) => {
          const range = isOn(state, [axis]) ? rangeOn(of, state, axis) : undefined;
          return range && coverOfRange(values, edges, range);
        },
      },
    ],
  };
}

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
    levels: () => {
      return tileLevels(x, y, TILES, LEVELS).map(level);
    },
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
