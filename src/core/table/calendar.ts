/**
 * Calendar arithmetic on seconds since 1970-01-01T00:00, without zones and without `Date`,
 * so that no setting of a reader's machine can reach a value.
 * Day numbers follow E. G. Richards' algorithms ("Mapping Time", 1998) in the proleptic Gregorian calendar.
 */

export const DAY = 86400;

export interface Civil {
  year: number;
  /** 1 to 12 */
  month: number;
  /** 1 to 31 */
  day: number;
}

/** Days since 1970-01-01 of a civil date. Months past 12 or below 1 carry into the year. */
export function daysOf(year: number, month: number, day: number): number {
  const carried = year + Math.floor((month - 1) / 12);
  const inYear = ((((month - 1) % 12) + 12) % 12) + 1;
  const y = inYear <= 2 ? carried - 1 : carried;
  const era = Math.floor(y / 400);
  const yearOfEra = y - era * 400;
  const dayOfYear = Math.floor((153 * (inYear > 2 ? inYear - 3 : inYear + 9) + 2) / 5) + day - 1;
  const dayOfEra = yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear;
  return era * 146097 + dayOfEra - 719468;
}

/** The civil date of a day number. */
export function civilOf(days: number): Civil {
  const shifted = days + 719468;
  const era = Math.floor(shifted / 146097);
  const dayOfEra = shifted - era * 146097;
  const yearOfEra = Math.floor(
    (dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36524) - Math.floor(dayOfEra / 146096)) / 365,
  );
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const shiftedMonth = Math.floor((5 * dayOfYear + 2) / 153);
  const day = dayOfYear - Math.floor((153 * shiftedMonth + 2) / 5) + 1;
  const month = shiftedMonth < 10 ? shiftedMonth + 3 : shiftedMonth - 9;
  return { year: yearOfEra + era * 400 + (month <= 2 ? 1 : 0), month, day };
}

export function daysInMonth(year: number, month: number): number {
  return daysOf(year, month + 1, 1) - daysOf(year, month, 1);
}

/** Seconds of a civil date and time. */
export function secondsOf(year: number, month: number, day: number, hour = 0, minute = 0, second = 0): number {
  return daysOf(year, month, day) * DAY + hour * 3600 + minute * 60 + second;
}

export type Grain = "year" | "quarter" | "month" | "week" | "day" | "hour" | "minute";

export const GRAINS: readonly Grain[] = ["year", "quarter", "month", "week", "day", "hour", "minute"];

/** The grain at which a stretch of time has between a dozen and a few hundred periods. */
export function grainFor(seconds: number): Grain {
  const days = seconds / DAY;
  if (days > 12 * 365) return "year";
  if (days > 250) return "month";
  if (days > 70) return "week";
  return days > 3 ? "day" : "hour";
}

/** The start of the period that holds a moment. Weeks start on Monday. */
export function periodStart(grain: Grain, seconds: number): number {
  if (grain === "minute") return Math.floor(seconds / 60) * 60;
  if (grain === "hour") return Math.floor(seconds / 3600) * 3600;
  const days = Math.floor(seconds / DAY);
  if (grain === "day") return days * DAY;
  if (grain === "week") return (days - ((((days + 3) % 7) + 7) % 7)) * DAY;
  const { year, month } = civilOf(days);
  if (grain === "month") return daysOf(year, month, 1) * DAY;
  if (grain === "quarter") return daysOf(year, month - ((month - 1) % 3), 1) * DAY;
  return daysOf(year, 1, 1) * DAY;
}

/** The start of the period `count` after the one that starts at `start`. */
export function periodAfter(grain: Grain, start: number, count = 1): number {
  if (grain === "minute") return start + 60 * count;
  if (grain === "hour") return start + 3600 * count;
  if (grain === "day") return start + DAY * count;
  if (grain === "week") return start + 7 * DAY * count;
  const { year, month } = civilOf(Math.floor(start / DAY));
  const months = grain === "month" ? count : grain === "quarter" ? 3 * count : 12 * count;
  return daysOf(year, month + months, 1) * DAY;
}

/** A moment moved by whole months; the day is held back at the end of a shorter month. */
export function addMonths(seconds: number, count: number): number {
  const days = Math.floor(seconds / DAY);
  const { year, month, day } = civilOf(days);
  const first = civilOf(daysOf(year, month + count, 1));
  const held = Math.min(day, daysInMonth(first.year, first.month));
  return daysOf(first.year, first.month, held) * DAY + (seconds - days * DAY);
}

const two = (value: number) => String(value).padStart(2, "0");

/** `YYYY-MM-DD` of a moment. */
export function isoDate(seconds: number): string {
  const { year, month, day } = civilOf(Math.floor(seconds / DAY));
  const yearText =
    year < 0 || year > 9999
      ? `${year < 0 ? "-" : "+"}${String(Math.abs(year)).padStart(6, "0")}`
      : String(year).padStart(4, "0");
  return `${yearText}-${two(month)}-${two(day)}`;
}

/** `YYYY-MM-DDTHH:MM:SS` of a moment, with milliseconds only if there are any. */
export function isoDatetime(seconds: number): string {
  const days = Math.floor(seconds / DAY);
  const rest = Math.round((seconds - days * DAY) * 1000) / 1000;
  const whole = Math.floor(rest);
  const milliseconds = Math.round((rest - whole) * 1000);
  const clock = `${two(Math.floor(whole / 3600))}:${two(Math.floor(whole / 60) % 60)}:${two(whole % 60)}`;
  return `${isoDate(days * DAY)}T${clock}${milliseconds ? `.${String(milliseconds).padStart(3, "0")}` : ""}`;
}

export const MONTHS = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
] as const;

export const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"] as const;
