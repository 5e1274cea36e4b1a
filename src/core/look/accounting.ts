import { drawChart } from "../chart/draw";
import type { LayerPlan } from "../chart/plan";
import type { Compiled } from "../compile/compile";
import { evaluate, frameOf, rowsWhere } from "../formula/evaluate";
import { markSpec } from "../mark/specs";
import type { Model } from "../model/model";
import type { Answer } from "../query/answer";
import { countFilled } from "../query/drawn";
import { Discs } from "../scene/shapes/discs";

/** One stretch of the stream from a table's rows to the marks of a chart. */
export interface AccountLine {
  count: number;
  what: string;
  /** What left between the stretch before and this one, in words. */
  lost?: string;
  /** The stage of the table at which these rows stand: 0 as they were read, then one a step. */
  stage?: number;
}

/** The box for which marks off the scale are counted; scales do not depend on it, only ticks do. */
const BOX = { width: 800, height: 400 };

/** Rows, groups and marks of a piece, from the table it was read from to what is drawn with no selection on. */
export function accountOf(compiled: Compiled, model: Model, name: string): AccountLine[] {
  const piece = model.piece(name);
  if (!piece) return [];
  const { from } = piece.plan;
  const stages = compiled.stages.get(from);
  const lines: AccountLine[] = [];
  const add = (count: number, what: string, lost: number, why: string, stage?: number) =>
    lines.push({
      count,
      what,
      ...(lost > 0 ? { lost: `${lost} ${why}` } : {}),
      ...(stage === undefined ? {} : { stage }),
    });
  const source = stages?.tables[0]?.rowCount ?? 0;
  const rows = stages?.tables.at(-1)?.rowCount ?? 0;
  add(source, `rows in ${from}`, 0, "", stages && 0);
  if ((stages?.tables.length ?? 1) > 1) {
    const merged = stages?.ledger.some(({ step }) => step.startsWith("group"));
    add(
      rows,
      merged ? "rows after its steps" : "kept by its steps",
      merged ? 0 : source - rows,
      reasons(stages?.ledger.flatMap(({ losses }) => losses) ?? []),
      (stages?.tables.length ?? 1) - 1,
    );
  }
  const layer = layerAnswer(model, name);
  if (!layer) return lines;
  const { prepared } = layer;
  const { keep } = prepared.query;
  // Of a question that nothing reaches the dashboard has the groups alone.
  const table = (prepared.query.finished && stages?.tables.at(-1)) || prepared.table;
  const kept = keep
    ? rowsWhere(evaluate(keep, frameOf(table, prepared.setting)), table.rowCount).rows.length
    : table.rowCount;
  if (keep) add(kept, "kept by the chart", table.rowCount - kept, "by its keep");
  let placed = 0;
  for (const rows of layer.counts) placed += rows;
  if (placed < kept) add(placed, "have a place", kept - placed, "missing a value");
  const groups = countFilled(layer);
  if (piece.plan.type === "figure" || piece.plan.type === "note")
    add(1, piece.plan.type === "note" ? "text" : "number", 0, "");
  else if (piece.plan.type === "table" || piece.plan.type === "summary")
    add(groups, prepared.query.grouped ? "groups listed" : "rows listed", 0, "");
  else {
    if (prepared.query.grouped) add(groups, "groups", 0, "");
    const { draw } = piece.plan.layers[0] as LayerPlan;
    const { many } = markSpec(draw);
    const first = marksInSight(model, name);
    const empty = first - groups;
    if (prepared.query.grouped && empty > 0)
      lines.push({ count: first, what: `${many} drawn`, lost: `${empty} of them empty` });
    else add(first, `${many} drawn`, markSpec(draw).takes.includes("along") ? 0 : groups - first, "off the scale");
  }
  return lines;
}

/** Marks of the first layer whose middle lies in its plot. */
function marksInSight(model: Model, name: string): number {
  const input = model.chartInput(name, BOX.width, BOX.height, new Set());
  let count = 0;
  for (const { plot, layers } of input ? drawChart(input).panels : []) {
    for (const shape of layers[0]?.shapes ?? []) {
      if (!(shape instanceof Discs)) count += shape.ids.length;
      else
        for (let mark = 0; mark < shape.ids.length; mark++) {
          const { x, y } = shape.middle(mark);
          if (x >= plot.x - 1 && x <= plot.x + plot.width + 1 && y >= plot.y - 1 && y <= plot.y + plot.height + 1)
            count += 1;
        }
    }
  }
  return count;
}

function layerAnswer(model: Model, name: string): Answer | undefined {
  const piece = model.piece(name);
  if (!piece) return undefined;
  if (piece.plan.type !== "chart") return model.plainAnswer(name)?.all;
  return model.chartInput(name, BOX.width, BOX.height, new Set())?.layers[0]?.all;
}

function reasons(losses: readonly { rows: number; reason: string }[]): string {
  const words = losses.map(({ rows, reason }) => `${rows} ${reason}`);
  return words.length === 0 ? "by its steps" : `by its steps: ${words.slice(0, 3).join(", ")}`;
}
