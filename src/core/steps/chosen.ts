import { walk } from "../formula/tree";
import { formulasOfStep } from "./run";
import type { Step } from "./step";

/**
 * The column that says of which table a row is, where a setting chooses among several. No author can write its name,
 * and it goes before anybody sees it.
 */
export const CHOSEN_OF = "\u0000of";

/** True for a step of the author's that reads a setting; the choice of a table is none. */
export function followsSetting(step: Step): boolean {
  let [reads, chooses] = [false, false];
  for (const formula of formulasOfStep(step))
    walk(formula, (node) => {
      if (node.type === "setting") reads = true;
      if (node.type === "column" && node.name === CHOSEN_OF) chooses = true;
    });
  return reads && !chooses;
}
