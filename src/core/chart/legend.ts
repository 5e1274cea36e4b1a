import { MISSING_NAME } from "../query/categories";
import { writeNumber } from "../query/write";
import { escapeText } from "../scene/escape";
import { textWidth } from "../scene/text-width";
import { type Ground, paintOf, rampPaint } from "../scene/theme";
import type { ColorScale } from "./inputs";
import type { ChartPlan, LegendPlace } from "./plan";

/** Size of words in legends, and what stands beside each of them, in pixels. */
const TEXT = 13;
const SQUARE = 15;
const GAP = 14;
const LINE = 18.2;

/** A legend has entries to press, or a ramp; colours that are values themselves say nothing that it could. */
export const hasLegend = ({ legend }: ChartPlan, color: ColorScale | undefined): color is ColorScale =>
  color !== undefined && legend.at !== "none" && !(color.type === "categories" && color.literal === true);

/** Entries of a legend as HTML, each a word with its colour; the viewer makes switches of them. */
export function legendHtml(plan: ChartPlan, color: ColorScale, ground: Ground): string {
  if (color.type === "ramp") return rampHtml(plan, color, ground);
  return color.names
    .map((name, at) => {
      const fill = paintOf(color.paints[at] as string, ground);
      const square = `<svg viewBox="0 0 10 10" aria-hidden="true"><path d="M0 0h10v10H0z" fill="${fill}"/></svg>`;
      return `<span data-entry="${at}">${square}${escapeText(name ?? MISSING_NAME)}</span>`;
    })
    .join("");
}

/** A strip of the ramp between its ends in words. */
function rampHtml(plan: ChartPlan, color: ColorScale & { type: "ramp" }, ground: Ground): string {
  const channel = plan.layers.map((layer) => layer.query.channels.color).find((found) => found !== undefined);
  if (!channel) return "";
  const steps = Array.from({ length: 24 }, (_, step) => {
    const fill = paintOf(rampPaint("kelp", step / 23), ground);
    return `<path d="M${step * 4} 0h4.2v10h-4.2z" fill="${fill}"/>`;
  }).join("");
  const words = (value: number) => escapeText(writeNumber(channel, value));
  const strip = `<svg class="ramp" viewBox="0 0 96 10" aria-hidden="true">${steps}</svg>`;
  const unit = channel.unit ? ` ${escapeText(channel.unit)}` : "";
  return `<span>${escapeText(channel.label)} ${words(color.low)}${strip}${words(color.high)}${unit}</span>`;
}

/** The class of a legend's place: beside the plot, or inside of it. */
export const legendClass = (at: LegendPlace): string => (at.startsWith("in_") ? "inside" : at);

/** How much room a legend takes from the plot of a chart of some width, in pixels. */
export function legendRoom(
  plan: ChartPlan,
  color: ColorScale | undefined,
  width: number,
): { width: number; height: number } {
  if (!hasLegend(plan, color)) return { width: 0, height: 0 };
  const { at } = plan.legend;
  if (at.startsWith("in_")) return { width: 0, height: 0 };
  const entries =
    color.type === "ramp" ? [] : color.names.map((name) => SQUARE + textWidth(name ?? MISSING_NAME, TEXT));
  if (at === "left" || at === "right")
    return { width: Math.min(width * 0.3, Math.max(60, ...entries) + 16), height: 0 };
  if (color.type === "ramp") return { width: 0, height: 22.2 };
  let lines = 1;
  let used = 0;
  for (const entry of entries) {
    if (used + entry > width && used > 0) {
      lines += 1;
      used = 0;
    }
    used += entry + GAP;
  }
  return { width: 0, height: 4 + lines * LINE + (lines - 1) * 2 };
}
