import { layerOptions, type SortedName, sortQueries } from "../chart/questions";
import type { EffectName } from "../link/effects/index";
import type { Asked } from "../link/engine";
import { familiesOf, pathUp } from "../link/route";
import type { Plan, PlanPiece } from "../plan/plan";
import type { Answer } from "../query/answer";
import { isCutBelowMerge } from "../steps/run";

/** What a piece asks the engine. */
export interface PieceQuestions {
  piece: PlanPiece;
  /** One a layer; a figure or data table has one. */
  layers: Asked[];
  sorts: Partial<Record<SortedName, Asked>>;
  /** Tables that lie under its map. */
  under: Asked[];
  /** The small line of a figure. */
  spark?: Asked;
  /** The rows behind a chart's marks. */
  behind?: Asked;
  /** The values that stand in its words. */
  live?: Asked;
  filters: string[];
  /** Its table is cut below a selection, so that its categories are those of what is drawn. */
  cut: boolean;
  fades: { selection: string; amount: number }[];
  highlights: string[];
  /** Answers as they stood when the last gesture ended. */
  settled: Map<Asked, Answer>;
}

/** How faint the rest is when a selection fades. */
const FADED = 0.15;

/** The selections that have an effect on a piece, and how faint a fade leaves the rest. */
export function effectsOn({ selections, style }: Plan, piece: string, effect: EffectName) {
  return selections.flatMap((selection) =>
    selection.effects
      .filter((own) => own.effect === effect && own.target === piece)
      .map(({ amount = style.fade ?? FADED, axis }) => ({ selection: selection.name, amount, axis })),
  );
}

/** True for a table that is cut below a merging step. */
function isCut(plan: Plan, from: string): boolean {
  const tables = new Map(plan.tables.map((table) => [table.name, table]));
  const path = pathUp(from, familiesOf(plan.tables)).reverse();
  return isCutBelowMerge(path.flatMap((name) => tables.get(name)?.steps ?? []));
}

/** The questions of a piece of a plan, whose looks and columns are those that the settings have chosen. */
export function questionsOf(whole: Plan, piece: PlanPiece): PieceQuestions {
  const filters = effectsOn(whole, piece.name, "filter").map(({ selection }) => selection);
  const fades = effectsOn(whole, piece.name, "fade");
  const highlights = effectsOn(whole, piece.name, "highlight").map(({ selection }) => selection);
  const every = [...filters, ...fades.map(({ selection }) => selection), ...highlights];
  const { plan } = piece;
  const live = piece.live && { live: { query: piece.live.query, options: {}, filters } };
  if (plan.type !== "chart")
    return {
      ...live,
      ...(plan.type === "figure" && plan.spark
        ? { spark: { query: plan.spark, options: { fillAlong: "x" }, filters: every } }
        : {}),
      piece,
      layers: [{ query: plan.query, options: {}, filters: every }],
      sorts: {},
      under: [],
      filters,
      cut: false,
      fades,
      highlights,
      settled: new Map(),
    };
  const options = layerOptions(plan);
  const layers = plan.layers.map((layer): Asked => ({ query: layer.query, options, filters: every }));
  const sorts: PieceQuestions["sorts"] = {};
  for (const [axis, query] of Object.entries(sortQueries(plan)))
    sorts[axis as SortedName] = { query, options: {}, filters: every };
  const under = (plan.map?.under ?? []).map(({ query }): Asked => ({ query, options: {}, filters: [] }));
  return {
    ...live,
    ...(plan.behind ? { behind: { query: plan.behind, options: {}, filters: every } } : {}),
    piece,
    layers,
    sorts,
    under,
    filters,
    cut: plan.layers.every(({ query }) => isCut(whole, query.from)),
    fades,
    highlights,
    settled: new Map(),
  };
}
