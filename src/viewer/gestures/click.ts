import { behindMark, isLimit } from "../../core/link/behind";
import type { SelectionPlan, SelectionState } from "../../core/link/selection";
import { NOT_PICKED } from "../app";
import type { Found } from "../plot/find-mark";
import type { Hand } from "../plot/hand";
import type { PlotView } from "../plot/plot-view";

/** Picks what stands behind a mark; again takes it away, with Shift it is added. A press beside all marks lets go. */
export class ClickHand implements Hand {
  readonly help = "Enter picks";

  constructor(
    private readonly view: PlotView,
    private readonly selections: readonly SelectionPlan[],
  ) {}

  press(found: Found | undefined, add: boolean) {
    const { app } = this.view;
    for (const selection of this.selections) {
      if (found) this.pick(selection, found, add);
      else if (app.model.engine.isActive(selection.name)) app.select(selection.name, undefined);
    }
    app.settle();
  }

  private pick(selection: SelectionPlan, found: Found, add: boolean) {
    const { app } = this.view;
    const values = this.view.valuesOf(found);
    const behind = values && behindMark(app.model.engine, selection, values, found.id);
    if (!behind) {
      if (values && isLimit(values)) app.say("this mark tells no rows from others, and cannot be picked");
      else if (values?.prepared.query.from === selection.table) app.say(NOT_PICKED);
      return;
    }
    const before = app.model.engine.state(selection.name);
    app.select(selection.name, pickedWith(before, behind, add));
  }
}

/** A selection after a press on what stands behind a mark; nothing where nothing is left of it. */
function pickedWith(
  before: SelectionState | undefined,
  behind: NonNullable<ReturnType<typeof behindMark>>,
  add: boolean,
): SelectionState | undefined {
  if ("row" in behind) {
    const had = before?.rows ?? [];
    const again = had.includes(behind.row);
    const rows = again ? had.filter((row) => row !== behind.row) : add ? [...had, behind.row] : [behind.row];
    return rows.length ? { rows } : undefined;
  }
  const had = before?.keys ?? [];
  const texts = behind.keys.map((key) => JSON.stringify(key));
  const again = texts.every((text) => had.some((key) => JSON.stringify(key) === text));
  const rest = had.filter((key) => !texts.includes(JSON.stringify(key)));
  const next = again ? (add ? rest : []) : add ? [...rest, ...behind.keys] : behind.keys;
  return next.length ? { keys: next } : undefined;
}
