import { DAY, daysInMonth, daysOf } from "../table/calendar";

/** Reads a cell where it stands in a longer text; `NaN` where it is not of the one spelling that it knows. */
export type RangeReader = (source: string, from: number, to: number) => number;

const MINUS = 45;
const POINT = 46;
const COLON = 58;
const ZERO = 48;

/** More digits than this are not all held by a double. */
const MOST_DIGITS = 15;

const POWERS = Float64Array.from({ length: MOST_DIGITS + 1 }, (_, power) => 10 ** power);

/**
 * A plain decimal number of at most 15 signs, without leading zeros. Digits and power of ten are
 * both exact, so that their one division rounds as reading the whole does.
 */
export const numberIn: RangeReader = (source, from, to) => {
  let at = from;
  const negative = source.charCodeAt(at) === MINUS;
  if (negative) at += 1;
  if (to - from > MOST_DIGITS || at >= to) return Number.NaN;
  if (source.charCodeAt(at) === ZERO && at + 1 < to && source.charCodeAt(at + 1) !== POINT) return Number.NaN;
  let digits = 0;
  let point = -1;
  for (let place = at; place < to; place++) {
    const unit = source.charCodeAt(place);
    if (unit >= ZERO && unit <= 57) digits = digits * 10 + (unit - ZERO);
    else if (unit === POINT && point < 0 && place > at && place + 1 < to) point = place;
    else return Number.NaN;
  }
  const value = point < 0 ? digits : digits / (POWERS[to - point - 1] as number);
  return negative ? -value : value;
};

/** Two digits as a number, -1 where they are none. */
function two(source: string, at: number): number {
  const tens = source.charCodeAt(at) - ZERO;
  const ones = source.charCodeAt(at + 1) - ZERO;
  return tens >= 0 && tens <= 9 && ones >= 0 && ones <= 9 ? tens * 10 + ones : -1;
}

let [lastDay, lastStart] = [-1, Number.NaN];

/** Seconds at which a day begins, `NaN` if the month has no such day. Neighbouring cells are mostly of the same day. */
function startOfDay(year: number, month: number, day: number): number {
  const asked = (year * 16 + month) * 32 + day;
  if (asked !== lastDay) {
    lastDay = asked;
    lastStart = day <= 28 || day <= daysInMonth(year, month) ? daysOf(year, month, day) * DAY : Number.NaN;
  }
  return lastStart;
}

/** `YYYY-MM-DD HH:MM` or with `:SS`, a `T` or a space between; no offset, which would be told on another clock. */
export const datetimeIn: RangeReader = (source, from, to) => {
  const length = to - from;
  if (length !== 16 && length !== 19) return Number.NaN;
  if (
    source.charCodeAt(from + 4) !== MINUS ||
    source.charCodeAt(from + 7) !== MINUS ||
    source.charCodeAt(from + 13) !== COLON
  )
    return Number.NaN;
  const between = source.charCodeAt(from + 10);
  if (between !== 32 && between !== 84) return Number.NaN;
  const century = two(source, from);
  const years = two(source, from + 2);
  const month = two(source, from + 5);
  const day = two(source, from + 8);
  const hour = two(source, from + 11);
  const minute = two(source, from + 14);
  const second = length === 16 ? 0 : source.charCodeAt(from + 16) === COLON ? two(source, from + 17) : -1;
  if (
    century < 0 ||
    years < 0 ||
    month < 1 ||
    month > 12 ||
    day < 1 ||
    day > 31 ||
    hour < 0 ||
    hour > 23 ||
    minute < 0 ||
    minute > 59 ||
    second < 0 ||
    second > 60
  )
    return Number.NaN;
  const start = startOfDay(century * 100 + years, month, day);
  return start + hour * 3600 + minute * 60 + second;
};

/** `H:MM:SS`, hours without limit, a sign allowed; with a fraction it is for the slower reader. */
export const durationIn: RangeReader = (source, from, to) => {
  const negative = source.charCodeAt(from) === MINUS;
  const start = negative ? from + 1 : from;
  const end = to - 6;
  if (
    end <= start ||
    to - start > MOST_DIGITS ||
    source.charCodeAt(end) !== COLON ||
    source.charCodeAt(end + 3) !== COLON
  )
    return Number.NaN;
  let hours = 0;
  for (let at = start; at < end; at++) {
    const digit = source.charCodeAt(at) - ZERO;
    if (!(digit >= 0 && digit <= 9)) return Number.NaN;
    hours = hours * 10 + digit;
  }
  const minute = two(source, end + 1);
  const second = two(source, end + 4);
  if (minute < 0 || minute > 59 || second < 0 || second > 59) return Number.NaN;
  const seconds = hours * 3600 + minute * 60 + second;
  return negative ? -seconds : seconds;
};
