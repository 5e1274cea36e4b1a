import { Glob } from "../finding/glob";
import { keepBound } from "../finding/limits";
import {
  addMonths,
  civilOf,
  DAY,
  GRAINS,
  type Grain,
  MONTHS,
  periodAfter,
  periodStart,
  WEEKDAYS,
} from "../table/calendar";
import type { NumericKind } from "../table/column";
import { extentOf } from "../table/extent";
import { readDuration, readIsoDate, readIsoDatetime } from "../table/time-text";
import { type Bins, equalBins, keptEdges, widthBins } from "./bins";
import { DRAW_FUNCTIONS } from "./draws";
import { writer } from "./format";
import { bearingDegrees, distanceKilometres } from "./geography";
import {
  constantText,
  fillNumeric,
  fillText,
  mapTexts,
  measureTexts,
  type NumericVector,
  stepOf,
  type TextVector,
  textAt,
  type Vector,
} from "./vector";

/** A function of formulas, over whole columns. Kinds were checked before it is called. */
export type Evaluate = (args: Vector[], length: number) => Vector;

const numeric = (vector: Vector | undefined) => vector as NumericVector;
const text = (vector: Vector | undefined) => vector as TextVector;
/** Out of a function's domain, and overflow, is missing. */
const finite = (value: number) => (Number.isFinite(value) ? value : Number.NaN);

/** A number from each row's numbers; missing in any of them is missing. */
function ofNumbers(compute: (...values: number[]) => number, kind?: NumericKind): Evaluate {
  return (args, length) => {
    const vectors = args.map(numeric);
    const out = kind ?? (vectors[0]?.kind === "duration" ? "duration" : "number");
    if (vectors.length === 1) {
      const { values, step } = vectors[0] as NumericVector;
      return fillNumeric(out, length, step, (row) => finite(compute(values[row] as number)));
    }
    const row2 = new Array<number>(vectors.length);
    return fillNumeric(out, length, stepOf(vectors), (row) => {
      for (let i = 0; i < vectors.length; i++) {
        const vector = vectors[i] as NumericVector;
        row2[i] = vector.values[row * vector.step] as number;
      }
      return finite(compute(...row2));
    });
  };
}

/** Rounds half away from zero at a number of decimal places (negative: tens, hundreds). */
export function roundTo(value: number, digits = 0): number {
  const factor = 10 ** Math.abs(digits);
  const scaled = digits < 0 ? Math.abs(value) / factor : Math.abs(value) * factor;
  const whole = Math.round(scaled + scaled * 2 ** -52);
  return Math.sign(value) * (digits < 0 ? whole * factor : whole / factor) + 0;
}

let lastGlob: { pattern: string; glob: Glob } | undefined;

/** The pattern made ready; it is mostly the same for all rows. */
function globOf(pattern: string): Glob {
  if (lastGlob?.pattern !== pattern) {
    keepBound("patternLength", pattern.length, "a pattern");
    lastGlob = { pattern, glob: new Glob(pattern) };
  }
  return lastGlob.glob;
}

/** Every place of one text exchanged for another. How long that becomes is known before it is made. */
function replaced(text: string, from: string, to: string): string {
  if (to.length > from.length) {
    let times = from === "" ? text.length - 1 : 0;
    if (from !== "") for (let at = text.indexOf(from); at >= 0; at = text.indexOf(from, at + from.length)) times += 1;
    keepBound("textLength", text.length + times * (to.length - from.length), "a text that replace() makes");
  }
  return text.split(from).join(to);
}

/** A boolean from a text and constant texts. */
function textTest(test: (value: string, ...others: string[]) => boolean): Evaluate {
  return (args, length) => {
    const [first, ...others] = args.map(text);
    const subject = first as TextVector;
    if (others.every((other) => other.step === 0)) {
      const constants = others.map((other) => textAt(other, 0));
      if (constants.includes(null)) return fillNumeric("boolean", length, 0, () => Number.NaN);
      return measureTexts(subject, "boolean", (value) => (test(value, ...(constants as string[])) ? 1 : 0));
    }
    return fillNumeric("boolean", length, 1, (row) => {
      const values = [subject, ...others].map((vector) => textAt(vector, row));
      if (values.includes(null)) return Number.NaN;
      const [value, ...rest] = values as string[];
      return test(value as string, ...rest) ? 1 : 0;
    });
  };
}

const starts =
  (grain: Grain): Evaluate =>
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

const part =
  (take: (seconds: number) => number): Evaluate =>
  (args, length) => {
    const { values, step } = numeric(args[0]);
    return fillNumeric("number", length, step, (row) => {
      const value = values[row] as number;
      return value !== value ? value : take(value);
    });
  };

const namedPart =
  (names: readonly string[], place: (seconds: number) => number): Evaluate =>
  (args) => {
    const { values, step } = numeric(args[0]);
    const codes = new Int32Array(values.length);
    for (let row = 0; row < codes.length; row++) {
      const value = values[row] as number;
      codes[row] = value !== value ? -1 : place(value);
    }
    return { kind: "text", codes, dictionary: names, ordered: true, step };
  };

const inSeconds = (unit: number): Evaluate => ofNumbers((value) => value / unit, "number");

const dayNumber = (seconds: number) => Math.floor(seconds / DAY);
const secondOfDay = (seconds: number) => seconds - dayNumber(seconds) * DAY;

const UNITS: Record<string, number> = { day: DAY, hour: 3600, minute: 60, second: 1, week: 7 * DAY };

function toMoment(kind: "date" | "datetime"): Evaluate {
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

function toText(args: Vector[], length: number): Vector {
  const vector = args[0] as Vector;
  if (vector.kind === "text") return vector;
  const format = args[1] ? (textAt(text(args[1]), 0) ?? undefined) : undefined;
  const write = writer(vector.kind, format);
  return fillText(length, vector.step, (row) => {
    const value = vector.values[row * vector.step] as number;
    return value !== value ? null : write(value);
  });
}

function plainNumber(value: string): number {
  const trimmed = value.trim();
  return /^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?$/.test(trimmed) ? finite(Number(trimmed)) : Number.NaN;
}

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

/** All functions of formulas but the aggregates, by name. Their help stands in signatures.ts. */
export const FUNCTIONS: Readonly<Record<string, Evaluate>> = {
  abs: ofNumbers(Math.abs),
  round: ofNumbers((x, digits) => roundTo(x, digits ?? 0)),
  floor: ofNumbers(Math.floor),
  ceil: ofNumbers(Math.ceil),
  sqrt: ofNumbers(Math.sqrt, "number"),
  exp: ofNumbers(Math.exp, "number"),
  ln: ofNumbers(Math.log, "number"),
  log10: ofNumbers(Math.log10, "number"),
  sign: ofNumbers(Math.sign, "number"),
  mod: ofNumbers((x, y) => x - y * Math.floor(x / y)),
  least: ofNumbers(Math.min),
  greatest: ofNumbers(Math.max),
  clamp: ofNumbers((x, low, high) => Math.min(Math.max(x, low as number), high as number)),
  sin: ofNumbers(Math.sin, "number"),
  cos: ofNumbers(Math.cos, "number"),
  tan: ofNumbers(Math.tan, "number"),
  atan2: ofNumbers(Math.atan2, "number"),
  pi: () => fillNumeric("number", 1, 0, () => Math.PI),

  lower: (args) => mapTexts(text(args[0]), (value) => value.toLowerCase()),
  upper: (args) => mapTexts(text(args[0]), (value) => value.toUpperCase()),
  trim: (args) => mapTexts(text(args[0]), (value) => value.trim()),
  length: (args) => measureTexts(text(args[0]), "number", (value) => [...value].length),
  contains: textTest((value, other) => value.includes(other)),
  starts: textTest((value, other) => value.startsWith(other)),
  ends: textTest((value, other) => value.endsWith(other)),
  glob: textTest((value, pattern) => globOf(pattern).fits(value)),
  replace: (args, length) => {
    const [subject, from, to] = args.map(text) as [TextVector, TextVector, TextVector];
    return fillText(length, stepOf(args), (row) => {
      const [a, b, c] = [textAt(subject, row), textAt(from, row), textAt(to, row)];
      return a === null || b === null || c === null ? null : replaced(a, b, c);
    });
  },
  part: (args, length) => {
    const subject = text(args[0]);
    const [from, count] = [numeric(args[1]), args[2] ? numeric(args[2]) : undefined];
    return fillText(length, stepOf(args), (row) => {
      const value = textAt(subject, row);
      const start = from.values[row * from.step] as number;
      const many = count ? (count.values[row * count.step] as number) : Number.POSITIVE_INFINITY;
      if (value === null || start !== start || many !== many) return null;
      const first = Math.max(0, Math.floor(start) - 1);
      return [...value].slice(first, Math.max(first, Math.floor(start) - 1 + many)).join("");
    });
  },
  concat: (args, length) => {
    const texts = args.map((arg) => text(toText([arg], length)));
    return fillText(length, stepOf(args), (row) => {
      let joined = "";
      for (const vector of texts) {
        const value = textAt(vector, row);
        if (value === null) return null;
        joined += value;
      }
      return joined;
    });
  },

  number: (args, length) => {
    const vector = args[0] as Vector;
    return vector.kind === "text"
      ? measureTexts(vector, "number", plainNumber)
      : fillNumeric("number", length, vector.step, (row) => vector.values[row] as number);
  },
  text: toText,
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
  add_months: (args, length) => {
    const [moment, count] = args.map(numeric) as [NumericVector, NumericVector];
    return fillNumeric(moment.kind, length, stepOf(args), (row) => {
      const [value, months] = [moment.values[row * moment.step] as number, count.values[row * count.step] as number];
      return value !== value || months !== months ? Number.NaN : addMonths(value, Math.trunc(months));
    });
  },
  year: part((seconds) => civilOf(dayNumber(seconds)).year),
  quarter: part((seconds) => Math.ceil(civilOf(dayNumber(seconds)).month / 3)),
  month: namedPart(MONTHS, (seconds) => civilOf(dayNumber(seconds)).month - 1),
  week: part((seconds) => {
    const thursday = dayNumber(periodStart("week", seconds)) + 3;
    return 1 + Math.floor((thursday - dayNumber(periodStart("year", thursday * DAY))) / 7);
  }),
  weekday: namedPart(WEEKDAYS, (seconds) => (((dayNumber(seconds) + 3) % 7) + 7) % 7),
  day: part((seconds) => civilOf(dayNumber(seconds)).day),
  hour: part((seconds) => Math.floor(secondOfDay(seconds) / 3600)),
  minute: part((seconds) => Math.floor(secondOfDay(seconds) / 60) % 60),
  days: inSeconds(DAY),
  hours: inSeconds(3600),
  minutes: inSeconds(60),
  seconds: inSeconds(1),

  distance_km: ofNumbers(distanceKilometres as (...values: number[]) => number, "number"),
  bearing: ofNumbers(bearingDegrees as (...values: number[]) => number, "number"),
  ...DRAW_FUNCTIONS,

  bin: ([x, count], length) =>
    inBins(equalBins(numeric(x).values, numeric(count).values[0] as number), numeric(x), length),
  bin_width: ([x, width], length) => inBins(widthBins(numeric(width).values[0] as number), numeric(x), length),
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
