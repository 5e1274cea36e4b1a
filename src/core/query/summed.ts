import { AGGREGATES } from "../formula/aggregate-names";
import type { Channel } from "./query";

/** Shares, sums and counts add up to a whole, so that their parts may stand on one another. */
export function isSummed(channel: Channel | undefined): boolean {
  const formula = channel?.formula;
  if (formula?.type !== "call") return false;
  if (formula.name === "share") return true;
  return AGGREGATES.has(formula.name) && (formula.name === "sum" || formula.name === "count");
}
