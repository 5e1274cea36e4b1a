import { listed, nearest } from "../../finding/nearest";
import type { Formula } from "../../formula/tree";
import type { EffectSpec } from "../../link/effects/effect";
import { effectSpec } from "../../link/effects/index";
import { type Basis, channelWords } from "../../link/gestures/gesture";
import { gestureSpec } from "../../link/gestures/index";
import type { SelectionEffect, SelectionPlan } from "../../link/selection";
import type { PlanPiece } from "../../plan/plan";
import type { LinkEffect, LinkSentence, PlacedName } from "../../sheet/link-sentence";
import type { Path } from "../../sheet/tree";
import { channelOf, nounOf } from "../channels";
import { ancestry, type Compiling } from "../compiling";
import { blame, everyOther, type GestureSource, type Linking, layerOf, placedPiece, sharesRows } from "./linking";
import { rowKeys } from "./row-keys";

type GestureSentence = LinkSentence & { type: "gesture" };

/** The selection that a sentence makes; nothing where something in it is found wrong. */
export function gestureSelection(linking: Linking, sentence: GestureSentence, path: Path): SelectionPlan | undefined {
  const piece = placedPiece(linking, sentence.source, path);
  if (!piece) return undefined;
  const layer = layerOf(piece, sentence.source);
  if (piece.plan.type === "chart" && !layer) {
    const wanted = sentence.source.name.split(".")[1];
    const known = listed(piece.plan.layers.map((one) => String(one.name)));
    blame(
      linking,
      path,
      sentence.source,
      "unknown-layer",
      `${piece.name} has no layer "${wanted}"; layers are ${known}`,
    );
    return undefined;
  }
  const gesture = gestureSpec(sentence.gesture);
  const basis = gesture.basis(piece, layer);
  if ("problem" in basis) {
    blame(linking, path, { start: 0, end: sentence.source.end }, "gesture-here", basis.problem);
    return undefined;
  }
  // A layer may have a table of its own, and its rows are no others' rows.
  const table = layer?.query.from ?? piece.plan.from;
  const written = readColumns(linking, sentence.by, table, path);
  // A row below a merging step is known by that step's keys: in a table made anew its number is another row's.
  const by = written?.length || !isOfRows(basis) ? written : rowKeys(linking, table);
  const axes = (["x", "y"] as const).filter((axis) => basis.axes[axis]);
  const effects = by && readEffects(linking, sentence.effects, { piece, table, axes }, path);
  const name = effects && freeName(linking, sentence, `${piece.name}${gesture.suffix}`, piece, path);
  if (!by || !effects || name === undefined) return undefined;
  const problem = fittedProblem(linking, piece.name, table, basis, effects);
  if (problem !== undefined) {
    blame(linking, path, { start: 0, end: sentence.source.end }, "gesture-here", problem);
    return undefined;
  }
  return {
    name,
    source: piece.name,
    gesture: sentence.gesture,
    kept: gesture.kept,
    table,
    axes: basis.axes,
    ...(basis.outline ? { outline: basis.outline } : {}),
    ...(basis.byMarks ? { byMarks: true as const } : {}),
    ...(basis.ons ? { ons: basis.ons } : {}),
    keys: by.length ? keysOfColumns(by) : basis.keys,
    by,
    effects,
    words: { ...basis.words, ...columnWords(linking.compiling, table, by) },
  };
}

/** Why a stretch of a fitted curve picks no rows; nothing where it is of rows, or its ends alone are asked for. */
function fittedProblem(
  { compiling }: Linking,
  piece: string,
  table: string,
  { axes, outline }: Basis,
  effects: readonly SelectionEffect[],
): string | undefined {
  const isRanged = Object.keys(axes).length > 0 || outline !== undefined;
  if (!isRanged || effects.every(({ effect }) => effectSpec(effect).rows === "none")) return undefined;
  const steps = ancestry(compiling, table).flatMap((name) => compiling.tables.get(name)?.steps ?? []);
  const fitted = steps.find((step) => step.do === "smooth" || step.do === "density");
  return (
    fitted && `${piece} shows what the step ${fitted.do} has fitted, which stands for no rows; brush a chart of rows`
  );
}

/** True for what picks single rows, and neither groups nor ranges. */
const isOfRows = ({ axes, keys, outline, byMarks }: Basis): boolean =>
  Object.keys(axes).length + Object.keys(keys).length === 0 && !outline && !byMarks;

/** The columns that `by` names; said where the table has not one of them. */
function readColumns(
  linking: Linking,
  words: readonly PlacedName[],
  tableName: string,
  path: Path,
): string[] | undefined {
  const columns = linking.compiling.tables.get(tableName)?.table.columns;
  for (const word of words) {
    if (columns?.has(word.name)) continue;
    const near = nearest(word.name, columns?.keys() ?? []);
    const hint = near ? `; did you mean ${near}?` : "";
    blame(linking, path, word, "unknown-column", `${tableName} has no column "${word.name}"${hint}`, near);
    return undefined;
  }
  return words.map(({ name }) => name);
}

/** The name of a selection, if nothing else goes by it. */
function freeName(
  linking: Linking,
  { as, source }: GestureSentence,
  natural: string,
  piece: PlanPiece,
  path: Path,
): string | undefined {
  const name = as?.name ?? natural;
  if (as && (linking.pieces.has(name) || linking.controls.some((control) => control.name === name))) {
    blame(linking, path, as, "doubled-name", `"${name}" is the name of a piece already`);
    return undefined;
  }
  if (linking.selections.some((selection) => selection.name === name)) {
    const message = as
      ? `there is a selection "${name}" already`
      : `two selections on ${piece.name} have no name of their own; give one with as NAME`;
    blame(linking, path, as ?? source, "doubled-selection", message);
    return undefined;
  }
  if (as) linking.namedByAuthor.add(name);
  return name;
}

const keysOfColumns = (columns: readonly string[]): Record<string, Formula> =>
  Object.fromEntries(columns.map((name) => [name, { type: "column", name } satisfies Formula]));

/** Words of the columns that `by` names. */
function columnWords(compiling: Compiling, table: string, columns: readonly string[]): SelectionPlan["words"] {
  const built = compiling.tables.get(table);
  return Object.fromEntries(
    columns.flatMap((name) => {
      const kind = built?.table.columns.get(name)?.kind;
      if (!built || !kind) return [];
      const checked = { formula: { type: "column", name } as const, kind, aggregate: false, constant: false };
      return [[name, channelWords(channelOf(checked, nounOf(compiling, table), built.table))]];
    }),
  );
}

function readEffects(
  linking: Linking,
  clauses: readonly LinkEffect[],
  source: GestureSource,
  path: Path,
): SelectionEffect[] | undefined {
  const effects: SelectionEffect[] = [];
  let sound = true;
  for (const clause of clauses) {
    const effect = effectSpec(clause.effect);
    const done = (piece: PlanPiece): Pick<SelectionEffect, "effect" | "written"> => {
      const instead = effect.insteadOn?.(piece);
      return instead ? { effect: instead, written: clause.effect } : { effect: clause.effect };
    };
    const amount = clause.amount === undefined ? {} : { amount: clause.amount };
    for (const target of clause.targets) {
      if (target.name === "all") {
        const others = everyOther(linking, effect, source);
        // Where a piece is refused, it may be the one.
        if (others.length === 0 && linking.compiling.sheet.broken.size === 0)
          reachesNothing(linking, effect, source.piece, target, path);
        for (const piece of others) effects.push({ ...done(piece), target: piece.name, ...amount });
        continue;
      }
      const piece = placedPiece(linking, target, path, source.piece);
      const problem = piece && effectProblem(linking, effect, source, piece);
      if (problem !== undefined) blame(linking, path, target, "effect-here", problem);
      if (!piece || problem !== undefined) sound = false;
      else effects.push({ ...done(piece), target: piece.name, ...amount });
    }
  }
  return sound ? effects : undefined;
}

/** Says that a sentence does nothing: no other piece has anything to do with the one on which the gesture is made. */
function reachesNothing({ compiling }: Linking, { name }: EffectSpec, source: PlanPiece, word: PlacedName, path: Path) {
  const span = compiling.sheet.source.insideSpan(path, word.start, word.end);
  compiling.findings.push({
    code: "reaches-nothing",
    severity: "warning",
    message:
      `no other chart shares rows with ${source.name}, so there is nothing to ` +
      `${name}; tables are tied by a join, or by being made from one another`,
    ...(span ? { span } : {}),
  });
}

function effectProblem(
  { compiling }: Linking,
  effect: EffectSpec,
  { piece: source, table, axes }: GestureSource,
  target: PlanPiece,
): string | undefined {
  if (!effect.onItself && source.name === target.name)
    return `${source.name} cannot filter itself; it marks its own pick`;
  const problem = effect.problem(source, target, axes);
  if (problem !== undefined || (effect.rows === "none" && !effect.insteadOn?.(target))) return problem;
  if (sharesRows(compiling, table, target)) return undefined;
  return (
    `${target.name} is drawn from ${target.plan.from}, which shares no rows with ` +
    `${table}; tables are tied by a join, or by being made from one another`
  );
}
