import { type FormatLocaleObject, formatLocale } from "d3-format";

/** The marks that are written in numbers. */
export interface NumberMarks {
  decimal: string;
  thousands: string;
}

const localeOf = (marks: NumberMarks) => formatLocale({ ...marks, grouping: [3], currency: ["$", ""] });

const USUAL: FormatLocaleObject = localeOf({ decimal: ".", thousands: "," });

let locale = USUAL;

/**
 * Sets the marks in all numbers that are written from now on. A page shows one report, and a
 * compilation works on one from its beginning to its end; each sets them before anything is written.
 */
export function setNumberMarks(marks?: NumberMarks) {
  locale = marks ? localeOf(marks) : USUAL;
}

/** A writer for numbers by a d3-format specifier; throws on one that is none. */
export const numberFormat = (specifier: string): ((value: number) => string) => locale.format(specifier);
