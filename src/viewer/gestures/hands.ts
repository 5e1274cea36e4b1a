import type { GestureName } from "../../core/link/gestures";
import type { SelectionPlan } from "../../core/link/selection";
import type { Hand } from "../plot/hand";
import type { PlotView } from "../plot/plot-view";
import { BrushHand } from "./brush";
import { ClickHand } from "./click";
import { HoverHand } from "./hover";
import { HoverXHand } from "./hover-x";

type Make = (view: PlotView, selections: readonly SelectionPlan[]) => Hand;

const brush: Make = (view, selections) => new BrushHand(view, selections);

/** What the pointer and keyboard do on a plot for each gesture; those made elsewhere have none. */
const HANDS: Readonly<Partial<Record<GestureName, Make>>> = {
  "brush x": brush,
  "brush y": brush,
  "brush xy": brush,
  "hover x": (view, selections) => new HoverXHand(view, selections),
  hover: (view, selections) => new HoverHand(view, selections),
  click: (view, selections) => new ClickHand(view, selections),
};

/** The hands of a plot, those that drag before those that press. */
export function handsOf(view: PlotView, selections: readonly SelectionPlan[]): Hand[] {
  const hands: Hand[] = [];
  for (const [gesture, make] of Object.entries(HANDS)) {
    const own = selections.filter((selection) => selection.gesture === gesture);
    if (own.length) hands.push(make(view, own));
  }
  return hands;
}
