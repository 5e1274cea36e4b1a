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
  return `${partWithin([...text], width - textWidth("…", size), size)
    .join("")
    .trimEnd()}…`;
}

/** As much of a text as finds room, from its beginning or from its end. */
function partWithin(characters: readonly string[], room: number, size: number): string[] {
  let used = 0;
  const end = characters.findIndex((character) => {
    used += textWidth(character, size);
    return used > room;
  });
  return end < 0 ? [...characters] : characters.slice(0, end);
}

/** The text cut to a width in its middle, so that its end can be read. */
function cutInside(text: string, width: number, size: number): string {
  const half = (width - textWidth("…", size)) / 2;
  const characters = [...text];
  const begin = partWithin(characters, half, size).join("");
  const end = partWithin(characters.reverse(), half, size).reverse().join("");
  return `${begin.trimEnd()}…${end.trimStart()}`;
}

/** Texts cut to a width, of which those that would come out the same are cut in their middle: names stay apart. */
export function cutApart(texts: readonly string[], width: number, size: number): string[] {
  const cut = texts.map((text) => cutText(text, width, size));
  if (cut.every((short, at) => short === texts[at])) return cut;
  const from = new Map<string, Set<string>>();
  cut.forEach((short, at) => {
    from.set(short, (from.get(short) ?? new Set()).add(texts[at] as string));
  });
  return cut.map((short, at) => {
    const isShared = (from.get(short)?.size ?? 0) > 1 && short !== texts[at];
    return isShared ? cutInside(texts[at] as string, width, size) : short;
  });
}
