import { type FormatLocaleObject, formatLocale } from "d3-format";

/** The marks that are written in numbers. */
export interface NumberMarks {
  decimal: string;
  thousands: string;
}

const localeOf = (marks: NumberMarks) => formatLocale({ ...marks, grouping: [3], currency: ["$", ""] });

const PLAIN: NumberMarks = { decimal: ".", thousands: "," };
const USUAL: FormatLocaleObject = localeOf(PLAIN);

let marksNow = PLAIN;
let locale = USUAL;

/**
 * Sets the marks in all numbers that are written from now on. A page shows one report, and a
 * compilation works on one from its beginning to its end; each sets them before anything is written.
 */
export function setNumberMarks(marks?: NumberMarks) {
  marksNow = marks ?? PLAIN;
  locale = marks ? localeOf(marks) : USUAL;
}

/** A writer for numbers by a d3-format specifier; throws on one that is none. */
export const numberFormat = (specifier: string): ((value: number) => string) => locale.format(specifier);

/** A number that a reader types with the report's own marks, as numbers are written elsewhere. */
export function withoutMarks(typed: string): string {
  const { decimal, thousands } = marksNow;
  const parts = typed.trim().split(thousands);
  // What parts no three digits is no thousands mark: 20.5 is meant as it stands.
  const isParted = parts.slice(1).every((part) => /^\d{3}(\D|$)/.test(part));
  return (isParted ? parts.join("") : typed.trim()).replace(decimal, ".");
}

/** The same the other way: a plain number with the report's decimal mark, for readers to type in. */
export const withDecimalMark = (plain: string): string => plain.replace(".", marksNow.decimal);
