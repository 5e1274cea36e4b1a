import type { SelectionPlan } from "../../link/selection";
import type { ControlPlan, PlanPiece } from "../../plan/plan";
import { addFinding, type Compiling } from "../compiling";
import { controlSelection } from "./control-selection";
import { crossFilter } from "./cross-filter";
import { gestureSelection } from "./gesture-selection";
import { linkStart } from "./link-start";
import { filtersEverywhere, type Linking } from "./linking";

/** All selections: those of controls first, then those of links. */
export function readSelections(
  compiling: Compiling,
  pieces: Map<string, PlanPiece>,
  controls: ControlPlan[],
): SelectionPlan[] {
  const linking: Linking = {
    compiling,
    pieces,
    controls,
    selections: [],
    namedByAuthor: new Set(),
  };
  const { selections } = linking;
  for (const control of controls)
    if (control.type !== "set" && control.type !== "button") selections.push(controlSelection(linking, control));
  const { links } = compiling.sheet;
  for (const { sentence, path, start } of links) {
    const selection = sentence.type === "gesture" ? gestureSelection(linking, sentence, path) : undefined;
    if (!selection) continue;
    const state = start === undefined ? undefined : linkStart(compiling, selection, start, path);
    if (state) selection.start = state;
    selections.push(selection);
  }
  for (const { sentence, path, start } of links) {
    if (sentence.type !== "cross-filter") continue;
    crossFilter(linking, sentence.table, path);
    if (start !== undefined)
      addFinding(
        compiling,
        path,
        "start-here",
        "cross-filter makes a selection for each chart: give the start to one gesture",
      );
  }
  for (const selection of selections) if (filtersEverywhere(linking, selection)) selection.everywhere = true;
  return selections;
}
