import { DAY, daysInMonth, MONTHS, secondsOf } from "../table/calendar";
import { readDuration, readIsoDatetime, secondsIn, type TimeReader, toMilliseconds } from "../table/time-text";

/** Readers of dates as they come in files. Each knows one order of day, month and year. */

function civil(year: number, month: number, day: number): number {
  return month >= 1 && month <= 12 && day >= 1 && day <= daysInMonth(year, month)
    ? secondsOf(year, month, day)
    : Number.NaN;
}

const fullYear = (text: string) =>
  text.length === 2 ? Number(text) + (Number(text) < 70 ? 2000 : 1900) : Number(text);

const CLOCK = /^(\d{1,2}):(\d{2})(?::(\d{2}(?:\.\d+)?))?(?: ?([AaPp])\.?[Mm]\.?)?$/;

/** Seconds since midnight of a clock time, on twelve or twenty-four hours. */
function clock(text: string): number {
  const found = CLOCK.exec(text);
  if (!found) return Number.NaN;
  let hour = Number(found[1]);
  const [minute, second] = [Number(found[2]), secondsIn(found[3] ?? "0")];
  const half = found[4]?.toLowerCase();
  if (half && (hour < 1 || hour > 12)) return Number.NaN;
  if (half) hour = (hour % 12) + (half === "p" ? 12 : 0);
  return hour <= 23 && minute <= 59 && second < 61 ? hour * 3600 + minute * 60 + second : Number.NaN;
}

/** `7:10 AM`: a time of day on twelve hours, as the length since midnight. */
export const timeOfDay: TimeReader = (text) => (/[AaPp]\.?[Mm]\.?$/.test(text) ? clock(text) : Number.NaN);

/** A date alone, and the same with a time behind it. */
export interface DateReaders {
  date: TimeReader;
  datetime: TimeReader;
}

function withTime(date: TimeReader): DateReaders {
  return {
    date,
    datetime(text) {
      const at = text.search(/(?:T|,? )\d{1,2}:\d{2}/);
      return at < 0
        ? Number.NaN
        : toMilliseconds(date(text.slice(0, at)) + clock(text.slice(at).replace(/^(?:T|,? )/, "")));
    },
  };
}

const NUMERIC = /^(\d{1,2})([./-]) ?(\d{1,2})\2 ?(\d{4}|\d{2})$/;

export const dayFirst = withTime((text) => {
  const found = NUMERIC.exec(text);
  return found ? civil(fullYear(found[4] as string), Number(found[3]), Number(found[1])) : Number.NaN;
});

export const monthFirst = withTime((text) => {
  const found = NUMERIC.exec(text);
  return found ? civil(fullYear(found[4] as string), Number(found[1]), Number(found[3])) : Number.NaN;
});

/** Year, month, day, parted by slashes or dots. */
export const yearFirst = withTime((text) => {
  const found = /^(\d{4})([./])(\d{1,2})\2(\d{1,2})$/.exec(text);
  return found ? civil(Number(found[1]), Number(found[3]), Number(found[4])) : Number.NaN;
});

function monthOf(name: string): number {
  const lower = name.toLowerCase().replace(/\.$/, "");
  return (
    1 +
    MONTHS.findIndex(
      (month) =>
        month.toLowerCase() === lower ||
        (lower.length >= 3 && month.toLowerCase().startsWith(lower) && lower.length <= 4),
    )
  );
}

/** `3 Mar 2025`, `Mar 3, 2025`, weekday before it or not. */
export const written = withTime((text) => {
  const plain = text.replace(/^[A-Za-z]{3,9},? (?=\d)/, "");
  const day = /^(\d{1,2})(?:st|nd|rd|th)?[ -]([A-Za-z]{3,9}\.?),?[ -](\d{4}|\d{2})$/.exec(plain);
  if (day) return civil(fullYear(day[3] as string), monthOf(day[2] as string), Number(day[1]));
  const month = /^([A-Za-z]{3,9}\.?) (\d{1,2})(?:st|nd|rd|th)?,? (\d{4})$/.exec(text);
  return month ? civil(Number(month[3]), monthOf(month[1] as string), Number(month[2])) : Number.NaN;
});

/** `2025-03`, `03/2025`, `Mar 2025`: a month stands for its first day. */
export const bareMonth: TimeReader = (text) => {
  const yearFirst = /^(\d{4})[-/](\d{2})$/.exec(text);
  if (yearFirst) return civil(Number(yearFirst[1]), Number(yearFirst[2]), 1);
  const yearLast = /^(?:(\d{1,2})\/|([A-Za-z]{3,9}\.?)[ -])(\d{4})$/.exec(text);
  if (!yearLast) return Number.NaN;
  const [, month, name, year] = yearLast;
  return civil(Number(year), name === undefined ? Number(month) : monthOf(name), 1);
};

const OFFSET = /(?:Z|[+-]\d{2}:?\d{2})$/;

/** An ISO datetime; one with an offset is told on the clock of `zone`, seconds ahead of UTC. */
export function isoDatetime(zone: number): TimeReader {
  return (text) => {
    const moment = readIsoDatetime(text);
    return zone !== 0 && OFFSET.test(text) ? moment + zone : moment;
  };
}

export const hasOffset = (text: string): boolean =>
  text.length > 16 && OFFSET.test(text.trim()) && !Number.isNaN(readIsoDatetime(text.trim()));

/** `9:05` as hours and minutes of a day, at five minutes all: so are timetables, and hardly ever lengths. */
export const clockTime: TimeReader = (text) => {
  const found = /^([01]?\d|2[0-3]):([0-5][05])$/.exec(text);
  return found ? Number(found[1]) * 3600 + Number(found[2]) * 60 : Number.NaN;
};

/** `12:34` as minutes and seconds. */
export const minutesSeconds: TimeReader = (text) => {
  const found = /^(-?)(\d{1,3}):([0-5]\d(?:\.\d+)?)$/.exec(text);
  if (!found) return Number.NaN;
  const seconds = Number(found[2]) * 60 + Number(found[3]);
  return found[1] ? -seconds : seconds;
};

/** `1:30:00`, `1 d 2:00:00`, `1 h 20 min`. */
export const length: TimeReader = (text) => {
  const plain = readDuration(text);
  if (plain === plain) return plain;
  const days = /^(\d+) ?(?:d|days?),? (\d{1,2}:[0-5]\d:[0-5]\d(?:\.\d+)?)$/.exec(text);
  if (days) return Number(days[1]) * DAY + readDuration(days[2] as string);
  const units = /^(?:(\d+) ?d)? ?(?:(\d+) ?h)? ?(?:(\d+) ?m(?:in)?)? ?(?:(\d+(?:\.\d+)?) ?s)?$/.exec(text);
  if (!units?.slice(1).some((unit) => unit !== undefined)) return Number.NaN;
  const [day, hour, minute, second] = units.slice(1).map((unit) => Number(unit ?? 0)) as [
    number,
    number,
    number,
    number,
  ];
  return day * DAY + hour * 3600 + minute * 60 + second;
};
