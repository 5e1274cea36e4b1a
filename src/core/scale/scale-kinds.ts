import type { Channel } from "../query/query";

/** How values become places on an axis, as the language names it. */
export type ScaleName = "linear" | "log" | "sqrt" | "symlog" | "time" | "category";

/** What is to be known of a scale before any values are there. */
export interface ScaleKind {
  says: string;
  /** Why a channel cannot stand on it; nothing where it can. */
  fits(channel: Channel): string | undefined;
}

const isMoment = ({ kind }: Channel) => kind === "date" || kind === "datetime";

function needsNumbers(channel: Channel): string | undefined {
  if (channel.kind !== "text" && channel.kind !== "boolean") return undefined;
  const holds = channel.kind === "text" ? "texts" : "true and false";
  return `${channel.text} holds ${holds}, which make a category axis`;
}

const noMoments = (word: string) => (channel: Channel) =>
  needsNumbers(channel) ?? (isMoment(channel) ? `dates have no ${word}` : undefined);

export const SCALES: Readonly<Record<ScaleName, ScaleKind>> = {
  linear: { says: "Equal steps are equally long.", fits: needsNumbers },
  log: { says: "Equal factors are equally long.", fits: noMoments("logarithm") },
  sqrt: { says: "Even in the square root, negative numbers too.", fits: noMoments("root") },
  symlog: { says: "By factors away from 0 on both sides, nearly even within 1.", fits: noMoments("logarithm") },
  time: {
    says: "Dates and times.",
    fits: (channel) => needsNumbers(channel) ?? (isMoment(channel) ? undefined : `${channel.text} holds no dates`),
  },
  category: { says: "A band for each value.", fits: () => undefined },
};

export const SCALE_NAMES = Object.keys(SCALES) as ScaleName[];
