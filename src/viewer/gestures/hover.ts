import type { Drawn } from "../../core/chart/draw";
import { behindMark } from "../../core/link/behind";
import type { SelectionPlan } from "../../core/link/selection";
import { ruleAt, ruled } from "../plot/crosshair";
import type { Found } from "../plot/find-mark";
import type { Hand } from "../plot/hand";
import type { PlotView } from "../plot/plot-view";

/** Holds what is under the pointer, or where the keyboard stands, for as long as it is there. */
export class HoverHand implements Hand {
  /** The mark that is held, in the drawing in which it was found. */
  private held: { found: Found; drawn: Drawn | undefined } | undefined;

  constructor(
    private readonly view: PlotView,
    private readonly selections: readonly SelectionPlan[],
  ) {}

  found(found: Found | undefined) {
    const drawn = this.view.current();
    // The pointer moves over one mark many times, and what stands behind it may be sought in all rows.
    if (this.held?.found.layer === found?.layer && this.held?.found.id === found?.id && this.held?.drawn === drawn)
      return;
    this.held = found && { found, drawn };
    const { app } = this.view;
    const values = found && this.view.valuesOf(found);
    const targets = ruled(this.selections);
    if (targets.length) app.setCrosshair(found && ruleAt(this.view, found), targets);
    for (const selection of this.selections) {
      const behind = found && values && behindMark(app.model.engine, selection, values, found.id);
      app.hold(selection.name, behind && ("row" in behind ? { rows: [behind.row] } : behind));
    }
  }
}
