import type { AxisPlan, ChartPlan } from "../chart/plan";
import { effectSpec } from "../link/effects/index";
import type { SelectionPlan } from "../link/selection";
import type { PlanPiece } from "../plan/plan";
import type { Channel } from "../query/query";
import { isSummed } from "../query/summed";
import { ancestry, type Compiling } from "./compiling";

/**
 * Charts over which a link draws a part of what they show. Where they show sums or counts the part is less than the
 * whole, and has no place on an axis that begins at the least of all: these begin at zero, unless the sheet says
 * where they begin.
 */
export function beginAtZero(compiling: Compiling, pieces: PlanPiece[], selections: readonly SelectionPlan[]) {
  const drawnOver = new Set(
    selections.flatMap(({ effects }) =>
      effects.flatMap(({ effect, target }) => (effectSpec(effect).rows === "over" ? [target] : [])),
    ),
  );
  for (const [at, piece] of pieces.entries()) {
    if (piece.plan.type !== "chart" || !drawnOver.has(piece.name)) continue;
    pieces[at] = { ...piece, plan: { ...piece.plan, axes: axesOf(compiling, piece.name, piece.plan) } };
  }
}

function axesOf(compiling: Compiling, name: string, { axes, layers, from }: ChartPlan): ChartPlan["axes"] {
  const said = compiling.sheet.charts.get(name)?.axes;
  const begun = { ...axes };
  for (const axis of ["x", "y"] as const) {
    const own: AxisPlan | undefined = axes[axis];
    if (own?.scale !== "linear" || Array.isArray(own.range) || said?.[axis]?.from_zero !== undefined) continue;
    const isSum = layers.some(({ query, side }) => side !== "right" && addsUp(compiling, from, query.channels[axis]));
    if (isSum) begun[axis] = { ...own, fromZero: true };
  }
  return begun;
}

/** True for a sum or count: of the chart's own, or of a step that made the column. */
function addsUp(compiling: Compiling, from: string, channel: Channel | undefined): boolean {
  if (!channel) return false;
  if (isSummed(channel)) return true;
  const { formula } = channel;
  if (formula.type !== "column") return false;
  const steps = ancestry(compiling, from).flatMap((table) => compiling.tables.get(table)?.steps ?? []);
  return steps.some(
    (step) =>
      step.do === "group" && step.get.some((own) => own.name === formula.name && isSummed({ ...channel, ...own })),
  );
}
