import { DAY, daysInMonth, MONTHS, secondsOf, WEEKDAYS } from "./calendar";

/** Reads a text into seconds; `NaN` when it is not of this shape. */
export type TimeReader = (text: string) => number;

const digit = (text: string, at: number) => {
  const code = text.charCodeAt(at) - 48;
  return code >= 0 && code <= 9 ? code : Number.NaN;
};
const twoDigits = (text: string, at: number) => digit(text, at) * 10 + digit(text, at + 1);
const fourDigits = (text: string, at: number) => twoDigits(text, at) * 100 + twoDigits(text, at + 2);

function civilSeconds(year: number, month: number, day: number, hour = 0, minute = 0, second = 0): number {
  if (!(month >= 1 && month <= 12 && day >= 1 && day <= daysInMonth(year, month))) return Number.NaN;
  if (!(hour >= 0 && hour <= 23 && minute >= 0 && minute <= 59 && second >= 0 && second < 61)) return Number.NaN;
  return secondsOf(year, month, day, hour, minute, second);
}

/** Seconds of a text such as `12.3456`; what is finer than milliseconds is cut off. */
export const secondsIn = (text: string): number =>
  Number(text.slice(0, text.indexOf(".") < 0 ? undefined : text.indexOf(".") + 4));

/** The float nearest to a whole number of milliseconds, whichever way its parts were added up. */
export const toMilliseconds = (seconds: number): number =>
  Number.isInteger(seconds) ? seconds : Math.round(seconds * 1000) / 1000;

/** True for times with more digits than are kept. */
export const isFiner = (text: string): boolean => /:\d{2}\.\d{3}\d*[1-9]/.test(text);

/** `YYYY-MM-DD` */
export const readIsoDate: TimeReader = (text) => {
  if (text.length !== 10 || text[4] !== "-" || text[7] !== "-") return Number.NaN;
  return civilSeconds(fourDigits(text, 0), twoDigits(text, 5), twoDigits(text, 8));
};

/** `YYYY-MM-DD HH:MM`, with `T` or a space, seconds and their fraction if any, `Z` or an offset, which is applied. */
export const readIsoDatetime: TimeReader = (text) => {
  if (text.length < 16 || (text[10] !== "T" && text[10] !== " ") || text[13] !== ":") return Number.NaN;
  const day = readIsoDate(text.slice(0, 10));
  const hour = twoDigits(text, 11);
  const minute = twoDigits(text, 14);
  if (!(hour <= 23 && minute <= 59)) return Number.NaN;
  const base = day + hour * 3600 + minute * 60;
  if (text.length === 16) return base;
  const rest = /^(?::(\d{2}(?:\.\d+)?))? ?(Z|[+-]\d{2}:?\d{2})?$/.exec(text.slice(16));
  if (!rest) return Number.NaN;
  const second = rest[1] ? secondsIn(rest[1]) : 0;
  if (second >= 61) return Number.NaN;
  const zone = rest[2];
  if (!zone || zone === "Z") return toMilliseconds(base + second);
  const offset = Number(zone.slice(1, 3)) * 3600 + Number(zone.slice(-2)) * 60;
  return toMilliseconds(base + second - (zone[0] === "-" ? -offset : offset));
};

/** `H:MM:SS`, hours without limit, a sign and a fraction allowed. */
export const readDuration: TimeReader = (text) => {
  const match = /^(-?)(\d+):([0-5]\d):([0-5]\d(?:\.\d+)?)$/.exec(text);
  if (!match) return Number.NaN;
  const seconds = Number(match[2]) * 3600 + Number(match[3]) * 60 + Number(match[4]);
  return match[1] ? -seconds : seconds;
};

interface Fields {
  year: number;
  month: number;
  day: number;
  hour: number;
  minute: number;
  second: number;
  afternoon: boolean | null;
  offset: number;
}

type Part = (text: string, at: number, into: Fields) => number;

const numberPart =
  (field: keyof Omit<Fields, "afternoon">, most: number, least = 1): Part =>
  (text, at, into) => {
    let end = at;
    let value = 0;
    while (end < at + most) {
      const next = digit(text, end);
      if (next !== next) break;
      value = value * 10 + next;
      end += 1;
    }
    if (end - at < least) return -1;
    into[field] = value;
    return end;
  };

const namePart =
  (names: readonly string[], short: boolean, field: "month" | null): Part =>
  (text, at, into) => {
    const index = names.findIndex((name) => {
      const wanted = short ? name.slice(0, 3) : name;
      return text.substr(at, wanted.length).toLowerCase() === wanted.toLowerCase();
    });
    if (index < 0) return -1;
    if (field) into[field] = index + 1;
    return at + (short ? 3 : (names[index] as string).length);
  };

const PARTS: Record<string, Part> = {
  Y: numberPart("year", 4, 4),
  y: (text, at, into) => {
    const end = numberPart("year", 2, 2)(text, at, into);
    if (end > 0) into.year += into.year < 70 ? 2000 : 1900;
    return end;
  },
  m: numberPart("month", 2),
  d: numberPart("day", 2),
  e: numberPart("day", 2),
  H: numberPart("hour", 2),
  I: numberPart("hour", 2),
  M: numberPart("minute", 2),
  S: numberPart("second", 2),
  B: namePart(MONTHS, false, "month"),
  b: namePart(MONTHS, true, "month"),
  A: namePart(WEEKDAYS, false, null),
  a: namePart(WEEKDAYS, true, null),
  p: (text, at, into) => {
    const half = text.substr(at, 2).toLowerCase();
    if (half !== "am" && half !== "pm") return -1;
    into.afternoon = half === "pm";
    return at + 2;
  },
  f: (text, at, into) => {
    const match = /^\d{1,9}/.exec(text.slice(at));
    if (!match) return -1;
    into.second += secondsIn(`0.${match[0]}`);
    return at + match[0].length;
  },
  z: (text, at, into) => {
    const match = /^(?:Z|([+-])(\d{2}):?(\d{2}))/.exec(text.slice(at));
    if (!match) return -1;
    const seconds = match[1] ? Number(match[2]) * 3600 + Number(match[3]) * 60 : 0;
    into.offset = match[1] === "-" ? -seconds : seconds;
    return at + match[0].length;
  },
};

/**
 * Makes a reader from strptime letters. Answers the unknown letter when there is one.
 * For durations hours, minutes and seconds are lengths and hours have no limit of two digits.
 */
export function timeReader(format: string, kind: "date" | "datetime" | "duration"): TimeReader | { unknown: string } {
  const whole = readerOfAll(format, kind);
  // In a column of moments a bare date is its midnight.
  const dateAlone = kind === "datetime" ? /^(.*%[Yy].*?)[T, ]+%[HI]/s.exec(format)?.[1] : undefined;
  const ofDate = dateAlone === undefined ? undefined : readerOfAll(dateAlone, "date");
  if (typeof whole !== "function" || typeof ofDate !== "function") return whole;
  return (text) => {
    const moment = whole(text);
    return moment === moment ? moment : ofDate(text);
  };
}

function readerOfAll(format: string, kind: "date" | "datetime" | "duration"): TimeReader | { unknown: string } {
  const parts: Part[] = [];
  const used = new Set<string>();
  for (let at = 0; at < format.length; at++) {
    const character = format[at] as string;
    if (character !== "%") {
      parts.push((text, place) => (text[place] === character ? place + 1 : -1));
      continue;
    }
    at += 1;
    const letter = format[at] ?? "";
    if (letter === "%") {
      parts.push((text, place) => (text[place] === "%" ? place + 1 : -1));
      continue;
    }
    const part = kind === "duration" && letter === "H" ? numberPart("hour", 9) : PARTS[letter];
    if (!part) return { unknown: `%${letter}` };
    used.add(letter);
    parts.push(part);
  }
  if (kind !== "duration" && !used.has("Y") && !used.has("y")) return { unknown: "a date without %Y" };
  return (text) => {
    const fields: Fields = { year: 1970, month: 1, day: 1, hour: 0, minute: 0, second: 0, afternoon: null, offset: 0 };
    let at = 0;
    for (const part of parts) {
      at = part(text, at, fields);
      if (at < 0) return Number.NaN;
    }
    if (at !== text.length) return Number.NaN;
    if (kind === "duration") return fields.hour * 3600 + fields.minute * 60 + fields.second;
    if (fields.afternoon !== null) fields.hour = (fields.hour % 12) + (fields.afternoon ? 12 : 0);
    const seconds =
      civilSeconds(fields.year, fields.month, fields.day, fields.hour, fields.minute, fields.second) - fields.offset;
    return kind === "date" ? Math.floor(seconds / DAY) * DAY : toMilliseconds(seconds);
  };
}
