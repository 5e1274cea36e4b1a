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
  return words;
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
    if ((piece.plan.axes[axis]?.scale ?? "linear") === "category" || !isContinuous(channel))
      return {
        problem: `${axis} of ${piece.name} shows categories; a brush needs numbers or dates, a click picks categories`,
      };
    if (channel.aggregate)
      return {
        problem: `${axis} of ${piece.name} shows ${channel.text}, which belongs to groups, not to rows; this version brushes values of rows only`,
      };
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
