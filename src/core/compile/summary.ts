import type { SummaryPlan } from "../chart/plan";
import type { ChartSpec } from "../sheet/schema-charts";
import { readDataTable } from "./data-table";
import { type Place, wrongAt } from "./piece-place";

/** Reads what sums every column up: the columns of a data table that is not grouped. */
export function readSummary(place: Place, spec: ChartSpec): SummaryPlan | undefined {
  const table = readDataTable(place, spec);
  if (!table) return undefined;
  if (table.query.grouped)
    return wrongAt(
      place,
      [...place.path, "columns"],
      "aggregate-here",
      "a summary sums columns up by itself: write them bare",
    );
  return { type: "summary", from: table.from, query: table.query, columns: table.columns };
}
