import { numberText } from "../address";

/** An end of a range as scripts know it: dates are ISO text. */
export function plainEnd(kind: string, value: number): string | number {
  return kind === "date" || kind === "datetime" ? numberText(kind, value) : value;
}
