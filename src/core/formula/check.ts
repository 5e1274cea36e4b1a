import { Checker } from "./checker";
import type { Checked, Scope } from "./scope";
import type { Formula } from "./tree";

/** Checks names and kinds of a formula. Every problem has its place in the formula's text. */
export function checkFormula(formula: Formula, scope: Scope): Checked {
  const checker = new Checker(scope);
  const { kind, aggregate, constant } = checker.visit(formula, false);
  return { kind, aggregate, constant, problems: checker.problems };
}
