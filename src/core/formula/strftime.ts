import { MONTHS, WEEKDAYS } from "../table/calendar";

/**
 * Moments written by a pattern with the letters of strftime (ISO/IEC 9899, 7.27.3.5), in UTC and English.
 * Every dashboard carries this, which is why it is not a package: those bring readers and calendars along.
 */

/** Milliseconds of a day. */
const DAY = 864e5;

/** What fills a number up to its width, by the sign between `%` and the letter; none by `-`. */
const FILLS: Readonly<Record<string, string>> = { "-": "", _: " ", "0": "0" };

const monthOf = (date: Date): string => MONTHS[date.getUTCMonth()] as string;
/** Days of a date are counted from Sunday, those of our weeks from Monday. */
const weekdayOf = (date: Date): string => WEEKDAYS[(date.getUTCDay() + 6) % 7] as string;
/** The first moment of a year; `Date.UTC` takes the years of the first century for those of the twentieth. */
const yearBegin = (date: Date): number => new Date(0).setUTCFullYear(date.getUTCFullYear(), 0, 1);
/** Days since the year began. */
const dayOfYear = (date: Date): number => Math.floor((date.getTime() - yearBegin(date)) / DAY);
/** Weeks that have begun since the year did, where weeks begin on a day counted from Sunday. */
const weeks = (date: Date, first: number): number =>
  Math.floor((dayOfYear(date) + 7 - ((date.getUTCDay() + 7 - first) % 7)) / 7);
/** The Thursday of the week that holds a day: its year and number are those of the week. */
const thursday = (date: Date): Date => new Date(date.getTime() + (3 - ((date.getUTCDay() + 6) % 7)) * DAY);

/** Each letter: the number that it writes and its width, or its words. */
const LETTERS: Readonly<Record<string, (date: Date) => readonly [value: number, width: number] | string>> = {
  a: (date) => weekdayOf(date).slice(0, 3),
  A: (date) => weekdayOf(date),
  b: (date) => monthOf(date).slice(0, 3),
  B: (date) => monthOf(date),
  c: (date) => strftime("%x, %X")(date),
  d: (date) => [date.getUTCDate(), 2],
  e: (date) => [date.getUTCDate(), 2],
  f: (date) => [date.getUTCMilliseconds(), 3],
  g: (date) => [thursday(date).getUTCFullYear() % 100, 2],
  G: (date) => [thursday(date).getUTCFullYear() % 10000, 4],
  H: (date) => [date.getUTCHours(), 2],
  I: (date) => [date.getUTCHours() % 12 || 12, 2],
  j: (date) => [dayOfYear(date) + 1, 3],
  L: (date) => [date.getUTCMilliseconds(), 3],
  m: (date) => [date.getUTCMonth() + 1, 2],
  M: (date) => [date.getUTCMinutes(), 2],
  p: (date) => (date.getUTCHours() < 12 ? "AM" : "PM"),
  q: (date) => String(Math.floor(date.getUTCMonth() / 3) + 1),
  Q: (date) => String(date.getTime()),
  s: (date) => String(Math.floor(date.getTime() / 1000)),
  S: (date) => [date.getUTCSeconds(), 2],
  u: (date) => String(date.getUTCDay() || 7),
  U: (date) => [weeks(date, 0), 2],
  V: (date) => [Math.floor(dayOfYear(thursday(date)) / 7) + 1, 2],
  w: (date) => String(date.getUTCDay()),
  W: (date) => [weeks(date, 1), 2],
  x: (date) => strftime("%-m/%-d/%Y")(date),
  X: (date) => strftime("%-I:%M:%S %p")(date),
  y: (date) => [date.getUTCFullYear() % 100, 2],
  Y: (date) => [date.getUTCFullYear() % 10000, 4],
  Z: () => "+0000",
  "%": () => "%",
};

function filled(value: number, width: number, fill: string): string {
  const digits = String(Math.abs(value));
  return (value < 0 ? "-" : "") + (fill === "" ? digits : digits.padStart(width, fill));
}

/** A writer of moments by a pattern; letters that nobody knows are written as they are. */
export function strftime(pattern: string): (date: Date) => string {
  return (date) =>
    pattern.replace(/%([-_0]?)(.)/gs, (whole, sign: string, letter: string) => {
      const write = Object.hasOwn(LETTERS, letter) ? LETTERS[letter] : undefined;
      const value = write?.(date);
      if (value === undefined) return letter;
      if (typeof value === "string") return value;
      const number = filled(...value, sign === "" ? (letter === "e" ? " " : "0") : (FILLS[sign] ?? whole));
      // Millionths are not known; they are thousandths with three zeros.
      return letter === "f" ? `${number}000` : number;
    });
}
