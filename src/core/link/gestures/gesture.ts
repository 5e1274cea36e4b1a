import type { LayerPlan, PiecePlan } from "../../chart/plan";
import type { Formula } from "../../formula/tree";
import { type Channel, keyName } from "../../query/query";
import type { SelectionPlan, SelectionWords } from "../selection";

/** What a gesture may be made on. */
export interface GesturePiece {
  name: string;
  plan: PiecePlan;
}

/** What a gesture on a piece selects on: ranges of axes, keys of groups, and how both are spoken of. */
export interface Basis {
  axes: SelectionPlan["axes"];
  keys: SelectionPlan["keys"];
  words: SelectionPlan["words"];
  ons?: Record<string, Formula>;
  outline?: SelectionPlan["outline"];
  byMarks?: true;
}

/** A gesture of the language. What pointer and keyboard do for it stands in the viewer, under the same name. */
export interface GestureSpec {
  name: string;
  says: string;
  /** It stays when the pointer has gone: it has a chip, stands in the address, and Escape turns it off. */
  kept: boolean;
  /** What stands behind the source's name where the author gives no name. */
  suffix: "" | ".hover" | ".legend";
  /** What it selects on, or why it cannot be made there. */
  basis(piece: GesturePiece, layer: LayerPlan | undefined): Basis | { problem: string };
}

export const isContinuous = (channel: Channel | undefined): channel is Channel =>
  channel !== undefined && channel.kind !== "text" && channel.kind !== "boolean";

/** What a sentence about a selection needs to know of a channel. */
export function channelWords({ label, kind, unit, format, interval }: Channel): SelectionWords {
  return {
    label,
    kind,
    ...(unit === undefined ? {} : { unit }),
    ...(format === undefined ? {} : { format }),
    ...(interval?.type === "period" && typeof interval.grain === "string" ? { grain: interval.grain } : {}),
  };
}

/** Keys of some channels, and how they are spoken of. */
export function keyBasis(grouping: readonly Channel[]): Basis {
  // Of a channel that readers choose, all that it may be can stand in a key.
  const channels = grouping.flatMap((channel) => [channel, ...Object.values(channel.choices?.of ?? {})]);
  return {
    axes: {},
    keys: Object.fromEntries(channels.map((channel): [string, Formula] => [keyName(channel), channel.formula])),
    words: Object.fromEntries(channels.map((channel) => [keyName(channel), channelWords(channel)])),
  };
}

/** The channels by which a layer's rows are grouped. */
export const groupingOf = (layer: LayerPlan | undefined): Channel[] =>
  (layer?.query.merged ?? layer?.query.groupBy ?? []).map((name) => layer?.query.channels[name] as Channel);

/** Why a gesture that needs a chart cannot be made on anything else. */
export function needsChart({ name, plan }: GesturePiece): string | undefined {
  if (plan.type === "note" || plan.type === "summary")
    return `${name} is a ${plan.type}, on which nothing can be picked`;
  if (plan.type === "figure") return `${name} is a figure, on which nothing can be picked`;
  if (plan.type === "table") return `on the data table ${name} rows are picked: rows on ${name}`;
  return undefined;
}

/** Keys of the groups or rows of a chart or data table: what a press picks. */
export function pickBasis(piece: GesturePiece, layer: LayerPlan | undefined): Basis | { problem: string } {
  const { plan, name } = piece;
  if (plan.type === "figure" || plan.type === "note" || plan.type === "summary")
    return { problem: `${name} is a ${plan.type}, on which nothing can be picked` };
  const query = plan.type === "table" ? plan.query : layer?.query;
  // Rows with an identity are known by it; others by their number in this very file.
  const identity = query?.grouped || query?.merged ? undefined : query?.channels.identity;
  if (identity) return keyBasis([identity]);
  if (plan.type === "table")
    return keyBasis(plan.query.groupBy.map((channel) => plan.query.channels[channel] as Channel));
  return keyBasis(groupingOf(layer));
}
