import { Kit } from "../../core/finding/kit";
import type { GestureName } from "../../core/link/gestures/index";
import type { SelectionPlan } from "../../core/link/selection";
import type { Hand } from "../plot/hand";
import type { PlotView } from "../plot/plot-view";

/** What the pointer and keyboard do on a plot for each gesture. */
export const HANDS = new Kit<(view: PlotView, selections: readonly SelectionPlan[]) => Hand>("gesture");

/** Gestures on plots: those that drag before those that press. Others are made in legends and data tables. */
const ON_PLOTS: readonly GestureName[] = ["brush x", "brush y", "brush xy", "lasso", "hover x", "hover", "click"];

/** The hands of a plot. */
export function handsOf(view: PlotView, selections: readonly SelectionPlan[]): Hand[] {
  const looking = HANDS.has("zoom") ? [HANDS.get("zoom")(view, [])] : [];
  const picking = ON_PLOTS.flatMap((gesture) => {
    const own = selections.filter((selection) => selection.gesture === gesture);
    return own.length ? [HANDS.get(gesture)(view, own)] : [];
  });
  return [...looking, ...picking];
}
