import type { ScaleName } from "./scale-kinds";

/** What bends a scale: from values to lengths and back; both rise. */
export interface Bend {
  bend(value: number): number;
  straighten(length: number): number;
}

/** Scales that are even in something other than the value. */
export const BENDS: Partial<Record<ScaleName, Bend>> = {
  // Values at or below 0 have no place.
  log: { bend: (value) => (value > 0 ? Math.log10(value) : Number.NaN), straighten: (length) => 10 ** length },
  sqrt: {
    bend: (value) => Math.sign(value) * Math.sqrt(Math.abs(value)),
    straighten: (length) => Math.sign(length) * length ** 2,
  },
  // Nearly even up to 1 on both sides of 0, then by factors.
  symlog: {
    bend: (value) => Math.sign(value) * Math.log1p(Math.abs(value)),
    straighten: (length) => Math.sign(length) * Math.expm1(Math.abs(length)),
  },
};
