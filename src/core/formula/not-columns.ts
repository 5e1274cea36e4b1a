import { nearest } from "../finding/nearest";
import { GRAINS } from "../table/calendar";
import { printFormula } from "./print";
import type { Scope } from "./scope";
import { signatureOf } from "./signatures";
import type { Formula } from "./tree";

/** Colours by names that many know, as they are written here. */
const COLORS: Readonly<Record<string, string>> = {
  red: "#c0392b",
  orange: "#d9822b",
  yellow: "#c9a227",
  green: "#3f7f4c",
  teal: "#1d7f7a",
  blue: "#2f6690",
  navy: "#1f3a5f",
  purple: "#7a5195",
  pink: "#c2588a",
  brown: "#8a5a2b",
  black: "#1a1a1a",
  gray: "#8a8a8a",
  grey: "#8a8a8a",
  white: "#ffffff",
};

/** A colour by the name that many know for it, in hexadecimal. */
export const namedColor = (name: string): string | undefined =>
  Object.hasOwn(COLORS, name.toLowerCase()) ? COLORS[name.toLowerCase()] : undefined;

/** A name beside a column of texts that is a text without its quotes: `cargo = grain`. */
export function bareText(node: Formula, other: Formula, { columns, settings }: Scope): string | undefined {
  if (node.type !== "column" || other.type !== "column" || columns.get(other.name) !== "text") return undefined;
  const { name } = node;
  // A name that is nearly a column is a slip of the pen.
  const isKnown = columns.has(name) || settings.has(name) || nearest(name, columns.keys()) !== undefined;
  return isKnown ? undefined : JSON.stringify(name);
}

/** A grain without its quotes: `by(month, arrived)`. */
export function bareGrain({ name, arguments: [grain] }: Formula & { type: "call" }, { columns }: Scope) {
  if (name !== "by" || grain?.type !== "column" || columns.has(grain.name)) return undefined;
  return (GRAINS as readonly string[]).includes(grain.name) ? { grain, text: `"${grain.name}"` } : undefined;
}

/** What a name may be that is no column: the words that tell it, and what to write. */
export function notColumn(name: string): { says: string; text: string } | undefined {
  const color = namedColor(name);
  if (color !== undefined) return { says: `a colour is written as "${color}", in quotes`, text: `"${color}"` };
  if (signatureOf(name)?.parameters.every(({ optional }) => optional))
    return { says: `${name} is a function, and has its brackets: ${name}()`, text: `${name}()` };
  return undefined;
}

/** How the number is written that stands for a name which a function gives. */
const NUMBERED: Readonly<Record<string, string>> = { month: "%m", weekday: "%u" };

/** A part of a date that is a name where a number is meant: the words that tell it, and what to write. */
export function numberOfName(node: Formula): { says: string; text: string } | undefined {
  if (node.type !== "call" || !Object.hasOwn(NUMBERED, node.name) || !node.arguments[0]) return undefined;
  const text = `number(text(${printFormula(node.arguments[0])}, "${NUMBERED[node.name]}"))`;
  return { says: `${node.name}() is a name; its number is ${text}`, text };
}
