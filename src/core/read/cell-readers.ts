import type { NumericKind } from "../table/column";
import { readIsoDate, type TimeReader, timeReader } from "../table/time-text";
import { wordPairIn } from "../table/word-pair";
import {
  bareMonth,
  clockTime,
  type DateReaders,
  dayFirst,
  isoDatetime,
  length,
  minutesSeconds,
  monthFirst,
  timeOfDay,
  written,
  yearFirst,
} from "./dates";
import { type DecimalMark, decimalOf, numberReader } from "./numbers";

/** What is known of a file's habits while its columns are looked at. */
export interface Habits {
  /** Where the separator is a semicolon, numbers mostly have decimal commas. */
  decimal: DecimalMark;
  /** Seconds by which times that came with an offset are ahead of UTC. */
  zone: number;
  /** How `zone` is spelt. */
  zoneName: string;
}

export const USUAL: Habits = { decimal: ".", zone: 0, zoneName: "UTC" };

/** Reads a cell; not a number where it cannot. */
export type CellReader = (text: string) => number;

const BOOLEANS = new Map([
  ["true", 1],
  ["false", 0],
  ["yes", 1],
  ["no", 0],
]);
const readBoolean: CellReader = (text) =>
  BOOLEANS.get(text.length <= 8 ? text.trim().toLowerCase() : text) ?? Number.NaN;
export const trimmed =
  (reader: TimeReader): CellReader =>
  (text) =>
    reader(text.trim());

/** A kind that a column may be of, with the way in which its cells are then read. */
export interface Candidate {
  kind: NumericKind;
  read: CellReader;
  /** Reads what makes the column of this kind and no simpler one: a time beside a date. Absent: every cell does. */
  proof?: CellReader;
  /** How cells were understood, where there is another way to see them. */
  note?: string;
  /** Another order of day and month, which must not read as many cells. */
  rival?: string;
}

/** A moment, or a bare date, which stands for its midnight. */
function moments({ date, datetime }: DateReaders): Pick<Candidate, "kind" | "read" | "proof"> {
  return { kind: "datetime", read: trimmed(eitherOf(datetime, date)), proof: trimmed(datetime) };
}

export function eitherOf(first: TimeReader, second: TimeReader): TimeReader {
  return (text) => {
    const value = first(text);
    return value === value ? value : second(text);
  };
}

function dates(readers: DateReaders, note?: string, rival?: string): Candidate[] {
  const more = { ...(note === undefined ? {} : { note }), ...(rival === undefined ? {} : { rival }) };
  return [
    { ...moments(readers), ...more },
    { kind: "date", read: trimmed(readers.date), ...more },
  ];
}

export const OTHER: Record<DecimalMark, DecimalMark> = { ".": ",", ",": "." };
const MARKS: Record<DecimalMark, string> = { ".": "decimal points", ",": "decimal commas" };

/** All kinds that a column may be of, the plainest first. */
export function candidates({ decimal, zone }: Habits): Candidate[] {
  return [
    { kind: "number", read: numberReader(decimal) },
    moments({ date: readIsoDate, datetime: isoDatetime(zone) }),
    { kind: "date", read: trimmed(readIsoDate) },
    { kind: "duration", read: trimmed(length) },
    { kind: "duration", read: trimmed(timeOfDay), note: "times of day are lengths since midnight" },
    { kind: "boolean", read: readBoolean },
    { kind: "number", read: numberReader(OTHER[decimal]), note: `read with ${MARKS[OTHER[decimal]]}` },
    ...dates(yearFirst),
    ...dates(written),
    { kind: "date", read: trimmed(bareMonth), note: "a month stands for its first day" },
    ...dates(dayFirst, "read as day, month, year", "day and month"),
    ...dates(monthFirst, "read as month, day, year", "day and month"),
    {
      kind: "duration",
      read: trimmed(clockTime),
      note: 'times of day are lengths since midnight; for minutes and seconds say {type: duration, read: "%M:%S"}',
    },
    {
      kind: "duration",
      read: trimmed(minutesSeconds),
      note: 'read as minutes and seconds; for hours and minutes say {type: duration, read: "%H:%M"}',
    },
  ];
}

/** The readers for a kind that the sheet asks for by name. */
function wished(kind: NumericKind, habits: Habits, texts: readonly string[]): CellReader {
  if (kind === "number") {
    const [usual, other] = [numberReader(habits.decimal), numberReader(OTHER[habits.decimal])];
    return (text) => {
      const value = usual(text);
      return value === value ? value : other(text);
    };
  }
  if (kind === "boolean") return (text) => (text === "1" ? 1 : text === "0" ? 0 : readBoolean(text));
  if (kind === "duration") {
    const isClock = texts.every((text) => Number.isNaN(minutesSeconds(text)) || !Number.isNaN(clockTime(text)));
    return firstOf([length, timeOfDay, isClock ? clockTime : minutesSeconds]);
  }
  const whole = firstOf([
    readIsoDate,
    isoDatetime(habits.zone),
    ...[yearFirst, written, dayFirst].flatMap(({ date, datetime }) => [date, datetime]),
    bareMonth,
  ]);
  return kind === "datetime" ? whole : (text) => Math.floor(whole(text) / 86400) * 86400;
}

function firstOf(readers: readonly TimeReader[]): CellReader {
  return (text) => {
    const bare = text.trim();
    for (const read of readers) {
      const value = read(bare);
      if (value === value) return value;
    }
    return Number.NaN;
  };
}

/** Reads what is true and what is not by two words, in whatever capitals. */
function wordReader(words: readonly [string, string]): CellReader {
  const [yes, no] = words.map((word) => word.toLowerCase());
  return (text) => {
    const word = text.trim().toLowerCase();
    return word === yes ? 1 : word === no ? 0 : Number.NaN;
  };
}

/** The reader of cells that a sheet asks for; `texts` are all that stand in them. */
export function wishedReader(
  kind: NumericKind,
  format: string | undefined,
  habits: Habits,
  texts: readonly string[],
): CellReader {
  if (format !== undefined && kind === "number") {
    const decimal = decimalOf(format);
    if (decimal) return numberReader(decimal);
  }
  if (format !== undefined && kind === "boolean") {
    const words = wordPairIn(format);
    if (words) return wordReader(words);
  }
  if (format !== undefined && (kind === "date" || kind === "datetime" || kind === "duration")) {
    const made = timeReader(format, kind);
    if (typeof made === "function") return trimmed(made);
  }
  return wished(kind, habits, texts);
}
