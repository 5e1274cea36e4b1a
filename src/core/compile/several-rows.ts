import type { LayerPlan } from "../chart/plan";
import { TooLarge } from "../finding/limits";
import { evaluate, frameOf, rowsWhere } from "../formula/evaluate";
import { type Formula, selectionsOf } from "../formula/tree";
import type { AxisName } from "../mark/mark";
import type { Table } from "../table/table";
import { addFinding, type Compiling, settingValue } from "./compiling";
import type { Place } from "./piece-place";

/**
 * Several raw rows on one mark, whatever else of the chart is an aggregate: nobody could tell which number is
 * meant.
 */
export function checkSeveralRows({ compiling, name, path, built }: Place, layer: LayerPlan, along: AxisName) {
  const measuredName = along === "x" ? "y" : "x";
  const key = layer.query.channels[along]?.formula;
  const measured = layer.query.channels[measuredName];
  // Spans from one value to another stand where they are, and not on one another.
  if (key?.type !== "column" || !measured || measured.aggregate || `${measuredName}_to` in layer.query.channels) return;
  const column = built.table.columns.get(key.name);
  const rows = keptRows(compiling, built.table, layer.query.keep);
  if (!column || !rows) return;
  const values = column.kind === "text" ? column.codes : column.values;
  const distinct = new Set(Array.from(rows, (row) => values[row])).size;
  if (distinct === 0 || rows.length <= distinct) return;
  // Lengths of time are seldom added up, and dates cannot be.
  const take = measured.kind === "number" ? "sum" : measured.kind === "duration" ? "mean" : "max";
  const perBar = Math.round((rows.length / distinct) * 10) / 10;
  const span = compiling.sheet.source.valueSpan([...path, measuredName]);
  const replacement = `${take}(${measured.text})`;
  addFinding(
    compiling,
    [...path, measuredName],
    "several-rows",
    `about ${perBar} rows stand on one bar: take ${take === "max" ? "min or max" : "sum, mean or max"} of ${measured.text}`,
    {
      piece: name,
      ...(span ? { fix: { title: `write ${replacement}`, edits: [{ ...span, text: replacement }] } } : {}),
    },
  );
}

/** The rows that a chart keeps while nothing is picked; nothing where that is the reader's to say. */
export function keptRows(compiling: Compiling, table: Table, keep: Formula | undefined): ArrayLike<number> | undefined {
  if (!keep) return Int32Array.from({ length: table.rowCount }, (_, row) => row);
  if (selectionsOf(keep).size > 0) return undefined;
  try {
    return rowsWhere(evaluate(keep, frameOf(table, settingValue(compiling))), table.rowCount).rows;
  } catch (fault) {
    // Drawing finds it too, and says it of the whole report.
    if (fault instanceof TooLarge) return undefined;
    throw fault;
  }
}
