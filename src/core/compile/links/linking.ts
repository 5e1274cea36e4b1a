import { leadingLayer } from "../../chart/leading";
import type { LayerPlan } from "../../chart/plan";
import { writeFix } from "../../finding/finding";
import { listed, nearest } from "../../finding/nearest";
import type { EffectSpec } from "../../link/effects/effect";
import type { SelectionPlan } from "../../link/selection";
import type { ControlPlan, PlanPiece } from "../../plan/plan";
import { tablesDrawn } from "../../plan/tables-drawn";
import type { PlacedName } from "../../sheet/link-sentence";
import type { Path } from "../../sheet/tree";
import { ancestry, type Compiling, routeOf } from "../compiling";

/** Selections as they gather from controls and links. */
export interface Linking {
  compiling: Compiling;
  pieces: Map<string, PlanPiece>;
  controls: ControlPlan[];
  selections: SelectionPlan[];
  /** Selections that were named with `as`. */
  namedByAuthor: Set<string>;
}

/** Adds a finding at a word of a sentence. */
export function blame(
  linking: Linking,
  path: Path,
  word: { start: number; end: number },
  code: string,
  message: string,
  replacement?: string,
) {
  const span = linking.compiling.sheet.source.insideSpan(path, word.start, Math.max(word.end, word.start + 1));
  linking.compiling.findings.push({
    code,
    severity: "error",
    message,
    ...(span ? { span } : {}),
    ...writeFix(span, replacement),
  });
}

const meant = (near: string | undefined, all: Iterable<string>) =>
  near ? `; did you mean ${near}?` : `; charts are ${listed(all)}`;

/** Whether a name in a list of a control is that of a piece; said where it is not. */
export function isKnownPiece({ compiling, pieces }: Linking, name: string, path: Path): boolean {
  if (pieces.has(name)) return true;
  if (compiling.sheet.broken.has(name)) return false;
  const near = nearest(name, pieces.keys());
  const span = compiling.sheet.source.valueSpan(path);
  compiling.findings.push({
    code: "unknown-piece",
    severity: "error",
    message: `there is no chart "${name}"${meant(near, pieces.keys())}`,
    ...(span ? { span } : {}),
    ...writeFix(span, near),
  });
  return false;
}

/**
 * The piece that a word of a sentence names; said where there is none. A target may name a table by mistake, in
 * place of all pieces that show it but the `source` of the gesture.
 */
export function placedPiece(linking: Linking, word: PlacedName, path: Path, source?: PlanPiece): PlanPiece | undefined {
  const { pieces, compiling } = linking;
  const { sheet } = compiling;
  const name = word.name.split(".")[0] as string;
  const piece = pieces.get(name);
  if (piece || sheet.broken.has(name)) return piece;
  if (sheet.controls.has(name)) {
    blame(linking, path, word, "unknown-piece", `"${name}" is a control; gestures are made on charts`);
    return undefined;
  }
  if (sheet.tables.has(name)) {
    const shown = [...pieces.values()].filter(({ plan }) => plan.from === name).map((one) => one.name);
    const hint = shown.length ? `, such as ${listed(shown)}` : ": draw it with draw: table";
    const all = source && shown.filter((one) => one !== source.name).join(", ");
    const message = `"${name}" is a table; links name the pieces that show it${hint}`;
    blame(linking, path, word, "unknown-piece", message, all || undefined);
    return undefined;
  }
  const isAll = source !== undefined && /^(?:every\w*|others?|rest|\*)$/i.test(name);
  const near = isAll ? "all" : nearest(name, pieces.keys());
  blame(linking, path, word, "unknown-piece", `there is no chart "${name}"${meant(near, pieces.keys())}`, near);
  return undefined;
}

/** The layer on which a gesture is made: the one named, else the one that the chart is about. */
export function layerOf(piece: PlanPiece, word?: PlacedName): LayerPlan | undefined {
  if (piece.plan.type !== "chart") return undefined;
  const wanted = word?.name.split(".")[1];
  return wanted === undefined
    ? leadingLayer(piece.plan)
    : piece.plan.layers.find((layer) => String(layer.name) === wanted);
}

/**
 * Pieces drawn from a table, from one made of it or in which its rows are stacked, or from one whose rows were
 * looked up in it.
 */
export function dependants({ compiling, pieces }: Linking, table: string): PlanPiece[] {
  return [...pieces.values()].filter(({ plan }) => tablesDrawn(plan).some((one) => dependsOn(compiling, one, table)));
}

function dependsOn(compiling: Compiling, name: string, table: string): boolean {
  if (ancestry(compiling, name).includes(table)) return true;
  const route = routeOf(compiling, table, name);
  if (route?.stack === "into" || route?.tie?.right === table) return true;
  // What was looked up was made of the table, or has looked it up in turn.
  return route?.via !== undefined && route.tie?.right === route.via && dependsOn(compiling, route.via, table);
}

/** What a gesture is made on, and the table whose rows it picks. */
export interface GestureSource {
  piece: PlanPiece;
  table: string;
  /** The axes on which it holds a range. */
  axes: readonly ("x" | "y")[];
}

/** Whether a choice of a table's rows reaches a piece, or one of its layers at least. */
export const sharesRows = (compiling: Compiling, table: string, { plan }: PlanPiece): boolean =>
  tablesDrawn(plan).some((one) => routeOf(compiling, table, one) !== undefined);

/** Every other piece of the source's family on which an effect can be had. */
export function everyOther({ compiling, pieces }: Linking, effect: EffectSpec, source: GestureSource): PlanPiece[] {
  return [...pieces.values()].filter(
    (piece) =>
      piece.name !== source.piece.name &&
      sharesRows(compiling, source.table, piece) &&
      effect.problem(source.piece, piece, source.axes) === undefined,
  );
}

/** Whether a selection filters every chart that it could: then its rows are those left of the whole report. */
export function filtersEverywhere(linking: Linking, { source, gesture, table, effects }: SelectionPlan): boolean {
  const { compiling, pieces } = linking;
  const filtered = new Set(effects.filter(({ effect }) => effect === "filter").map(({ target }) => target));
  const ofTable = (piece: PlanPiece) => sharesRows(compiling, table, piece);
  const could = gesture === "control" ? dependants(linking, table) : [...pieces.values()].filter(ofTable);
  return filtered.size > 0 && could.every((piece) => piece.name === source || filtered.has(piece.name));
}
