import type { CheckedKind } from "./scope";

export const isMoment = (kind: CheckedKind): boolean => kind === "date" || kind === "datetime";

const isNumber = (kind: CheckedKind): boolean => kind === "number" || kind === "boolean";

/** The kind of what two kinds make by an operator of arithmetic; nothing where that has no meaning. */
export function arithmeticKind(operator: string, a: CheckedKind, b: CheckedKind): CheckedKind | undefined {
  if (isNumber(a) && isNumber(b)) return "number";
  if (operator === "+" || operator === "-") {
    if (a === "duration" && b === "duration") return "duration";
    if (isMoment(a) && isMoment(b) && operator === "-") return "duration";
    if (isMoment(a) && b === "duration") return "datetime";
    if (a === "duration" && isMoment(b) && operator === "+") return "datetime";
  } else if (operator === "*") {
    if ((a === "duration" && isNumber(b)) || (isNumber(a) && b === "duration")) return "duration";
  } else if (operator === "/") {
    if (a === "duration" && isNumber(b)) return "duration";
    if (a === "duration" && b === "duration") return "number";
  }
  return undefined;
}
