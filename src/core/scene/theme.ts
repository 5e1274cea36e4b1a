import { contrastOf } from "./contrast";
import { channelsOf, longForm } from "./hexadecimal";
import type { Paint } from "./shapes/shape";

/** The tokens of the look, for both grounds: the only place where colours of the house are written. */
export type Ground = "light" | "dark";

export const TOKENS = {
  light: {
    ground: "#f7f4ec",
    sheet: "#fdfcf8",
    ink: "#15302d",
    quiet: "#5d6f6b",
    rule: "#d8d1bf",
    grid: "#e7e2d4",
    land: "#ece6d6",
    sea: "#1d5f5a",
    brass: "#8f6210",
    coral: "#a83a2c",
    moss: "#4d6b1f",
  },
  dark: {
    ground: "#10201f",
    sheet: "#162928",
    ink: "#e9e4d6",
    quiet: "#9fb0a9",
    rule: "#2c4442",
    grid: "#213836",
    land: "#1d3431",
    sea: "#6fbdb0",
    brass: "#e0ad4b",
    coral: "#f08a76",
    moss: "#a9c46c",
  },
} as const;

/** Grounds that only the workbench needs: what is in hand, what is marked, the stream of rows. */
export const WORKBENCH_TOKENS = {
  light: { band: "#f6efdb", held: "#d5e0da", stream: "#ccd7cf", bars: "#4d837c" },
  dark: { band: "#2b2f1d", held: "#2a4a48", stream: "#2b4a47", bars: "#6a9d95" },
} as const;

export type Token = keyof (typeof TOKENS)["light"];

/**
 * Palettes for categories, one set of colours a ground, so that marks keep 3:1 against either.
 * They were searched for by computer: the largest least distance (in OKLab) between any two under
 * normal sight and simulated protanopia, deuteranopia and tritanopia
 * (Machado, Oliveira, Fernandes, "A physiologically-based model", IEEE TVCG 15(6), 2009).
 */
export const PALETTES = {
  quay: {
    light: ["#00464a", "#c2740c", "#4467c3", "#7a1500", "#7f9170", "#682f83", "#1894c7", "#865812"],
    dark: ["#00baba", "#f2ae60", "#4f89cf", "#b85f40", "#bfd5b2", "#9c6f97", "#56dfff", "#ab9c6d"],
  },
  wharf: {
    light: [
      "#225f57",
      "#c47c05",
      "#0f3870",
      "#750001",
      "#7d936f",
      "#a7739f",
      "#018fcc",
      "#754106",
      "#a23678",
      "#6a5d9e",
      "#532f3b",
      "#816a10",
    ],
    dark: [
      "#60c2c1",
      "#e7c668",
      "#6895e0",
      "#e29985",
      "#718160",
      "#9c65a2",
      "#72dcff",
      "#b16922",
      "#d47592",
      "#b5a8fa",
      "#a6ddaa",
      "#b1974a",
    ],
  },
} as const;

export type PaletteName = keyof typeof PALETTES;

export const PALETTE_NAMES = Object.keys(PALETTES) as PaletteName[];

/** Ramps for numbers and dates, from little to much, as stops to interpolate between. */
export const RAMPS = {
  kelp: {
    light: ["#a9c9b0", "#78ab9c", "#468a80", "#165e5d", "#0c3338"],
    dark: ["#2f5f58", "#45877a", "#64a58f", "#9bcbab", "#e4f0cf"],
  },
  warm: {
    light: ["#ecd9b4", "#dfb068", "#c98032", "#9c4f1c", "#5e2710"],
    dark: ["#5a3a1c", "#8a5a26", "#b97f3a", "#dcab6a", "#f6e2bd"],
  },
  slate: {
    light: ["#bcc8cf", "#8fa2ae", "#627d8d", "#3a596b", "#14303f"],
    dark: ["#3c5563", "#587586", "#7e9aaa", "#adc3cf", "#e6eff3"],
  },
  /** Two ways from a middle: one colour below it, another above. */
  tide: {
    light: ["#1d4f78", "#6f9cba", "#e9e4d6", "#cf9566", "#8a3b16"],
    dark: ["#8cc4ea", "#4a7d9f", "#2a3836", "#a8683c", "#f0a878"],
  },
  lamp: {
    light: ["#553a73", "#9c87b3", "#e9e4d6", "#c2a457", "#6b5008"],
    dark: ["#c9aee6", "#7d6898", "#2a3836", "#96803c", "#ecc965"],
  },
} as const;

/** Ramps that go two ways from a middle. */
export const DIVERGING: readonly RampName[] = ["tide", "lamp"];

export type RampName = keyof typeof RAMPS;

export const RAMP_NAMES = Object.keys(RAMPS) as RampName[];

const hexPair = (value: number) =>
  Math.round(Math.max(0, Math.min(255, value)))
    .toString(16)
    .padStart(2, "0");

/** The colour at a part, 0 to 1, of a ramp. */
export function rampColor(name: RampName, part: number, ground: Ground): string {
  return mixColors(RAMPS[name][ground], part);
}

/** The colour at a part, 0 to 1, of the way through some colours in hexadecimal; one is the same all along. */
export function mixColors(colors: readonly string[], part: number): string {
  const stops = colors.length > 1 ? colors.map(longForm) : [...colors, ...colors].map(longForm);
  const place = Math.max(0, Math.min(1, part)) * (stops.length - 1);
  const below = Math.min(stops.length - 2, Math.floor(place));
  const rest = place - below;
  const [a, b] = [channelsOf(stops[below] as string), channelsOf(stops[below + 1] as string)];
  return `#${a.map((from, at) => hexPair(from + ((b[at] as number) - from) * rest)).join("")}`;
}

/** The paint of a place in a palette; past its end it begins again. */
export function palettePaint(name: PaletteName, place: number): Paint {
  return `${name}:${place % PALETTES[name].light.length}`;
}

/** The paint of a part of a ramp, 0 to 1. */
export function rampPaint(name: RampName, part: number): Paint {
  return `${name}:${Math.round(part * 1000) / 1000}`;
}

const ON = "on";

/** The paint of words over another one. */
export const paintOn = (paint: Paint): Paint => `${ON}:${paint}`;

const INKED = "inked";
/** What words need to be read (WCAG 2.2, 1.4.3). */
const LEAST_CONTRAST = 4.5;

/** The paint of words that belong to marks of another one: as near to it as can be read. */
export const paintInked = (paint: Paint): Paint => `${INKED}:${paint}`;

function legible(color: string, ground: Ground): string {
  const { ink, ground: paper } = TOKENS[ground];
  let found = color;
  for (let part = 0.1; part <= 1 && contrastOf(found, paper) < LEAST_CONTRAST; part += 0.1)
    found = mixColors([color, ink], part);
  return found;
}

/** Ink or the ground itself, whichever is better read on a colour. */
function wordsOn(color: string, ground: Ground): string {
  const { ink, ground: paper } = TOKENS[ground];
  return contrastOf(color, ink) >= contrastOf(color, paper) ? ink : paper;
}

/** What a paint looks like on a ground: a colour in hexadecimal. */
export function paintOf(paint: Paint, ground: Ground): string {
  if (paint.startsWith("#")) return paint;
  const colon = paint.indexOf(":");
  if (colon > 0) {
    const name = paint.slice(0, colon);
    const rest = paint.slice(colon + 1);
    if (name === ON) return wordsOn(paintOf(rest, ground), ground);
    if (name === INKED) return legible(paintOf(rest, ground), ground);
    const place = Number(rest);
    if (Object.hasOwn(PALETTES, name)) return PALETTES[name as PaletteName][ground][place] ?? TOKENS[ground].ink;
    if (Object.hasOwn(RAMPS, name)) return rampColor(name as RampName, place, ground);
  }
  return TOKENS[ground][paint as Token] ?? TOKENS[ground].ink;
}
