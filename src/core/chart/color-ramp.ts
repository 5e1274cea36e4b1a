import type { Paint } from "../scene/shapes/shape";
import { DIVERGING, mixColors, RAMP_NAMES, type RampName, rampPaint } from "../scene/theme";
import type { ChartPlan } from "./plan";

/** Colours for numbers and dates between two ends. */
export interface ColorRamp {
  type: "ramp";
  low: number;
  high: number;
  /** A ramp of ours, or colours to go through from little to much. */
  colors: RampName | readonly string[];
  /** The value from which both sides go away, the farther end of both as strong. */
  middle?: number;
  /** Some rows have no value, and are drawn quietly. */
  missing?: true;
}

const isRamp = (name: unknown): name is RampName => RAMP_NAMES.includes(name as RampName);

/** The ramp of a chart whose colours are measured from `low` to `high`. */
export function colorRamp(
  { colors, middle }: Pick<ChartPlan, "colors" | "middle">,
  low: number,
  high: number,
): ColorRamp {
  const own = isRamp(colors) || Array.isArray(colors) ? colors : "kelp";
  // A ramp of two ways goes both ways from zero where there are values on both sides.
  const natural = isRamp(own) && DIVERGING.includes(own) && low < 0 && high > 0 ? 0 : undefined;
  const from = middle ?? natural;
  return { type: "ramp", low, high, colors: own, ...(from === undefined ? {} : { middle: from }) };
}

/** The part of the way along a ramp, 0 to 1, at which a value stands. */
export function rampPart({ low, high, middle }: ColorRamp, value: number): number {
  if (middle === undefined) return Math.max(0, Math.min(1, (value - low) / (high - low || 1)));
  const reach = Math.max(Math.abs(low - middle), Math.abs(high - middle)) || 1;
  return Math.max(0, Math.min(1, 0.5 + (value - middle) / reach / 2));
}

/** The paint of a part of a ramp, 0 to 1. */
export const paintOfRamp = ({ colors }: ColorRamp, part: number): Paint =>
  typeof colors === "string" ? rampPaint(colors, part) : mixColors(colors, part);
