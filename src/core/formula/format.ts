import type { Kind } from "../table/column";
import { wordPairIn } from "../table/word-pair";
import { durationFormat, durationWriter } from "./duration-text";
import { numberFormat } from "./number-format";
import { strftime } from "./strftime";

/** Writes one value for a reader. Missing is written as an en dash. */
export type Write = (value: number) => string;

export const MISSING_TEXT = "–";

/** Numbers from here on, and below this, are written with three or four digits that count. */
const HUGE = 1e15;
const SMALL = 0.01;
/** Below this stands what rounding leaves where a difference is none. */
export const NOISE = 1e-12;

/** A number of which nothing is said: with no more than three decimals, unless nothing would be left of it. */
function plainNumber(): Write {
  const [usual, small, huge] = [",.3~f", ".3~g", ".4~g"].map(numberFormat) as [Write, Write, Write];
  return (value) => {
    const size = Math.abs(value);
    if (size >= HUGE) return huge(value);
    return size < SMALL && size >= NOISE ? small(value) : usual(value);
  };
}

const DEFAULTS: Partial<Record<Kind, string>> = {
  date: "%-d %b %Y",
  datetime: "%-d %b %Y %H:%M",
  duration: "h:mm:ss",
};

const MOST_FORMAT = 100;

/** True if the format can be used for the kind. */
export function isFormat(kind: Kind, format: string): boolean {
  if (format.length > MOST_FORMAT) return false;
  if (kind === "date" || kind === "datetime") return format.includes("%");
  if (kind === "boolean") return wordPairIn(format) !== undefined;
  if (kind === "duration" && durationFormat(format)) return true;
  // A width of thousands would pad every number with as many signs.
  if (/\d{3}/.test(format)) return false;
  try {
    numberFormat(format);
    return true;
  } catch {
    return false;
  }
}

/** A writer for values of a kind: d3-format for numbers, strftime for dates, `h:mm:ss` for durations, `yes/no`. */
export function writer(kind: Kind, format?: string): Write {
  if (kind === "boolean") {
    const [yes, no] = wordPairIn(format ?? "") ?? ["true", "false"];
    return (value) => (Number.isNaN(value) ? MISSING_TEXT : value ? yes : no);
  }
  const chosen = format !== undefined && isFormat(kind, format) ? format : DEFAULTS[kind];
  if (kind === "date" || kind === "datetime") {
    const write = strftime(chosen as string);
    return (value) => (Number.isNaN(value) ? MISSING_TEXT : write(new Date(value * 1000)));
  }
  const length = kind === "duration" ? durationFormat(chosen as string) : undefined;
  const write = length ? durationWriter(length) : chosen === undefined ? plainNumber() : numberFormat(chosen);
  return (value) => (Number.isNaN(value) ? MISSING_TEXT : write(value));
}

/** A count with its thousands parted. */
export const writeCount = (count: number): string => numberFormat(",d")(count);
