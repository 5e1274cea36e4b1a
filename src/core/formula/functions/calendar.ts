import { addMonths, civilOf, DAY, MONTHS, periodStart, WEEKDAYS } from "../../table/calendar";
import { fillNumeric, type NumericVector, stepOf } from "../vector";
import { numeric, ofMoment, type ValueFunction } from "./function";

const dayNumber = (seconds: number) => Math.floor(seconds / DAY);
const secondOfDay = (seconds: number) => seconds - dayNumber(seconds) * DAY;

const namedPart =
  (names: readonly string[], place: (seconds: number) => number): ValueFunction =>
  (args) => {
    const { values, step } = numeric(args[0]);
    const codes = new Int32Array(values.length);
    for (let row = 0; row < codes.length; row++) {
      const value = values[row] as number;
      codes[row] = value !== value ? -1 : place(value);
    }
    return { kind: "text", codes, dictionary: names, ordered: true, step };
  };

/** Functions that take a moment apart or go on from it, by name. Their help stands in signatures.ts. */
export const CALENDAR_FUNCTIONS: Readonly<Record<string, ValueFunction>> = {
  add_months: (args, length) => {
    const [moment, count] = args.map(numeric) as [NumericVector, NumericVector];
    return fillNumeric(moment.kind, length, stepOf(args), (row) => {
      const [value, months] = [moment.values[row * moment.step] as number, count.values[row * count.step] as number];
      return value !== value || months !== months ? Number.NaN : addMonths(value, Math.trunc(months));
    });
  },
  year: ofMoment((seconds) => civilOf(dayNumber(seconds)).year),
  quarter: ofMoment((seconds) => Math.ceil(civilOf(dayNumber(seconds)).month / 3)),
  month: namedPart(MONTHS, (seconds) => civilOf(dayNumber(seconds)).month - 1),
  week: ofMoment((seconds) => {
    const thursday = dayNumber(periodStart("week", seconds)) + 3;
    return 1 + Math.floor((thursday - dayNumber(periodStart("year", thursday * DAY))) / 7);
  }),
  weekday: namedPart(WEEKDAYS, (seconds) => (((dayNumber(seconds) + 3) % 7) + 7) % 7),
  day: ofMoment((seconds) => civilOf(dayNumber(seconds)).day),
  hour: ofMoment((seconds) => Math.floor(secondOfDay(seconds) / 3600)),
  minute: ofMoment((seconds) => Math.floor(secondOfDay(seconds) / 60) % 60),
};
