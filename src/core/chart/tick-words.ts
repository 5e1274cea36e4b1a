import { categoryScale, type Scale, type Tick } from "../scale/scales";
import { cutApart, cutText, textWidth } from "../scene/text-width";

/** Words beside an axis: which of its ticks are written, and as what, where there is little room. */

/** Size of the words at axes, in pixels. */
export const TEXT = 12;

/** From one line of words to the next, in pixels. */
export const LINE = 13;

/** Pixels between words side by side. */
const APART = 6;

const inPlace = ({ ticks }: Scale): Tick[] => [...ticks].sort((a, b) => a.place - b.place);

/** True where the words of two ticks leave a gap between them. */
const areApart = (one: Tick, next: Tick): boolean =>
  next.place - one.place >= (textWidth(one.text, TEXT) + textWidth(next.text, TEXT)) / 2 + APART;

/** Words over one another need no less than this, in pixels: their own height. */
const LOWEST = 12;

/** Words of an upright axis within a width: of categories every n-th where they would overlap. */
export function uprightWords(scale: Scale, width: number): Tick[] {
  const step = scale.type === "category" ? Math.max(1, Math.ceil(LOWEST / scale.band)) : 1;
  const ticks = scale.ticks.filter((_, at) => at % step === 0);
  const texts = cutApart(
    ticks.map(({ text }) => text),
    width,
    TEXT,
  );
  return ticks.map((tick, at) => ({ ...tick, text: texts[at] as string }));
}

/** Words of one tick, line by line. */
interface TickWords {
  place: number;
  words: string[];
}

/** Words of a level axis that stand between two pixels, in one line or two, so that none touches another. */
export function levelWords(scale: Scale, [left, right]: [number, number], lines: number): TickWords[] {
  const held = (tick: Tick): Tick => {
    const wide = textWidth(tick.text, TEXT) / 2;
    return { ...tick, place: Math.max(left + wide, Math.min(right - wide, tick.place)) };
  };
  const ordered = inPlace(scale);
  const inOneLine = (ticks: Tick[]) => ticks.map(({ place, text }) => ({ place, words: [text] }));
  if (scale.type !== "category") return inOneLine(spaced(ordered.map(held)));
  const room = roomIn(scale.band);
  const texts = ordered.map(({ text }) => text);
  if (room < LEAST_ROOM || !texts.some((text) => isWide(text, room)))
    return inOneLine(everyNthBand(ordered.map(held), scale.band));
  return besideOthers(withinBands(texts, room, lines), ordered, held);
}

const widestOf = (lines: readonly string[]): string =>
  lines.reduce((widest, line) => (textWidth(line, TEXT) > textWidth(widest, TEXT) ? line : widest), "");

/** Words under their bands, of which those that were cut stand whole where those at their sides leave them room. */
function besideOthers(all: readonly string[][], ticks: readonly Tick[], held: (tick: Tick) => Tick): TickWords[] {
  const kept = [...all];
  const placed = (at: number) => held({ ...(ticks[at] as Tick), text: widestOf(kept[at] as string[]) });
  ticks.forEach(({ text }, at) => {
    const words = all[at] as string[];
    if (words.length > 1 || words[0] === text) return;
    kept[at] = [text];
    const isRoomy = [at, at + 1].every(
      (next) => !kept[next - 1] || !kept[next] || areApart(placed(next - 1), placed(next)),
    );
    if (!isRoomy) kept[at] = words;
  });
  return kept.map((words, at) => ({ place: placed(at).place, words }));
}

/** Ticks so far apart that their words do not touch. */
function spaced(ticks: readonly Tick[]): Tick[] {
  const kept: Tick[] = [];
  for (const tick of ticks) {
    const last = kept.at(-1);
    if (!last || areApart(last, tick)) kept.push(tick);
  }
  return kept;
}

/** No word with its gap is narrower than this, in pixels. */
const NARROWEST = 8;

/** Every n-th band, so that no words touch: between two that are named the same number is not, as one would read it. */
function everyNthBand(ticks: Tick[], band: number): Tick[] {
  // Of thousands of bands most distances need no look.
  for (let n = Math.max(1, Math.ceil(NARROWEST / band)); n < ticks.length; n++) {
    const kept = ticks.filter((_, at) => at % n === 0);
    if (kept.every((tick, at) => at === 0 || areApart(kept[at - 1] as Tick, tick))) return kept;
  }
  return ticks.slice(0, 1);
}

/** Room for words, in pixels, under which what would be left of a cut word says nothing. */
const LEAST_ROOM = 26;

const roomIn = (band: number) => band - 4;
const isWide = (text: string, room: number) => textWidth(text, TEXT) > room;

/** How words stand under the bands of a level axis. */
export interface WordsUnder {
  lines: 1 | 2;
  /** Where they are slanted: how far down they may reach from their line, in pixels. */
  slant?: number;
}

/**
 * How words stand best under so many bands of a width: in two lines where some are too wide and can be parted,
 * slanted where names would still be cut or left out. Of bands that are too narrow for slanted words no text is
 * asked for: there may be thousands. `deepest` is how far down slanted words may reach, in pixels.
 */
export function wordsUnder(count: number, textAt: (band: number) => string, band: number, deepest: number): WordsUnder {
  if (band < SLANTED_APART) return { lines: 1 };
  const texts = Array.from({ length: count }, (_, at) => textAt(at));
  const room = roomIn(band);
  const lines = room >= LEAST_ROOM && texts.some((text) => isWide(text, room) && parted(text).length > 1) ? 2 : 1;
  if (deepest < LEAST_DEPTH || texts.every(isInARow)) return { lines };
  const length = count * band;
  const level = levelWords(categoryScale(texts, [0, length]), [0, length], lines);
  const isWhole =
    level.length === count && level.every(({ words }, at) => bare(words.join("")) === bare(texts[at] ?? ""));
  if (isWhole) return { lines };
  // Whole pixels: the widest word is not cut for what reckoning its width forth and back has lost.
  const depth = Math.ceil(Math.max(...texts.map((text) => textWidth(text, TEXT))) * DIAGONAL) + 8;
  return { lines: 1, slant: Math.min(deepest, depth) };
}

/** Between the lines of slanted words, along the axis, in pixels. */
const SLANTED_APART = 17;
/** Slanted words with less room than this would say nothing. */
const LEAST_DEPTH = 40;
/** What a slanted length takes along and down. */
const DIAGONAL = Math.SQRT1_2;

/** A number or a date: of those the ones between can be told from their neighbours. */
const isInARow = (text: string) => /^\W*\d/.test(text);
const bare = (text: string) => text.replace(/\s+/g, "");

/** Slanted words that end at their bands, cut to `depth` and to what is left of the chart at their left, in pixels. */
export function slantedWords(scale: Scale, depth: number): Tick[] {
  const step = scale.type === "category" ? Math.max(1, Math.ceil(SLANTED_APART / scale.band)) : 1;
  const ticks = inPlace(scale).filter((_, at) => at % step === 0);
  const texts = cutApart(
    ticks.map(({ text }) => text),
    (depth - 8) / DIAGONAL,
    TEXT,
  );
  return ticks.map((tick, at) => ({ ...tick, text: cutText(texts[at] as string, tick.place / DIAGONAL, TEXT) }));
}

/** Words under bands that are too narrow for some of them: in two lines, and cut. */
function withinBands(texts: readonly string[], room: number, lines: number): string[][] {
  const whole = texts.map((text) => (lines > 1 && isWide(text, room) ? parted(text) : [text]));
  const single = cutApart(texts, room, TEXT);
  const short = whole.map((words) => words.map((line) => cutText(line, room, TEXT)));
  const written = short.map((words) => words.join("\n"));
  // What is parted and cut to the same words is told apart in one line.
  return short.map((words, at) =>
    words.length > 1 &&
    written.every((other, place) => place === at || other !== written[at] || texts[place] === texts[at])
      ? words
      : [single[at] as string],
  );
}

/** A text in two lines as equally long as its spaces and hyphens allow; in one where it has none. */
function parted(text: string): string[] {
  const ways = [...text.matchAll(/[\s/-]+(?=\S)/g)].map(({ index, 0: gap }): [string, string] => [
    text.slice(0, index + gap.length).trimEnd(),
    text.slice(index + gap.length),
  ]);
  const widest = (lines: readonly string[]) => Math.max(...lines.map((line) => textWidth(line, TEXT)));
  return ways.reduce<string[]>((best, way) => (widest(way) < widest(best) ? way : best), [text]);
}
