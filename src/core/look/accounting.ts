import { drawChart } from "../chart/draw";
import { leadingLayer } from "../chart/leading";
import { layerOptions } from "../chart/questions";
import type { Compiled } from "../compile/compile";
import { evaluate, frameOf, rowsWhere } from "../formula/evaluate";
import { markSpec } from "../mark/specs";
import type { Model } from "../model/model";
import type { PlanPiece } from "../plan/plan";
import type { Answer } from "../query/answer";
import { countFilled } from "../query/drawn";
import { prepareQuery } from "../query/prepare";
import { LayerValues } from "../query/values";
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

/** A line of the account; what was lost is told where there is any. */
function line(count: number, what: string, lost = 0, why = "", { lostRows, ...rest }: Partial<AccountLine> = {}) {
  const gone = lost > 0 ? { lost: `${lost} ${why}`, ...(lostRows ? { lostRows } : {}) } : {};
  return { count, what, ...rest, ...gone };
}

/** Rows, groups and marks of a piece, from the table it was read from to what is drawn with no selection on. */
export function accountOf(compiled: Compiled, model: Model, name: string): AccountLine[] {
  const piece = model.piece(name);
  if (!piece) return [];
  const layer = layerAnswer(model, name);
  const before = stepLines(compiled, piece.plan.from);
  return layer ? [...before, ...pieceLines(compiled, model, piece, layer)] : before;
}

/** The rows of a table as it was read, and after its steps. */
function stepLines({ stages }: Compiled, from: string): AccountLine[] {
  const own = stages.get(from);
  const tables = own?.tables ?? [];
  const source = tables[0]?.rowCount ?? 0;
  const first = line(source, `rows in ${from}`, 0, "", own ? { stage: 0 } : {});
  if (!own || tables.length < 2) return [first];
  const rows = tables.at(-1)?.rowCount ?? 0;
  const stage = tables.length - 1;
  // What is grouped, made long or stacked is not what was there before.
  if (rows > source || own.ledger.some(({ step }) => step.startsWith("group")))
    return [first, line(rows, "rows after its steps", 0, "", { stage })];
  const why = reasons(own.ledger.flatMap(({ losses }) => losses));
  return [first, line(rows, "kept by its steps", source - rows, why, { stage })];
}

/** What a piece keeps, where it stands, and what comes of it. */
function pieceLines(compiled: Compiled, model: Model, piece: PlanPiece, layer: Answer): AccountLine[] {
  const lines: AccountLine[] = [];
  const { plan } = piece;
  const { query } = layer.prepared;
  const table = tableOf(compiled, layer);
  const kept = keptRows(compiled, layer)?.length ?? table.rowCount;
  // Of a table that settings make anew there are other rows than those that were looked at.
  const isThere = table.rowCount === (compiled.stages.get(plan.from)?.tables.at(-1)?.rowCount ?? 0);
  const look = (rows: RowsOnTheWay, lostRows: RowsOnTheWay) => (isThere ? { rows, lostRows } : {});
  if (query.keep)
    lines.push(line(kept, "kept by the chart", table.rowCount - kept, "by its keep", look("kept", "not kept")));
  let placed = 0;
  for (const rows of layer.counts) placed += rows;
  if (placed < kept)
    lines.push(line(placed, "have a place", kept - placed, "missing a value", look("placed", "without a place")));
  const groups = countFilled(layer);
  if (plan.type === "figure" || plan.type === "note")
    return [...lines, line(1, plan.type === "note" ? "text" : "number")];
  if (plan.type === "table" || plan.type === "summary")
    return [...lines, line(groups, query.grouped ? "groups listed" : "rows listed")];
  if (query.grouped) lines.push(line(groups, "groups"));
  const sized = groups - withoutSize(layer);
  if (sized < groups) lines.push(line(sized, "have a size", groups - sized, "missing one"));
  const { draw } = leadingLayer(plan);
  const { many, takes } = markSpec(draw);
  const drawn = marksBy(model, piece.name).inSight;
  if (query.grouped && drawn > sized)
    return [...lines, { count: drawn, what: `${many} drawn`, lost: `${drawn - sized} of them empty` }];
  const off = takes.includes("along") ? 0 : sized - drawn;
  return [...lines, line(drawn, `${many} drawn`, off, "off the scale", isThere ? { lostRows: "off the scale" } : {})];
}

/** How many groups or rows have no value for their size: nothing of them is drawn. */
function withoutSize(answer: Answer): number {
  const sizes = new LayerValues(answer, answer).numbers("size") ?? [];
  let missing = 0;
  for (let id = 0; id < sizes.length; id++) if (answer.counts[id] && Number.isNaN(sizes[id])) missing += 1;
  return missing;
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

/** Where the layer stands whose rows are counted. */
function leadingAt(model: Model, name: string): number {
  const plan = model.piece(name)?.plan;
  return (plan?.type === "chart" && plan.leading) || 0;
}

/** Marks of the layer that the chart is about: how many have their middle in their plot, and which have it outside. */
function marksBy(model: Model, name: string): { inSight: number; off: number[] } {
  const input = model.chartInput(name, BOX.width, BOX.height, new Set());
  const off: number[] = [];
  let inSight = 0;
  for (const { plot, layers } of input ? drawChart(input).panels : []) {
    for (const shape of layers[leadingAt(model, name)]?.shapes ?? []) {
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
  return model.chartInput(name, BOX.width, BOX.height, new Set())?.layers[leadingAt(model, name)]?.all;
}

function reasons(losses: readonly { rows: number; reason: string }[]): string {
  const words = losses.map(({ rows, reason }) => `${rows} ${reason}`);
  return words.length === 0 ? "by its steps" : `by its steps: ${words.slice(0, 3).join(", ")}`;
}
