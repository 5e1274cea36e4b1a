import type { Compiled } from "../compile/compile";
import { effectSpec } from "../link/effects/index";
import type { SelectionPlan } from "../link/selection";
import type { PlanPiece } from "../plan/plan";

/** What a source does to a target, in words, or why it does nothing. */
export type LinkCell =
  | { type: "does"; word: string }
  | { type: "nothing" }
  /** The source marks its own pick and never filters itself. */
  | { type: "itself" }
  | { type: "impossible"; reason: string };

export interface LinkRow {
  /** The selection's name, as it stands in an address. */
  selection: string;
  source: string;
  title: string;
  gesture: string;
  /** The place of its sentence in `links:`; absent for controls and for what `cross-filter` makes. */
  sentence?: number;
  cells: LinkCell[];
}

export interface LinkMatrix {
  targets: { name: string; title: string; kind: string }[];
  rows: LinkRow[];
}

/** The square of all sources and targets: who drives whom. */
export function linkMatrix({ plan, sheet, reaches }: Compiled): LinkMatrix {
  const cell = (selection: SelectionPlan, target: PlanPiece): LinkCell => {
    const effect = selection.effects.find((one) => one.target === target.name);
    if (effect)
      return {
        type: "does",
        word: [effectSpec(effect.effect).word, ...(effect.amount === undefined ? [] : [effect.amount])].join(" "),
      };
    if (selection.source === target.name) return { type: "itself" };
    if (!reaches(selection.table, target.plan.from))
      return {
        type: "impossible",
        reason: `${target.words.title} is drawn from ${target.plan.from}, which shares no rows with ${selection.table}`,
      };
    return { type: "nothing" };
  };
  const rows = plan.selections.map((selection): LinkRow => {
    const piece = plan.pieces.find(({ name }) => name === selection.source);
    const control = plan.controls.find(({ name }) => name === selection.source);
    const sentence = sheet.links.findIndex(
      ({ sentence: one }) =>
        one.type === "gesture" &&
        one.gesture === selection.gesture &&
        one.source.name.split(".")[0] === selection.source &&
        (one.as === undefined || one.as.name === selection.name),
    );
    return {
      selection: selection.name,
      source: selection.source,
      title: piece?.words.title ?? control?.label ?? selection.source,
      gesture:
        selection.gesture === "control"
          ? "control"
          : `${selection.gesture}${selection.by.length ? ` by ${selection.by.join(", ")}` : ""}`,
      ...(sentence < 0 ? {} : { sentence }),
      cells: plan.pieces.map((target) => cell(selection, target)),
    };
  });
  rows.sort((a, b) => Number(a.gesture === "control") - Number(b.gesture === "control"));
  return {
    targets: plan.pieces.map(({ name, words, plan: { type } }) => ({ name, title: words.title, kind: type })),
    rows,
  };
}
