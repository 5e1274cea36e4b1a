import type { Formula } from "../formula/tree";
import type { ScaleName } from "../scale/scale-kinds";
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
  /** What an outline is drawn over: two values of each row, and how both axes are bent. */
  outline?: { x: Formula; y: Formula; bends: [ScaleName, ScaleName] };
  /** What it covers are marks of groups: it holds their keys, found when the gesture is made. */
  byMarks?: true;
  /** What parts several values in one cell of the keys; picking any of them picks the cell. */
  split?: string;
  /** Widens to every row with the same values in these columns. */
  by: string[];
  /** A range from a control holds both its ends. */
  inclusive?: boolean;
  /** The lower end of the range itself does not pass. */
  openBelow?: true;
  /** What an axis selects on, by the text of its channel, where a reader chooses among several. */
  ons?: Record<string, Formula>;
  /** Columns in which a search looks, or of which readers make conditions. */
  columns?: Record<string, Formula>;
  effects: SelectionEffect[];
  /** It filters every chart that it could: the rows that it leaves are the rows left of the whole report. */
  everywhere?: true;
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
  /** Ranges are of whole periods: the last one in them is said, not the one that begins where they end. */
  whole?: true;
}

export interface SelectionEffect {
  effect: EffectName;
  target: string;
  amount?: number;
  /** The effect that the sheet names, where the target has its own way of doing it. */
  written?: EffectName;
  /** The axis of the target that follows the range of a control. */
  axis?: "x" | "y";
}

/** One key: a value, or a stretch `[lo, hi)`, for each of its columns. */
export type Key = Record<string, Scalar | [number, number]>;

/** A condition that a reader has made: a column, a test, and a value. */
export interface Condition {
  column: string;
  test: ConditionTest;
  value: Scalar;
}

export const CONDITION_TESTS = ["is", "is_not", "at_least", "at_most", "contains"] as const;
export type ConditionTest = (typeof CONDITION_TESTS)[number];

/** Tests that make sense for values of a kind. */
export const testsOf = (kind: Kind): ConditionTest[] =>
  kind === "text" || kind === "boolean" || kind === "place"
    ? ["is", "is_not", "contains"]
    : ["is", "is_not", "at_least", "at_most"];

/**
 * What is selected: intervals `[lo, hi)` on axes, keys of groups, numbers of rows, a text that is
 * looked for, or conditions that must all hold.
 */
export interface SelectionState {
  x?: [number, number];
  y?: [number, number];
  /** The channel that an axis showed when its range was chosen, where a reader can choose another. */
  on?: { x?: string; y?: string };
  keys?: Key[];
  /** The corners of an outline, as values on both axes. */
  outline?: [number, number][];
  rows?: number[];
  search?: string;
  conditions?: Condition[];
}

/** Ends of a range that is open on one side; as numbers they survive being written as JSON. */
export const OPEN_LOW = -Number.MAX_VALUE;
export const OPEN_HIGH = Number.MAX_VALUE;

/** Alternatives within a selection; different selections must all hold. */
export function isEmptyState(state: SelectionState | undefined): boolean {
  return !state || Object.entries(state).every(([name, part]) => part === undefined || part === "" || name === "on");
}
