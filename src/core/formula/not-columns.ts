import { signatureOf } from "./signatures";

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

/** What a name may be that is no column: the words that tell it, and what to write. */
export function notColumn(name: string): { says: string; text: string } | undefined {
  const color = Object.hasOwn(COLORS, name.toLowerCase()) ? COLORS[name.toLowerCase()] : undefined;
  if (color !== undefined) return { says: `a colour is written as "${color}", in quotes`, text: `"${color}"` };
  if (signatureOf(name)?.parameters.every(({ optional }) => optional))
    return { says: `${name} is a function, and has its brackets: ${name}()`, text: `${name}()` };
  return undefined;
}
