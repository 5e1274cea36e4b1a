import { writer } from "../formula/format";
import { type Edges, stretchEnd } from "../query/interval";
import type { Scale, Tick } from "../scale/scales";
import { textWidth } from "../scene/text-width";
import type { Grain } from "../table/calendar";
import { TEXT } from "./tick-words";

/** Pixels between the words of two periods side by side, and the height that words over one another need. */
const GAP = 8;
const LINE = 15;

const [year, month, monthAndYear, day, dayAndYear] = ["%Y", "%b", "%b %Y", "%-d %b", "%-d %b %Y"].map((format) =>
  writer("date", format),
) as [Write, Write, Write, Write, Write];
type Write = (seconds: number) => string;

/** How periods are written below their own stretch; the year is said once and where it begins. */
const WRITERS: Partial<Record<Grain, (start: number, saysYear: boolean) => string>> = {
  year,
  quarter: (start, saysYear) => {
    const quarter = `Q${Math.floor(new Date(start * 1000).getUTCMonth() / 3) + 1}`;
    return saysYear ? `${quarter} ${year(start)}` : quarter;
  },
  month: (start, saysYear) => (saysYear ? monthAndYear : month)(start),
  day: (start, saysYear) => (saysYear ? dayAndYear : day)(start),
};

/**
 * Ticks in the middle of periods that bars or cells fill, where the words of each find room: at the edge between
 * two of them nobody would know which is meant. Nothing where they do not, or of hours and weeks, which are read at
 * their beginnings.
 * @param isLevel true for words side by side
 * @param write the author's own format
 */
export function periodTicks(
  edges: Edges,
  scale: Scale,
  isLevel: boolean,
  write: Write | undefined,
): Tick[] | undefined {
  const own = edges.grain && WRITERS[edges.grain];
  if (!own) return undefined;
  const [low, high] = scale.domain;
  const ticks: Tick[] = [];
  let before: number | undefined;
  for (const start of edges.starts) {
    const middle = (start + stretchEnd(edges, start)) / 2;
    if (middle < low || middle > high) continue;
    const calendarYear = new Date(start * 1000).getUTCFullYear();
    const text = write ? write(start) : own(start, calendarYear !== before);
    before = calendarYear;
    const room = Math.abs(scale.place(stretchEnd(edges, start)) - scale.place(start));
    if (room < (isLevel ? textWidth(text, TEXT) + GAP : LINE)) return undefined;
    ticks.push({ value: start, place: scale.place(middle), text });
  }
  return ticks;
}
