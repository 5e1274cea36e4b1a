import { GRAINS, type Grain, periodAfter, periodStart } from "../../table/calendar";
import { extentOf } from "../../table/extent";
import { type Bins, equalBins, keptEdges, widthBins } from "../bins";
import { fillNumeric, type NumericVector, textAt, type Vector } from "../vector";
import { numeric, text, type ValueFunction } from "./function";

const starts =
  (grain: Grain): ValueFunction =>
  (args, length) => {
    const { values, step, kind } = numeric(args[0]);
    const out = grain === "hour" || grain === "minute" ? kind : "date";
    // Rows mostly stand in the order of time: the period of the row before is mostly the one of this row too.
    let start = Number.NaN;
    let end = Number.NaN;
    return fillNumeric(out, length, step, (row) => {
      const value = values[row] as number;
      if (value >= start && value < end) return start;
      if (value !== value) return value;
      start = periodStart(grain, value);
      end = periodAfter(grain, start);
      return start;
    });
  };

/** For every row the edge at which its bin begins. */
function inBins(bins: Bins | undefined, { values, step, kind }: NumericVector, length: number): Vector {
  const range = bins && extentOf(values);
  if (!bins || !range) return fillNumeric(kind, length, step, () => Number.NaN);
  const start = keptEdges(bins, bins.indexOf(range[0]), bins.indexOf(range[1]));
  return fillNumeric(kind, length, step, (row) => {
    const value = values[row] as number;
    return value !== value ? value : start(value);
  });
}

/** Functions that make bins and periods of values. */
export const INTERVAL_FUNCTIONS: Readonly<Record<string, ValueFunction>> = {
  by_year: starts("year"),
  by_quarter: starts("quarter"),
  by_month: starts("month"),
  by_week: starts("week"),
  by_day: starts("day"),
  by_hour: starts("hour"),
  by_minute: starts("minute"),
  by: (args, length) => {
    const grain = textAt(text(args[0]), 0) as Grain;
    return GRAINS.includes(grain)
      ? starts(grain)([args[1] as Vector], length)
      : fillNumeric("date", length, 0, () => Number.NaN);
  },
  bin: ([x, count], length) =>
    inBins(equalBins(numeric(x).values, numeric(count).values[0] as number), numeric(x), length),
  bin_width: ([x, width], length) => inBins(widthBins(numeric(width).values[0] as number), numeric(x), length),
};
