import { drawChart } from "../chart/draw";
import { figureTexts } from "../chart/figure-texts";
import type { ChartInput } from "../chart/inputs";
import type { ChartPlan } from "../chart/plan";
import { writeCount } from "../formula/format";
import type { Model } from "../model/model";
import { countFilled } from "../query/drawn";
import { markCount } from "../scene/scene";
import { sceneSvg } from "../scene/svg";
import type { Ground } from "../scene/theme";

/** A piece as small as a stamp: its marks without axes, its number, or how many rows it lists. */
export type Picture =
  | { type: "svg"; svg: string }
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

/** Draws a piece small, as it is with no selection on. */
export function pictureOf(model: Model, name: string, width: number, height: number, ground: Ground): Picture {
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
  const input = model.chartInput(name, width, height, new Set());
  if (!input) return { type: "words", words: "empty" };
  const { scene } = drawChart(bare(input));
  const marks = markCount(scene);
  if (marks > MOST_MARKS) return { type: "words", words: `${writeCount(marks)} marks` };
  return { type: "svg", svg: sceneSvg({ ...scene, texts: [] }, piece.words.title, ground) };
}
