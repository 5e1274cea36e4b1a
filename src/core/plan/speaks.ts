import { pieceFormulas } from "../chart/piece-formulas";
import { selectionsOf } from "../formula/tree";
import type { PlanPiece } from "./plan";

/** True if a formula or a word of a piece speaks of a selection. */
export function speaksOf({ plan, live }: PlanPiece, selection: string): boolean {
  const inWords = Object.values(live?.parts ?? {})
    .flat()
    .some((part) => typeof part === "object" && "selection" in part && part.selection === selection);
  return inWords || pieceFormulas(plan).some((formula) => selectionsOf(formula).has(selection));
}
