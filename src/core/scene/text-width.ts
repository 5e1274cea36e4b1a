import { FONT_WIDTHS } from "./font-widths";

export type Face = keyof typeof FONT_WIDTHS;

const tables = new Map<Face, Map<string, number>>();

function tableOf(face: Face): Map<string, number> {
  let table = tables.get(face);
  if (!table) {
    const { characters, widths } = FONT_WIDTHS[face];
    table = new Map([...characters].map((character, place) => [character, widths[place] as number]));
    tables.set(face, table);
  }
  return table;
}

/**
 * Width of a text in pixels, the same at build time and in the viewer, so that nothing jumps when
 * the script takes over. Characters that the packed type does not have count as wide ones.
 */
export function textWidth(text: string, size: number, face: Face = "sans"): number {
  const table = tableOf(face);
  let thousandths = 0;
  for (const character of text) thousandths += table.get(character) ?? (character < "\u0300" ? 550 : 1000);
  return (thousandths * size) / 1000;
}

/** The text cut to a width, with an ellipsis where something is left out. */
export function cutText(text: string, width: number, size: number, face: Face = "sans"): string {
  if (textWidth(text, size, face) <= width) return text;
  const room = width - textWidth("…", size, face);
  let used = 0;
  let cut = "";
  for (const character of text) {
    used += textWidth(character, size, face);
    if (used > room) break;
    cut += character;
  }
  return `${cut.trimEnd()}…`;
}
