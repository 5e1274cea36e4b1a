import type { LayerPlan } from "../chart/plan";
import type { AxisName } from "../mark/mark";
import { addFinding } from "./compiling";
import type { Place } from "./piece-place";

/** Several raw rows on one mark, whatever else of the chart is an aggregate: nobody could tell which number is meant. */
export function checkSeveralRows({ compiling, name, path, built }: Place, layer: LayerPlan, along: AxisName) {
  const measuredName = along === "x" ? "y" : "x";
  const key = layer.query.channels[along]?.formula;
  const measured = layer.query.channels[measuredName];
  if (key?.type !== "column" || !measured || measured.aggregate) return;
  const column = built.table.columns.get(key.name);
  if (!column) return;
  const distinct = new Set(column.kind === "text" ? column.codes : column.values).size;
  if (distinct === 0 || built.table.rowCount <= distinct) return;
  // Lengths of time are seldom added up, and dates cannot be.
  const take = measured.kind === "number" ? "sum" : measured.kind === "duration" ? "mean" : "max";
  const perBar = Math.round((built.table.rowCount / distinct) * 10) / 10;
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
