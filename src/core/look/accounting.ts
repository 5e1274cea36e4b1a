import { drawChart } from "../chart/draw";
import type { LayerPlan } from "../chart/plan";
import { layerOptions } from "../chart/questions";
import type { Compiled } from "../compile/compile";
import { evaluate, frameOf, rowsWhere } from "../formula/evaluate";
import { markSpec } from "../mark/specs";
import type { Model } from "../model/model";
import type { Answer } from "../query/answer";
import { countFilled } from "../query/drawn";
import { prepareQuery } from "../query/prepare";
import { Discs } from "../scene/shapes/discs";
import type { Table } from "../table/table";

/** Rows on the way from a table to a chart: kept by it or not, with a place there or not, drawn or off the scale. */
export const ROWS_ON_THE_WAY = ["kept", "not kept", "placed", "without a place", "off the scale"] as const;
export type RowsOnTheWay = (typeof ROWS_ON_THE_WAY)[number];

/** One stretch of the stream from a table's rows to the marks of a chart. */
export interface AccountLine {
  count: number;
  what: string;
  /** What left between the stretch before and this one, in words. */
  lost?: string;
  /** The stage of the table at which these rows stand: 0 as they were read, then one a step. */
  stage?: number;
  /** Which rows these are, and which left before them, where they can be looked at. */
  rows?: RowsOnTheWay;
  lostRows?: RowsOnTheWay;
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
  const add = (count: number, what: string, lost: number, why: string, more: Partial<AccountLine> = {}) => {
    const { lostRows, ...rest } = more;
    lines.push({
      count,
      what,
      ...rest,
      ...(lost > 0 ? { lost: `${lost} ${why}`, ...(lostRows ? { lostRows } : {}) } : {}),
    });
  };
  const source = stages?.tables[0]?.rowCount ?? 0;
  const rows = stages?.tables.at(-1)?.rowCount ?? 0;
  add(source, `rows in ${from}`, 0, "", stages ? { stage: 0 } : {});
  if ((stages?.tables.length ?? 1) > 1) {
    const merged = stages?.ledger.some(({ step }) => step.startsWith("group"));
    add(
      rows,
      merged ? "rows after its steps" : "kept by its steps",
      merged ? 0 : source - rows,
      reasons(stages?.ledger.flatMap(({ losses }) => losses) ?? []),
      { stage: (stages?.tables.length ?? 1) - 1 },
    );
  }
  const layer = layerAnswer(model, name);
  if (!layer) return lines;
  const { prepared } = layer;
  const { keep } = prepared.query;
  const table = tableOf(compiled, layer);
  const kept = keptRows(compiled, layer)?.length ?? table.rowCount;
  // Of a table that settings make anew there are other rows than those that were looked at.
  const isThere = table.rowCount === rows;
  const look = (own: RowsOnTheWay, lostRows: RowsOnTheWay) => (isThere ? { rows: own, lostRows } : {});
  if (keep) add(kept, "kept by the chart", table.rowCount - kept, "by its keep", look("kept", "not kept"));
  let placed = 0;
  for (const rows of layer.counts) placed += rows;
  if (placed < kept) add(placed, "have a place", kept - placed, "missing a value", look("placed", "without a place"));
  const groups = countFilled(layer);
  if (piece.plan.type === "figure" || piece.plan.type === "note")
    add(1, piece.plan.type === "note" ? "text" : "number", 0, "");
  else if (piece.plan.type === "table" || piece.plan.type === "summary")
    add(groups, prepared.query.grouped ? "groups listed" : "rows listed", 0, "");
  else {
    if (prepared.query.grouped) add(groups, "groups", 0, "");
    const { draw } = piece.plan.layers[0] as LayerPlan;
    const { many } = markSpec(draw);
    const first = marksBy(model, name).inSight;
    const empty = first - groups;
    if (prepared.query.grouped && empty > 0)
      lines.push({ count: first, what: `${many} drawn`, lost: `${empty} of them empty` });
    else {
      const off = markSpec(draw).takes.includes("along") ? 0 : groups - first;
      add(first, `${many} drawn`, off, "off the scale", isThere ? { lostRows: "off the scale" } : {});
    }
  }
  return lines;
}

/** The table of an answer; of a question that nothing reaches the dashboard has the groups alone. */
function tableOf({ stages }: Compiled, { prepared }: Answer): Table {
  const { finished, from } = prepared.query;
  return (finished && stages.get(from)?.tables.at(-1)) || prepared.table;
}

/** The group of each row; a question that was finished without its rows is put to them once more. */
function groupsByRow(compiled: Compiled, model: Model, name: string, answer: Answer): Int32Array {
  const { query, setting, groups } = answer.prepared;
  if (!query.finished) return groups;
  const { finished: _, ...asked } = query;
  const plan = model.piece(name)?.plan;
  const options = plan?.type === "chart" ? layerOptions(plan) : {};
  return prepareQuery(asked, tableOf(compiled, answer), setting, options).groups;
}

/** The rows that the chart's own rule keeps; nothing where it has none. */
function keptRows(compiled: Compiled, answer: Answer): Int32Array | undefined {
  const { keep } = answer.prepared.query;
  const table = tableOf(compiled, answer);
  return keep && rowsWhere(evaluate(keep, frameOf(table, answer.prepared.setting)), table.rowCount).rows;
}

/** Rows of a piece's table that are on the way to its marks, or left it there; with no selection on. */
export function rowsOnTheWay(compiled: Compiled, model: Model, name: string, which: RowsOnTheWay): Int32Array {
  const answer = layerAnswer(model, name);
  if (!answer) return new Int32Array(0);
  const kept = keptRows(compiled, answer);
  if (which === "kept" && kept) return kept;
  const groups = groupsByRow(compiled, model, name, answer);
  const isKept = new Uint8Array(groups.length).fill(kept ? 0 : 1);
  for (const row of kept ?? []) isKept[row] = 1;
  const off = which === "off the scale" ? new Set(marksBy(model, name).off) : undefined;
  const tests: Record<RowsOnTheWay, (row: number) => boolean> = {
    kept: (row) => isKept[row] === 1,
    "not kept": (row) => isKept[row] === 0,
    placed: (row) => (groups[row] as number) >= 0,
    "without a place": (row) => isKept[row] === 1 && (groups[row] as number) < 0,
    "off the scale": (row) => off?.has(answer.prepared.query.grouped ? (groups[row] as number) : row) === true,
  };
  return Int32Array.from(groups.keys()).filter(tests[which]);
}

/** Marks of the first layer: how many have their middle in their plot, and which have it outside. */
function marksBy(model: Model, name: string): { inSight: number; off: number[] } {
  const input = model.chartInput(name, BOX.width, BOX.height, new Set());
  const off: number[] = [];
  let inSight = 0;
  for (const { plot, layers } of input ? drawChart(input).panels : []) {
    for (const shape of layers[0]?.shapes ?? []) {
      if (!(shape instanceof Discs)) inSight += shape.ids.length;
      else
        for (let mark = 0; mark < shape.ids.length; mark++) {
          const { x, y } = shape.middle(mark);
          if (x >= plot.x - 1 && x <= plot.x + plot.width + 1 && y >= plot.y - 1 && y <= plot.y + plot.height + 1)
            inSight += 1;
          else off.push(shape.ids[mark] as number);
        }
    }
  }
  return { inSight, off };
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
