import { hasLegend, type LegendItem, legendItems, legendRuns, runWidth } from "../../core/chart/legend";
import { escapeText } from "../../core/scene/escape";
import { markCount } from "../../core/scene/scene";
import { backSvg, frontSvg, sceneSvg, wordsSvg } from "../../core/scene/svg";
import { textWidth } from "../../core/scene/text-width";
import { TOKENS } from "../../core/scene/theme";
import { download } from "../dom";
import type { PlotView } from "./plot-view";

const MARGIN = 16;
/** Of more marks the picture holds the drawing and not each mark. */
const MOST_MARKS = 20_000;
/** Pixels of a PNG for each of the screen. */
const SHARPNESS = 2;

interface Line {
  text: string;
  size: number;
  bold?: true;
  quiet?: true;
}

/** The words around a chart as it stands: over it and under it. */
function wordsOf(section: HTMLElement): { above: Line[]; below: Line[] } {
  const text = (selector: string) => section.querySelector(selector)?.textContent ?? "";
  const line = (words: string, size: number, more: Partial<Line> = {}) =>
    words ? [{ text: words, size, ...more }] : [];
  return {
    above: [...line(text("h2"), 15, { bold: true }), ...line(text(".sub"), 13, { quiet: true })],
    below: line(text(".credit"), 12, { quiet: true }),
  };
}

/** The legend's entries as pictures and words in lines of some width; their lines' height is 18. */
function legendSvg(view: PlotView, width: number): { svg: string; height: number } {
  const keys = view.app.model.legendKeys(view.name);
  if (!hasLegend(view.plan, keys)) return { svg: "", height: 0 };
  const { ground } = view.app;
  const { color } = keys;
  let [x, y] = [0, 0];
  const off = view.app.reader.offOf(view.name);
  const word = (text: string) => {
    const svg = `<text x="${x}" y="${y + 12}" font-size="13" fill="${TOKENS[ground].ink}">${escapeText(text)}</text>`;
    x += textWidth(text, 13) + 5;
    return svg;
  };
  const isOn = ({ entry }: LegendItem) =>
    entry === undefined || color?.type !== "categories" || !off.has(color.names[entry] ?? null);
  const written = (item: LegendItem) => {
    const before = item.before ? word(item.before) : "";
    const picture = `<g transform="translate(${x} ${y + 8 - item.height / 2})">${item.picture}</g>`;
    x += item.width + 5;
    const entry = `${before}${picture}${word(item.after)}`;
    x += 9;
    return entry;
  };
  const runs = legendRuns(legendItems(keys, ground).filter(isOn));
  const parts = runs.flatMap((run) => {
    if (x > 0 && x + runWidth(run) > width) [x, y] = [0, y + 18];
    return run.map(written);
  });
  return { svg: parts.join(""), height: parts.length ? y + 22 : 0 };
}

/** The type of the page, so that the picture has it wherever it is opened. */
function faces(): string {
  const css = [...document.querySelectorAll("style")].map((style) => style.textContent ?? "").join("");
  return [...css.matchAll(/@font-face\{[^}]*\}/g)].map(([face]) => face).join("");
}

/** The chart with title, legend and credit as a picture of its own. */
export function pictureOf(view: PlotView, section: HTMLElement): { svg: string; width: number; height: number } {
  const scene = view.current()?.scene;
  const { ground } = view.app;
  const { width = 600, height = 300 } = scene ?? {};
  const { above, below } = wordsOf(section);
  const legend = legendSvg(view, width);
  let y = MARGIN;
  const written = (line: Line) => {
    y += line.size * 1.35;
    const fill = line.quiet ? TOKENS[ground].quiet : TOKENS[ground].ink;
    return `<text x="${MARGIN}" y="${y - line.size * 0.3}" font-size="${line.size}" fill="${fill}"${line.bold ? ' font-weight="600"' : ""}>${escapeText(line.text)}</text>`;
  };
  const heads = above.map(written).join("");
  const legendAt = y + 4;
  const plotAt = legendAt + legend.height;
  y = plotAt + height + 4;
  const feet = below.map(written).join("");
  const whole = { width: width + 2 * MARGIN, height: Math.ceil(y + MARGIN) };
  const body = !scene
    ? ""
    : markCount(scene) > MOST_MARKS
      ? `${backSvg(scene, ground)}<image width="${width}" height="${height}" href="${view.canvas.toDataURL()}"/>${wordsSvg(scene, ground)}${frontSvg(scene, ground)}`
      : sceneSvg(scene, view.name, ground);
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${whole.width}" height="${whole.height}" viewBox="0 0 ${whole.width} ${whole.height}" font-family="Harbor Sans, sans-serif"><style>${faces()}</style><rect width="100%" height="100%" fill="${TOKENS[ground].ground}"/>${heads}<g transform="translate(${MARGIN} ${legendAt})">${legend.svg}</g><svg x="${MARGIN}" y="${plotAt}" width="${width}" height="${height}">${body}</svg>${feet}</svg>`;
  return { svg, ...whole };
}

export function takeSvg(view: PlotView, section: HTMLElement) {
  download(`${view.name}.svg`, pictureOf(view, section).svg, "image/svg+xml");
}

/** The same as pixels, twice as many as on the screen. */
export async function takePng(view: PlotView, section: HTMLElement) {
  const { svg, width, height } = pictureOf(view, section);
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  try {
    await image.decode();
  } catch {
    // Said to the reader; there is no other way to pixels here.
    view.app.say("this browser cannot draw the picture; take it as SVG");
    return;
  }
  const canvas = document.createElement("canvas");
  canvas.width = width * SHARPNESS;
  canvas.height = height * SHARPNESS;
  canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
  canvas.toBlob((blob) => {
    if (blob) download(`${view.name}.png`, blob, "image/png");
  }, "image/png");
}
