import type { Compiled } from "../compile/compile";
import { layerOf } from "../compile/links/linking";
import { EFFECTS, type EffectName, effectSpec } from "../link/effects/index";
import { GESTURES, type GestureName, gestureSpec } from "../link/gestures/index";
import type { SelectionPlan } from "../link/selection";
import type { PlanPiece } from "../plan/plan";
import { tablesDrawn } from "../plan/tables-drawn";

/** What a source does to a target, in words, or why it does nothing. */
export type LinkCell = { choices: EffectName[] } & (
  | { type: "does"; effect: EffectName; word: string }
  | { type: "nothing" }
  /** The source marks its own pick and never filters itself. */
  | { type: "itself" }
  | { type: "impossible"; reason: string }
);

export interface LinkRow {
  /** The selection's name, as it stands in an address. */
  selection: string;
  source: string;
  title: string;
  gesture: string;
  /** Places in `links:` of its sentences; none for controls and for what `cross-filter` alone makes. */
  sentences: number[];
  /** What a sentence of its own begins with; absent for controls. */
  head?: string;
  cells: LinkCell[];
}

export interface LinkTarget {
  name: string;
  title: string;
  /** The table that it is drawn from. */
  table: string;
  /** Gestures that can be made on it and that nothing stands for yet. */
  gestures: GestureName[];
}

export interface LinkMatrix {
  targets: LinkTarget[];
  rows: LinkRow[];
}

/** What a selection could do to a piece; nothing for controls, which say it otherwise. */
function choicesOf(
  { reaches }: Compiled,
  selection: SelectionPlan,
  source: PlanPiece | undefined,
  target: PlanPiece,
): EffectName[] {
  if (!source || !tablesDrawn(target.plan).some((table) => reaches(selection.table, table))) return [];
  const axes = (["x", "y"] as const).filter((axis) => selection.axes[axis]);
  return EFFECTS.filter((name) => {
    const effect = effectSpec(name);
    return (source.name !== target.name || effect.onItself) && effect.problem(source, target, axes) === undefined;
  });
}

function cellOf(compiled: Compiled, selection: SelectionPlan, target: PlanPiece): LinkCell {
  const source = compiled.plan.pieces.find(({ name }) => name === selection.source);
  const choices = choicesOf(compiled, selection, source, target);
  const own = selection.effects.find((one) => one.target === target.name);
  if (own) {
    const effect = own.written ?? own.effect;
    const word = [effectSpec(effect).word, ...(own.amount === undefined ? [] : [own.amount])].join(" ");
    return { type: "does", effect, word, choices };
  }
  if (selection.source === target.name) return { type: "itself", choices };
  if (tablesDrawn(target.plan).some((table) => compiled.reaches(selection.table, table)))
    return { type: "nothing", choices };
  const reason =
    `${target.words.title} is drawn from ${target.plan.from}, ` + `which shares no rows with ${selection.table}`;
  return { type: "impossible", reason, choices };
}

/** Places of the sentences that make a selection. */
const sentencesOf = ({ sheet }: Compiled, { gesture, source, name }: SelectionPlan): number[] =>
  sheet.links
    .filter(
      ({ sentence: one }) =>
        one.type === "gesture" &&
        one.gesture === gesture &&
        one.source.name.split(".")[0] === source &&
        (one.as === undefined || one.as.name === name),
    )
    .map(({ path }) => Number(path[1]));

/** The square of all sources and targets: who drives whom. */
export function linkMatrix(compiled: Compiled): LinkMatrix {
  const { plan } = compiled;
  const rows = plan.selections.map((selection): LinkRow => {
    const { name, source, gesture, by } = selection;
    const piece = plan.pieces.find((one) => one.name === source);
    const control = plan.controls.find((one) => one.name === source);
    const words = `${gesture}${by.length ? ` by ${by.join(", ")}` : ""}`;
    return {
      selection: name,
      source,
      title: piece?.words.title ?? control?.label ?? source,
      gesture: gesture === "control" ? "control" : words,
      sentences: sentencesOf(compiled, selection),
      ...(piece ? { head: `${gesture} on ${source}${by.length ? ` by ${by.join(", ")}` : ""}` } : {}),
      cells: plan.pieces.map((target) => cellOf(compiled, selection, target)),
    };
  });
  rows.sort((a, b) => Number(a.gesture === "control") - Number(b.gesture === "control"));
  return {
    targets: plan.pieces.map((piece) => ({
      name: piece.name,
      title: piece.words.title,
      table: piece.plan.from,
      gestures: GESTURES.filter(
        (gesture) =>
          !plan.selections.some((own) => own.source === piece.name && own.gesture === gesture) &&
          !("problem" in gestureSpec(gesture).basis(piece, layerOf(piece))),
      ),
    })),
    rows,
  };
}
