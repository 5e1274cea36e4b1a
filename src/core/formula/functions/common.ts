import { DAY } from "../../table/calendar";
import { readDuration, readIsoDate, readIsoDatetime } from "../../table/time-text";
import {
  constantText,
  fillNumeric,
  fillText,
  measureTexts,
  type NumericVector,
  stepOf,
  textAt,
  type Vector,
} from "../vector";
import { finite, ofNumbers, text, type ValueFunction } from "./function";

/** Rounds half away from zero at a number of decimal places (negative: tens, hundreds). */
export function roundTo(value: number, digits = 0): number {
  const factor = 10 ** Math.abs(digits);
  const scaled = digits < 0 ? Math.abs(value) / factor : Math.abs(value) * factor;
  const whole = Math.round(scaled + scaled * 2 ** -52);
  return Math.sign(value) * (digits < 0 ? whole * factor : whole / factor) + 0;
}

const inSeconds = (unit: number): ValueFunction => ofNumbers((value) => value / unit, "number");

const dayNumber = (seconds: number) => Math.floor(seconds / DAY);
const UNITS: Record<string, number> = { day: DAY, hour: 3600, minute: 60, second: 1, week: 7 * DAY };

function toMoment(kind: "date" | "datetime"): ValueFunction {
  return (args, length) => {
    const vector = args[0] as Vector;
    if (vector.kind === "text") {
      return measureTexts(vector, kind, (value) => {
        const trimmed = value.trim();
        const date = readIsoDate(trimmed);
        const moment = date === date ? date : readIsoDatetime(trimmed);
        return kind === "date" ? dayNumber(moment) * DAY : moment;
      });
    }
    return fillNumeric(kind, length, vector.step, (row) => {
      const value = vector.values[row] as number;
      return kind === "date" ? dayNumber(value) * DAY : value;
    });
  };
}

const isKnown = (vector: Vector, row: number): boolean => {
  if (vector.kind === "text") return (vector.codes[row * vector.step] as number) >= 0;
  const value = vector.values[row * vector.step] as number;
  return value === value;
};

/** The first known of several. */
function coalesce(args: Vector[], length: number): Vector {
  const step = stepOf(args);
  const firstText = args.find((arg) => arg.kind === "text");
  if (firstText) {
    return fillText(length, step, (row) => {
      for (const arg of args) {
        const value = arg.kind === "text" ? textAt(arg, row) : null;
        if (value !== null) return value;
      }
      return null;
    });
  }
  const vectors = args as NumericVector[];
  const kind = (
    vectors.find((vector) => !(vector.step === 0 && Number.isNaN(vector.values[0]))) ?? (vectors[0] as NumericVector)
  ).kind;
  return fillNumeric(kind, length, step, (row) => {
    for (const vector of vectors) {
      const value = vector.values[row * vector.step] as number;
      if (value === value) return value;
    }
    return Number.NaN;
  });
}

function plainNumber(value: string): number {
  const trimmed = value.trim();
  return /^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?$/.test(trimmed) ? finite(Number(trimmed)) : Number.NaN;
}

/** Functions that many reports call, and that the first categories of a chart are told by. */
export const COMMON_FUNCTIONS: Readonly<Record<string, ValueFunction>> = {
  abs: ofNumbers(Math.abs),
  round: ofNumbers((x, digits) => roundTo(x, digits ?? 0)),
  floor: ofNumbers(Math.floor),
  ceil: ofNumbers(Math.ceil),
  sqrt: ofNumbers(Math.sqrt, "number"),
  sign: ofNumbers(Math.sign, "number"),
  mod: ofNumbers((x, y) => x - y * Math.floor(x / y)),
  least: ofNumbers(Math.min),
  greatest: ofNumbers(Math.max),
  clamp: ofNumbers((x, low, high) => Math.min(Math.max(x, low as number), high as number)),
  pi: () => fillNumeric("number", 1, 0, () => Math.PI),

  number: (args, length) => {
    const vector = args[0] as Vector;
    return vector.kind === "text"
      ? measureTexts(vector, "number", plainNumber)
      : fillNumeric("number", length, vector.step, (row) => vector.values[row] as number);
  },
  date: toMoment("date"),
  datetime: toMoment("datetime"),
  duration: (args, length) => {
    const first = args[0] as Vector;
    if (first.kind === "text") return measureTexts(first, "duration", readDuration);
    const unit = args[1] ? (UNITS[(textAt(text(args[1]), 0) ?? "").replace(/s$/, "")] ?? Number.NaN) : 1;
    return fillNumeric("duration", length, first.step, (row) => finite((first.values[row] as number) * unit));
  },
  known: (args, length) =>
    fillNumeric("boolean", length, stepOf(args), (row) => (isKnown(args[0] as Vector, row) ? 1 : 0)),
  missing: (args, length) =>
    fillNumeric("boolean", length, stepOf(args), (row) => (isKnown(args[0] as Vector, row) ? 0 : 1)),
  coalesce,

  days: inSeconds(DAY),
  hours: inSeconds(3600),
  minutes: inSeconds(60),
  seconds: inSeconds(1),

  if: (args, length) => {
    const [test, yes, no] = args as [NumericVector, Vector, Vector];
    const step = stepOf(args);
    const chosen = (row: number) => test.values[row * test.step] as number;
    if (yes.kind === "text" || no.kind === "text") {
      const [a, b] = [yes.kind === "text" ? yes : constantText(null), no.kind === "text" ? no : constantText(null)];
      return fillText(length, step, (row) => {
        const value = chosen(row);
        return value !== value ? null : textAt(value ? a : b, row);
      });
    }
    const kind = yes.step === 0 && Number.isNaN(yes.values[0]) ? no.kind : yes.kind;
    return fillNumeric(kind, length, step, (row) => {
      const value = chosen(row);
      if (value !== value) return Number.NaN;
      return (value ? yes.values[row * yes.step] : no.values[row * no.step]) as number;
    });
  },
};
