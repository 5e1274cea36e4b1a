import { AGGREGATES } from "./aggregate-names";
import type { Formula } from "./tree";

/** What a formula says of the numbers or days that it makes, beside their kind. */
export interface Made {
  /** Each stands for itself, such as a mean, a rate or a rank: added up they are a number of nothing. */
  single?: true;
  /** Days that stand for a month, a quarter or a year. */
  period?: "month" | "quarter" | "year";
}

/** Functions whose results add up as what they are made of does. */
const ADDING = new Set(["sum", "count", "running_total"]);
const SINGLE = new Set([
  "rank",
  "row",
  "moving_mean",
  "running_total",
  "year",
  "quarter",
  "week",
  "day",
  "hour",
  "minute",
]);
/** Functions that leave what a number means. */
const LEAVING = new Set(["round", "floor", "ceil", "coalesce", "abs"]);

/** What a formula says of what it makes; nothing where that is plain. */
export function madeBy(formula: Formula): Made | undefined {
  if (formula.type === "of") return madeBy(formula.aggregate);
  // What is divided by a number of its own, and not by one for all rows, is a rate.
  if (formula.type === "binary")
    return formula.operator === "/" && formula.right.type !== "number" ? { single: true } : undefined;
  if (formula.type !== "call") return undefined;
  const { name, arguments: given } = formula;
  if (name === "by_month") return { period: "month" };
  if (name === "by_quarter") return { period: "quarter" };
  if (name === "by_year") return { period: "year" };
  if (LEAVING.has(name)) return given[0] && madeBy(given[0]);
  return SINGLE.has(name) || (AGGREGATES.has(name) && !ADDING.has(name)) ? { single: true } : undefined;
}
