import type { Drawn } from "../../core/chart/draw";
import { type TooltipLine, tooltipLines } from "../../core/chart/tooltip";
import { keysBehind } from "../../core/link/behind";
import type { Key, SelectionPlan } from "../../core/link/selection";
import { nameAt, plainValue } from "../../core/query/categories";
import { categoryText } from "../../core/query/write";
import type { Point } from "../../core/scene/shapes/shape";
import { paintOf } from "../../core/scene/theme";
import type { Column } from "../../core/table/column";
import { ruleAt, ruled } from "../plot/crosshair";
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
    this.view.app.tooltip.show([lines], caption, event.clientX, event.clientY);
    return true;
  }

  /** The keyboard stands on a mark: its rule stands there too. */
  found(found: Found | undefined) {
    if (found) this.hold(found);
  }

  leave() {
    for (const { name } of this.selections) this.view.app.hold(name, undefined);
    if (this.view.app.crosshair) this.view.app.setCrosshair(undefined);
  }

  private hold(found: Found | undefined): boolean {
    const column = found && this.view.valuesOf(found)?.get("x");
    if (!found || !column) return false;
    this.holdRows(found, column);
    this.view.app.setCrosshair(ruleAt(this.view, found), ruled(this.selections));
    return true;
  }

  /** For effects on rows: all rows at this x, widened where a link says so. */
  private holdRows(found: Found, column: Column) {
    const { app } = this.view;
    for (const selection of this.selections) {
      if (selection.effects.every(({ effect }) => effect === "crosshair")) continue;
      const [x] = Object.keys(selection.keys);
      const keys = selection.by.length
        ? this.keysAt(found, selection)
        : [{ [x as string]: plainValue(column, found.id) }];
      app.hold(selection.name, { keys });
    }
  }

  private keysAt(found: Found, selection: SelectionPlan): Key[] {
    const drawn = this.view.current();
    return (drawn ? marksAtX(drawn, found.x) : []).flatMap((one) => {
      const values = this.view.valuesOf(one);
      return values ? keysBehind(this.view.app.model.engine, selection, values, [one.id]) : [];
    });
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
      const label = categoryText(nameAt(color, one.id), layer.query.channels.color);
      return [{ ...measured, label, color: paintOf(shape.paintAt(one.mark), this.view.app.ground) }];
    });
    return { caption, lines };
  }
}
