import type { PiecePlan } from "../../chart/plan";

/** A source or target of a link. */
export interface EffectPiece {
  name: string;
  plan: PiecePlan;
}

/** What a selection does to a target, as the language names it. */
export interface EffectSpec {
  name: string;
  says: string;
  /** How a matrix of sources and targets says it. */
  word: string;
  /** It may be told how strongly. */
  amount?: boolean;
  /**
   * What it does with rows: `narrow` leaves only those that are picked, `over` draws them over all
   * others, `none` leaves rows alone.
   */
  rows: "narrow" | "over" | "none";
  /** A source may do it to itself. */
  onItself: boolean;
  /** What is done in its place to a target of another sort, with the rows behind what is picked. */
  insteadOn?(target: EffectPiece): "highlight" | undefined;
  /**
   * Why it cannot be done to a target; rows that have nothing to do with each other are found elsewhere.
   *
   * @param axes the axes on which the selection holds a range
   */
  problem(source: EffectPiece, target: EffectPiece, axes: readonly ("x" | "y")[]): string | undefined;
}

/** Two charts whose axes of one name show the same sort of values, be they a stretch or names one by one. */
export function sharesValues(a: EffectPiece, b: EffectPiece, axis: "x" | "y" = "x"): boolean {
  const [own, other] = [axisOf(a, axis), axisOf(b, axis)];
  if (!own || !other) return false;
  const isMoment = (kind: string) => kind === "date" || kind === "datetime";
  return own.kind === other.kind || (isMoment(own.kind) && isMoment(other.kind));
}

/** Two charts whose axes of one name show the same sort of values in the same way. */
export const sharesAxis = (a: EffectPiece, b: EffectPiece, axis: "x" | "y"): boolean =>
  sharesValues(a, b, axis) && axisOf(a, axis)?.scale === axisOf(b, axis)?.scale;

const axisOf = ({ plan }: EffectPiece, axis: "x" | "y") => (plan.type === "chart" ? plan.axes[axis] : undefined);
