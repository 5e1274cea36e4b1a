import { leadingLayer } from "../chart/leading";
import type { ChartPlan, PiecePlan, PieceWords } from "../chart/plan";
import type { PlanPiece } from "../plan/plan";
import { CHART_KEYS, FIGURE_KEYS, SUMMARY_KEYS, TABLE_KEYS } from "../sheet/piece-keys";
import type { ChartSpec } from "../sheet/schema-charts";
import type { Path } from "../sheet/tree";
import { capital } from "../table/column-names";
import { nounOf, spaced } from "./channels";
import { readChart } from "./chart";
import { addFinding, type Compiling } from "./compiling";
import { readDataTable } from "./data-table";
import { readFigure } from "./figure";
import { LiveReader } from "./live-words";
import type { Place } from "./piece-place";
import { readSummary } from "./summary";
import { unknownTable } from "./unknown-table";

/** The ways of showing rows, each with the keys that only it has. */
const KINDS: Record<
  PiecePlan["type"],
  { keys: readonly (keyof ChartSpec)[]; read: (place: Place, spec: ChartSpec) => PiecePlan | undefined }
> = {
  chart: { keys: CHART_KEYS, read: readChart },
  summary: { keys: SUMMARY_KEYS, read: readSummary },
  note: { keys: [], read: () => undefined },
  figure: { keys: FIGURE_KEYS, read: readFigure },
  table: { keys: TABLE_KEYS, read: readDataTable },
};

const WORDS = ["subtitle", "credit", "hint", "empty"] as const;

/** Checks a chart, figure or data table; nothing where it cannot be drawn. */
export function readPiece(compiling: Compiling, name: string, spec: ChartSpec): PlanPiece | undefined {
  const path = ["charts", name];
  const wrong = (key: string | undefined, code: string, message: string) => {
    addFinding(compiling, key === undefined ? path : [...path, key], code, message, { piece: name });
    return undefined;
  };
  if (!spec.draw && !spec.layers) return wrong(undefined, "key-missing", "a chart needs draw: or layers:");
  if (spec.draw && spec.layers)
    return wrong("layers", "wrong-key", "draw: and layers: do not go together; write draw: in each layer");
  const built = compiling.tables.get(spec.from);
  if (!built) {
    if (!compiling.sheet.tables.has(spec.from) && !compiling.sheet.broken.has(`tables.${spec.from}`))
      unknownTable(compiling, [...path, "from"], spec.from, name);
    return undefined;
  }
  compiling.used.add(`tables.${spec.from}`);
  const place: Place = { compiling, name, path, built };
  const kind = spec.draw === "figure" || spec.draw === "table" || spec.draw === "summary" ? spec.draw : "chart";
  const misplaced = Object.entries(KINDS)
    .filter(([other]) => other !== kind)
    .flatMap(([, { keys }]) => keys)
    .filter((key) => spec[key] !== undefined && !KINDS[kind].keys.includes(key));
  for (const key of misplaced) wrong(key, "wrong-key", `"${key}" does not go with ${spec.draw ?? "layers"}`);
  if (misplaced.length) return undefined;
  const plan = KINDS[kind].read(place, spec);
  if (!plan) return undefined;
  const { words, live } = readWords(place, spec, plan);
  if (live === null) return undefined;
  const piece: PlanPiece = { name, words, ...(live ? { live } : {}), plan };
  if (spec.height !== undefined) piece.height = spec.height;
  if (spec.wait_for === undefined) return piece;
  const known = compiling.selections?.has(spec.wait_for);
  if (!known && compiling.promised?.has(spec.wait_for)) return undefined;
  if (!known)
    return wrong("wait_for", "unknown-selection", `"${spec.wait_for}" is no selection: no gesture or pick goes by it`);
  return { ...piece, waitsFor: spec.wait_for };
}

/** Title and the lines around a piece, and those of them in which values stand. */
function readWords(place: Place, spec: ChartSpec, plan: PiecePlan) {
  const keep = plan.type === "chart" ? leadingLayer(plan).query.keep : plan.query.keep;
  const reader = new LiveReader(place, keep);
  const read = (key: string, text: string, ...path: Path) => reader.read(key, text, [...place.path, ...path]);
  const words: PieceWords = { title: titleOf(place, plan) };
  if (spec.title === "none") words.untitled = true;
  else if (spec.title !== undefined) {
    const title = read("title", spec.title, "title");
    // While its values are not known, a title says nothing: where it stands alone, the piece's name does.
    if (title === spec.title) words.title = title;
  }
  for (const key of WORDS) if (spec[key] !== undefined) words[key] = read(key, spec[key], key);
  if (plan.type === "chart")
    for (const [axis, path] of titledAxes(plan)) {
      const own = plan.axes[axis];
      if (own?.title.includes("{")) own.title = read(`axis ${axis}`, own.title, ...path, "title");
    }
  return { words, live: reader.done() };
}

/** The axes of a chart with where the sheet has their words. */
function titledAxes({ layers }: ChartPlan): ["x" | "y" | "y2", Path][] {
  const right = layers.findIndex(({ side }) => side === "right");
  return [
    ["x", ["axes", "x"]],
    ["y", ["axes", "y"]],
    ...(right < 0 ? [] : [["y2", ["layers", right, "axes", "y"]] as ["y2", Path]]),
  ];
}

function titleOf({ compiling, name }: Place, plan: PiecePlan): string {
  if (plan.type === "figure") return capital(plan.query.channels.value?.label ?? name);
  if (plan.type !== "table" && plan.type !== "summary") return capital(spaced(name));
  // A list of rows is called after them, unless it lists groups of them, or another one is called so: readers who hear
  // titles must tell both apart.
  const others = [...compiling.sheet.charts].filter(
    ([other, { draw, from, title }]) =>
      other !== name && from === plan.from && title === undefined && (draw === "table" || draw === "summary"),
  );
  return capital(others.length || plan.query.grouped ? spaced(name) : nounOf(compiling, plan.from));
}
