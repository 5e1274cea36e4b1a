import { formulaOn, heldRange } from "../predicate";
import type { SelectionState } from "../selection";
import { axisPlaces, coverOfRange } from "./axis-places";
import { type Indexed, type Indexer, indexerOf, type PartingPlan } from "./in-hand";

type Axis = "x" | "y";
const AXES = ["x", "y"] as const;

/** An index of a brush along the edges of its one axis. */
export const brushIndexer = (edges: Partial<Record<Axis, Float64Array>>): Indexer =>
  indexerOf((of) => {
    const axis = edges.x ? "x" : "y";
    const values = valuesOn(of, axis);
    return values && alongAxis(of, axis, values, edges[axis] as Float64Array);
  });

/** The values of an axis that a selection goes by now; none where these are texts. */
export function valuesOn({ plan, columns, state }: Indexed, axis: Axis): Float64Array | undefined {
  const formula = formulaOn(plan, state, axis);
  const column = formula && columns.get(formula);
  return column && column.kind !== "text" ? column.values : undefined;
}

/** The range that a state holds on an axis, where that shows what it showed when the index was made. */
export function rangeOn({ plan, columns, state: made }: Indexed, state: SelectionState, axis: Axis) {
  const formula = formulaOn(plan, state, axis);
  const range = state[axis];
  if (!range || !formula || formula !== formulaOn(plan, made, axis)) return undefined;
  return heldRange(plan, columns.get(formula).kind, range);
}

/** True for a state of ranges on just these axes. */
export const isOn = (state: SelectionState, axes: readonly Axis[]) =>
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
