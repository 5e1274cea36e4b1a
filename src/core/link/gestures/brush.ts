import type { LayerPlan } from "../../chart/plan";
import type { Channel } from "../../query/query";
import type { SelectionWords } from "../selection";
import {
  type Basis,
  channelWords,
  type GesturePiece,
  type GestureSpec,
  groupingOf,
  isContinuous,
  keyBasis,
  needsChart,
} from "./gesture";

type Axis = "x" | "y";

/** A brush is spoken of by the values that it holds, not by their bins. */
function brushWords(channel: Channel): SelectionWords {
  const { grain: _, ...words } = channelWords(channel);
  return channel.interval?.type === "period" ? { ...words, whole: true } : words;
}

/** What a brush along some axes selects on: the argument of a bin or period, else the channel itself. */
function brushBasis(
  piece: GesturePiece,
  layer: LayerPlan | undefined,
  axes: readonly Axis[],
): Basis | { problem: string } {
  const problem = needsChart(piece);
  if (problem !== undefined || piece.plan.type !== "chart") return { problem: problem ?? "" };
  const basis = keyBasis(groupingOf(layer));
  for (const axis of axes) {
    const channel = layer?.query.channels[axis];
    if (!channel) return { problem: `${piece.name} has nothing on ${axis}` };
    if ((piece.plan.axes[axis]?.scale ?? "linear") === "category" || !isContinuous(channel)) {
      const way = isContinuous(channel)
        ? `axes: {${axis}: {scale: linear}} makes a line of its numbers that can be brushed`
        : "a brush needs numbers or dates, a click picks categories";
      return { problem: `${axis} of ${piece.name} shows categories; ${way}` };
    }
    if (channel.aggregate) {
      if (Object.keys(basis.keys).length === 0)
        return { problem: `${piece.name} shows one mark for all rows, of which no part can be brushed` };
      basis.byMarks = true;
    }
    basis.axes[axis] = channel.interval ? channel.interval.of : channel.formula;
    basis.words[axis] = brushWords(channel);
    for (const chosen of Object.values(channel.choices?.of ?? {})) {
      basis.ons = { ...basis.ons, [chosen.text]: chosen.interval ? chosen.interval.of : chosen.formula };
      basis.words[chosen.text] = brushWords(chosen);
    }
  }
  return basis;
}

const brush = <N extends string>(name: N, axes: readonly Axis[], says: string) =>
  ({
    name,
    says,
    kept: true,
    suffix: "",
    basis: (piece, layer) => brushBasis(piece, layer, axes),
  }) satisfies GestureSpec;

export const brushX = brush("brush x", ["x"], "A range along x.");
export const brushY = brush("brush y", ["y"], "A range along y.");
export const brushXY = brush("brush xy", ["x", "y"], "A box.");

/** What an outline is drawn over: rows by their two values, marks of groups by their keys. */
function lassoBasis(piece: GesturePiece, layer: LayerPlan | undefined): Basis | { problem: string } {
  const problem = needsChart(piece);
  if (problem !== undefined || piece.plan.type !== "chart" || !layer) return { problem: problem ?? "" };
  const { stage, axes } = piece.plan;
  const { channels } = layer.query;
  const [x, y] = stage === "map" ? [channels.lon, channels.lat] : [channels.x, channels.y];
  if (!x || !y) return { problem: `${piece.name} has no two axes on which an outline could be drawn` };
  if (layer.query.grouped || layer.query.merged) {
    const basis = keyBasis(groupingOf(layer));
    if (Object.keys(basis.keys).length === 0)
      return { problem: `${piece.name} shows one mark for all rows, of which no part can be outlined` };
    return { ...basis, byMarks: true };
  }
  if (!isContinuous(x) || !isContinuous(y))
    return { problem: `an outline needs numbers or dates on both axes of ${piece.name}; a click picks categories` };
  const bends = stage === "map" ? (["linear", "linear"] as const) : ([axes.x?.scale, axes.y?.scale] as const);
  return {
    axes: {},
    keys: {},
    words: { x: channelWords(x), y: channelWords(y) },
    outline: { x: x.formula, y: y.formula, bends: [bends[0] ?? "linear", bends[1] ?? "linear"] },
  };
}

export const lasso = {
  name: "lasso",
  says: "An outline drawn by hand.",
  kept: true,
  suffix: "",
  basis: lassoBasis,
} as const satisfies GestureSpec;
