import { pieceFormulas } from "../chart/piece-formulas";
import { selectionsOf } from "../formula/tree";
import { gestureSpec } from "../link/gestures/index";
import type { SelectionPlan } from "../link/selection";
import type { PlanPiece } from "../plan/plan";
import type { Kind } from "../table/column";
import { kindsOf } from "../table/table";
import { addFinding, type Compiling } from "./compiling";

/** Names that selections can have, with the columns of the tables whose rows they hold. */
export function selectionNames(compiling: Compiling): Pick<Compiling, "selections" | "promised"> {
  const { sheet, tables } = compiling;
  const names = new Map<string, ReadonlyMap<string, Kind>>();
  const promised = new Set<string>();
  const add = (name: string, table: string | undefined) => {
    const built = table === undefined ? undefined : tables.get(table);
    if (built) names.set(name, kindsOf(built.table));
    promised.add(name);
  };
  for (const [name, spec] of sheet.controls) if (spec.pick !== undefined) add(name, spec.from);
  for (const { sentence } of sheet.links) {
    if (sentence.type === "cross-filter") {
      for (const [name, spec] of sheet.charts) add(name, spec.from);
      continue;
    }
    const source = sentence.source.name.split(".")[0] as string;
    const from = sheet.charts.get(source)?.from;
    const { suffix } = gestureSpec(sentence.gesture);
    add(sentence.as?.name ?? `${source}${suffix}`, from);
  }
  return { selections: names, promised };
}

/** For each selection the pieces whose formulas speak of it. A selection that no gesture makes is an error. */
export function mentionsOf(
  compiling: Compiling,
  pieces: readonly PlanPiece[],
  selections: readonly SelectionPlan[],
): Map<string, string[]> {
  const mentions = new Map<string, string[]>();
  for (const piece of pieces) {
    for (const name of new Set(pieceFormulas(piece.plan).flatMap((formula) => [...selectionsOf(formula)]))) {
      if (selections.some((selection) => selection.name === name))
        mentions.set(name, [...(mentions.get(name) ?? []), piece.name]);
      // One that a link would make was found wrong there.
      else if (!compiling.promised?.has(name))
        addFinding(
          compiling,
          ["charts", piece.name],
          "unknown-selection",
          `"${name}" is no selection: no gesture on it stands under links:`,
          { piece: piece.name },
        );
    }
  }
  return mentions;
}
