import { FONT_WIDTHS } from "./font-widths";

const { characters, widths } = FONT_WIDTHS;
const widthOf = new Map([...characters].map((character, place) => [character, widths[place] as number]));

/**
 * Width of a text in pixels, the same at build time and in the viewer, so that nothing jumps when
 * the script takes over. Characters that the packed type does not have count as wide ones.
 */
export function textWidth(text: string, size: number): number {
  let thousandths = 0;
  for (const character of text) thousandths += widthOf.get(character) ?? (character < "\u0300" ? 550 : 1000);
  return (thousandths * size) / 1000;
}

/** The text cut to a width, with an ellipsis where something is left out. */
export function cutText(text: string, width: number, size: number): string {
  if (textWidth(text, size) <= width) return text;
  const room = width - textWidth("…", size);
  let used = 0;
  let cut = "";
  for (const character of text) {
    used += textWidth(character, size);
    if (used > room) break;
    cut += character;
  }
  return `${cut.trimEnd()}…`;
}
