import { type LookSpec, needsOrder } from "./look";

export const range = {
  name: "range",
  says: "Two ends on a rail; both are held.",
  pick: { holds: "range", fits: needsOrder("a range") },
} as const satisfies LookSpec;

export const dates = {
  name: "dates",
  says: "Two days that are typed or chosen.",
  pick: {
    holds: "range",
    fits: (channel) =>
      channel.kind === "date" || channel.kind === "datetime" ? undefined : `${channel.text} holds no dates; use range`,
  },
} as const satisfies LookSpec;

const bound = <N extends string>(name: N, says: string, end: "low" | "high", leavesOut?: true) =>
  ({
    name,
    says,
    pick: { holds: "bound", end, ...(leavesOut ? { leavesOut } : {}), fits: needsOrder(`as: ${name}`) },
  }) as const satisfies LookSpec;

export const atLeast = bound("at_least", "This much or more.", "low");
export const atMost = bound("at_most", "This much or less.", "high");
export const above = bound("above", "More than this.", "low", true);
export const below = bound("below", "Less than this.", "high", true);
