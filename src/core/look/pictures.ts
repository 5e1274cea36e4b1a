import { drawChart } from "../chart/draw";
import { figureTexts } from "../chart/figure-texts";
import type { ChartInput } from "../chart/inputs";
import type { ChartPlan } from "../chart/plan";
import { writeCount } from "../formula/format";
import { markDraw } from "../mark/draws";
import type { Model } from "../model/model";
import { countFilled } from "../query/drawn";
import { markCount } from "../scene/scene";
import { sceneSvg } from "../scene/svg";
import type { Ground } from "../scene/theme";

/** A piece as small as a stamp: its marks without axes, its number, or how many rows it lists. */
export type Picture =
  /** `every`: of its points each so-and-so-many-th is drawn. */
  | { type: "svg"; svg: string; every?: number }
  | { type: "figure"; value: string; unit: string }
  | { type: "rows"; rows: number }
  | { type: "words"; words: string };

const MOST_MARKS = 3000;

/** Marks only: axes are left out where they could not be read anyway. */
function bare(input: ChartInput): ChartInput {
  const axes: ChartPlan["axes"] = {};
  for (const axis of ["x", "y"] as const) {
    const own = input.plan.axes[axis];
    if (own) axes[axis] = { ...own, hidden: true, grid: false };
  }
  return { ...input, plan: { ...input.plan, axes } };
}

/** Of layers that draw every row only so many as a small picture can hold: each so-and-so-many-th. */
function thinned(input: ChartInput): { input: ChartInput; every: number } {
  let most = 1;
  const layers = input.layers.map((layer) => {
    const { counts, prepared } = layer.current;
    // What joins its rows needs all of them; a picture of it has few shapes.
    if (prepared.query.grouped || !markDraw(layer.plan.draw).discs) return layer;
    let drawn = 0;
    for (const count of counts) if (count) drawn += 1;
    const every = Math.ceil(drawn / MOST_MARKS);
    if (every <= 1) return layer;
    most = Math.max(most, every);
    let next = 0;
    const kept = Uint8Array.from(counts, (count) => (count && next++ % every === 0 ? 1 : 0));
    return { ...layer, options: { ...layer.options, shade: null }, current: { ...layer.current, counts: kept } };
  });
  return { input: { ...input, layers }, every: most };
}

/** Draws a piece small, as it is with no selection on; `withAxes` where there is room to read them. */
export function pictureOf(
  model: Model,
  name: string,
  width: number,
  height: number,
  ground: Ground,
  withAxes = false,
): Picture {
  const piece = model.piece(name);
  if (!piece) return { type: "words", words: "broken" };
  if (piece.plan.type === "figure") {
    const found = model.plainAnswer(name);
    if (!found) return { type: "words", words: "empty" };
    const { value, unit } = figureTexts(piece.plan, found.answer, found.all);
    return { type: "figure", value, unit };
  }
  if (piece.plan.type === "table") {
    const found = model.plainAnswer(name);
    return { type: "rows", rows: found ? countFilled(found.answer) : 0 };
  }
  if (piece.plan.type === "summary")
    return { type: "words", words: `${writeCount(Object.keys(piece.plan.query.channels).length)} columns` };
  const whole = model.chartInput(name, width, height, new Set());
  if (!whole) return { type: "words", words: "empty" };
  const { input, every } = thinned(whole);
  const { scene } = drawChart(withAxes ? input : bare(input));
  const marks = markCount(scene);
  if (marks > MOST_MARKS * 2) return { type: "words", words: `${writeCount(marks)} marks` };
  const svg = sceneSvg(withAxes ? scene : { ...scene, texts: [] }, piece.words.title, ground);
  return { type: "svg", svg, ...(every > 1 ? { every } : {}) };
}
