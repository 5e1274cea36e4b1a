import type { LayerPlan } from "../chart/plan";
import { writeFix } from "../finding/finding";
import { TooLarge } from "../finding/limits";
import { evaluate, frameOf, rowsWhere } from "../formula/evaluate";
import { groupRows } from "../formula/groups";
import { type Formula, selectionsOf } from "../formula/tree";
import { columnOf } from "../formula/vector";
import type { ChannelName } from "../mark/channels";
import type { AxisName } from "../mark/mark";
import { PANEL_CHANNELS } from "../query/query";
import type { Path } from "../sheet/tree";
import { gather } from "../table/column";
import type { Table } from "../table/table";
import { addFinding, type Compiling, settingValue } from "./compiling";
import { type Place, tableOf } from "./piece-place";

/**
 * Several raw rows on one mark, whatever else of the chart is an aggregate: nobody could tell which number is
 * meant.
 *
 * @param own where the layer is written
 * @param parted the author has said how marks of several colours share a place: each colour has one of its own
 */
export function checkSeveralRows(place: Place, layer: LayerPlan, own: Path, along: AxisName, parted: boolean) {
  const { compiling, name, path } = place;
  const measuredName = along === "x" ? "y" : "x";
  const key = layer.query.channels[along]?.formula;
  const measured = layer.query.channels[measuredName];
  // Spans from one value to another stand where they are, and not on one another.
  if (key?.type !== "column" || !measured || measured.aggregate || `${measuredName}_to` in layer.query.channels) return;
  const rows = keptRows(compiling, tableOf(place, layer), layer.query.keep);
  if (!rows) return;
  const distinct = placesOf(place, layer, [along, ...PANEL_CHANNELS, ...(parted ? (["color"] as const) : [])], rows);
  if (distinct === 0 || rows.length <= distinct) return;
  // Lengths of time are seldom added up, and dates cannot be.
  const take = measured.kind === "number" ? "sum" : measured.kind === "duration" ? "mean" : "max";
  const perBar = Math.round((rows.length / distinct) * 10) / 10;
  // A layer has from its chart what it does not say itself.
  const said = [own, path].find((one) => compiling.sheet.source.valueSpan([...one, measuredName])) ?? path;
  const at = [...said, measuredName];
  const span = compiling.sheet.source.valueSpan(at);
  const replacement = `${take}(${measured.text})`;
  addFinding(
    compiling,
    at,
    "several-rows",
    `about ${perBar} rows stand on one bar: take ` +
      `${take === "max" ? "min or max" : "sum, mean or max"} of ${measured.text}`,
    {
      piece: name,
      ...writeFix(span, replacement),
    },
  );
}

/** How many different places some rows have by some channels of a layer. */
function placesOf(place: Place, layer: LayerPlan, names: readonly ChannelName[], rows: ArrayLike<number>): number {
  const { query } = layer;
  const frame = frameOf(tableOf(place, layer), settingValue(place.compiling));
  const columns = names.flatMap((name) => {
    const channel = query.channels[name];
    return channel ? [gather(columnOf(evaluate(channel.formula, frame), frame.length), Int32Array.from(rows))] : [];
  });
  return groupRows(columns, rows.length).count;
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
