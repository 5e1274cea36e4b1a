import { DAY, isoDate, isoDatetime, secondsOf } from "../table/calendar";
import type { NumberMeaning } from "./number-formats";

/** Days under which a time of day is a length of time and not a moment that shows its clock only. */
const MOST_DAYS = 366;

const two = (value: number) => String(value).padStart(2, "0");

/** Seconds of a number of days, to the millisecond: what is beyond that is noise of the division. */
const secondsIn = (days: number) => Math.round(days * DAY * 1000) / 1000;

/** `H:MM:SS`, with milliseconds where there are any. */
function writeLength(days: number): string {
  const milliseconds = Math.round(Math.abs(days) * DAY * 1000);
  const seconds = Math.floor(milliseconds / 1000);
  const rest = milliseconds % 1000;
  return `${days < 0 && milliseconds ? "-" : ""}${Math.floor(seconds / 3600)}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}${rest ? `.${String(rest).padStart(3, "0")}` : ""}`;
}

/**
 * Seconds since 1970 of a workbook's day number. Its first calendar counts a 29 February 1900 that
 * never was (day 60): days before it stand one later than those after it let one think.
 */
function moment(days: number, from1904: boolean): number {
  if (from1904) return secondsOf(1904, 1, 1) + secondsIn(days);
  return secondsOf(1899, 12, days < 60 ? 31 : 30) + secondsIn(days);
}

/** A number as the cell shows it: a day, a moment (with its 00:00), a length of time; else nothing. */
export function writeSerial(days: number, meaning: NumberMeaning, from1904: boolean): string | undefined {
  if (meaning === "number" || !Number.isFinite(days) || Math.abs(days) > 3_000_000) return undefined;
  if (meaning === "time" && Math.abs(days) < MOST_DAYS) return writeLength(days);
  if (days < 0) return undefined;
  const seconds = moment(days, from1904);
  return meaning === "date" && seconds % DAY === 0 ? isoDate(seconds) : isoDatetime(seconds).replace("T", " ");
}
