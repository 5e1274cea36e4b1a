import type { Formula } from "../formula/tree";
import type { Kind, Scalar } from "../table/column";
import type { EffectName } from "./effects/index";
import type { GestureName } from "./gestures/index";

/** A selection as planned: who makes it, over which table, what it does to whom. */
export interface SelectionPlan {
  name: string;
  /** The piece or control that makes it. */
  source: string;
  gesture: GestureName | "control";
  /** It stays when the pointer has gone: it has a chip, stands in the address, and Escape turns it off. */
  kept: boolean;
  table: string;
  /** What a brush or range selects on: the argument of a bin or period, else the channel itself. */
  axes: { x?: Formula; y?: Formula };
  /** Columns of the keys that a click picks: canonical text to formula. */
  keys: Record<string, Formula>;
  /** What parts several values in one cell of the keys; picking any of them picks the cell. */
  split?: string;
  /** Widens to every row with the same values in these columns. */
  by: string[];
  /** A range from a control holds both its ends. */
  inclusive?: boolean;
  effects: SelectionEffect[];
  start?: SelectionState;
  /** Words for `x`, `y` and each key, for the sentence of what is selected. */
  words: Record<string, SelectionWords>;
}

export interface SelectionWords {
  label: string;
  kind: Kind;
  unit?: string;
  format?: string;
  /** A period whose starts are keys is written as one. */
  grain?: string;
}

export interface SelectionEffect {
  effect: EffectName;
  target: string;
  amount?: number;
}

/** One key: a value, or a stretch `[lo, hi)`, for each of its columns. */
export type Key = Record<string, Scalar | [number, number]>;

/** What is selected: intervals `[lo, hi)` on axes, keys of groups, or numbers of rows. */
export interface SelectionState {
  x?: [number, number];
  y?: [number, number];
  keys?: Key[];
  rows?: number[];
}

/** Alternatives within a selection; different selections must all hold. */
export function isEmptyState(state: SelectionState | undefined): boolean {
  return !state || (!state.x && !state.y && !state.keys && !state.rows);
}
