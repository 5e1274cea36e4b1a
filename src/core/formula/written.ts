import { isoDate, isoDatetime } from "../table/calendar";
import type { Kind } from "../table/column";
import { writeName } from "./words";

/** Formulas that gestures write: a range, a choice of values, two columns together. */

/** A value of a column as a formula has it. */
export function writeLiteral(kind: Kind, value: number | string): string {
  if (kind === "text") return JSON.stringify(String(value));
  const number = Number(value);
  if (kind === "date") return `date("${isoDate(number)}")`;
  if (kind === "datetime")
    return number % 86400 === 0
      ? `date("${isoDate(number)}")`
      : `datetime("${isoDatetime(number).replace("T", " ").slice(0, 16)}")`;
  if (kind === "duration")
    return number % 3600 === 0
      ? `duration(${number / 3600}, "hours")`
      : number % 60 === 0
        ? `duration(${number / 60}, "minutes")`
        : `duration(${number})`;
  return String(number);
}

/** `waited >= 2 and waited < 8`; an end that is absent is open. */
export function writeRange(
  column: string,
  kind: Kind,
  low: number | undefined,
  high: number | undefined,
  closed = false,
): string {
  const name = writeName(column);
  const parts = [];
  if (low !== undefined && high !== undefined && closed)
    return `${name} between ${writeLiteral(kind, low)} and ${writeLiteral(kind, high)}`;
  if (low !== undefined) parts.push(`${name} >= ${writeLiteral(kind, low)}`);
  if (high !== undefined) parts.push(`${name} ${closed ? "<=" : "<"} ${writeLiteral(kind, high)}`);
  return parts.join(" and ");
}

/** `cargo in ["grain", "salt"]`, with missing as one of the values, or all but these. */
export function writeChoice(
  column: string,
  kind: Kind,
  values: readonly string[],
  missing: boolean,
  exclude: boolean,
): string {
  const name = writeName(column);
  const literal = (value: string) => (kind === "boolean" ? value : JSON.stringify(value));
  const one = values.length === 1;
  const parts: string[] = [];
  if (values.length)
    parts.push(
      exclude
        ? one
          ? `${name} != ${literal(values[0] as string)}`
          : `not (${name} in [${values.map(literal).join(", ")}])`
        : one
          ? `${name} = ${literal(values[0] as string)}`
          : `${name} in [${values.map(literal).join(", ")}]`,
    );
  // A comparison with missing is missing, and such rows leave: those that shall stay are named.
  if (exclude) {
    if (!missing && values.length) return `missing(${name}) or ${parts[0]}`;
    return missing && values.length === 0 ? `known(${name})` : (parts[0] ?? "true");
  }
  if (missing) parts.push(`missing(${name})`);
  return parts.join(" or ") || "false";
}

/** A number of at most three figures near an edge, so that what is written can be read. */
export function nearRound(value: number, width: number): number {
  if (!(width > 0)) return value;
  const unit = 10 ** Math.floor(Math.log10(width));
  const rounded = Math.round(value / unit) * unit;
  return Number(rounded.toPrecision(12));
}
