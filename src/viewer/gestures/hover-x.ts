import type { Drawn } from "../../core/chart/draw";
import { type TooltipLine, tooltipLines } from "../../core/chart/tooltip";
import type { SelectionPlan } from "../../core/link/selection";
import { nameAt } from "../../core/query/categories";
import type { Point } from "../../core/scene/shapes/shape";
import { paintOf } from "../../core/scene/theme";
import { nameText } from "../app";
import { type Found, marksAtX, shapeOf } from "../plot/find-mark";
import type { Hand } from "../plot/hand";
import type { PlotView } from "../plot/plot-view";

/** A rule at the nearest value along x, here and in every chart that shares it, with all series read out. */
export class HoverXHand implements Hand {
  constructor(
    private readonly view: PlotView,
    private readonly selections: readonly SelectionPlan[],
  ) {}

  point(event: PointerEvent, at: Point): boolean {
    const drawn = this.view.current();
    const found = drawn ? marksAtX(drawn, at.x) : [];
    if (!drawn || !this.hold(found[0])) {
      this.view.leave();
      return true;
    }
    const { caption, lines } = this.seriesLines(drawn, found);
    this.view.app.tooltip.show(lines, caption, event.clientX, event.clientY);
    return true;
  }

  /** The keyboard stands on a mark: its rule stands there too. */
  found(found: Found | undefined) {
    if (found) this.hold(found);
  }

  leave() {
    if (this.view.app.crosshair) this.view.app.setCrosshair(undefined);
  }

  private hold(found: Found | undefined): boolean {
    const column = found && this.view.valuesOf(found)?.get("x");
    if (!found || !column || column.kind === "text") return false;
    const targets = this.selections.flatMap(({ effects }) =>
      effects.filter(({ effect }) => effect === "crosshair").map(({ target }) => target),
    );
    this.view.app.setCrosshair(column.values[found.id] as number, targets);
    return true;
  }

  /** One line a series at the same x: its colour's name and its measured value. */
  private seriesLines(
    drawn: Drawn,
    found: readonly Found[],
  ): { caption: string; lines: (TooltipLine & { color?: string })[] } {
    let caption = "";
    const sorted = [...found].sort((a, b) => a.y - b.y);
    const lines = sorted.flatMap((one) => {
      const values = this.view.valuesOf(one);
      const shape = shapeOf(drawn, one);
      const layer = this.view.plan.layers[one.layer];
      if (!values || !shape || !layer) return [];
      const tooltip = ["x", "y"].filter((name) => name in layer.query.channels);
      const all = tooltipLines({ ...layer, tooltip }, values, one.id);
      caption = all[0]?.text ?? caption;
      const color = values.get("color");
      const measured = all.at(-1) as TooltipLine;
      if (!color) return [measured];
      const label = nameText(nameAt(color, one.id));
      return [{ ...measured, label, color: paintOf(shape.paintAt(one.mark), this.view.app.ground) }];
    });
    return { caption, lines };
  }
}
