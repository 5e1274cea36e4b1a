import { BENDS } from "../scale/bends";
import type { ScaleName } from "../scale/scale-kinds";

/** Where a value lies on a bent axis, in its own measure. */
const bent = (scale: ScaleName, value: number): number => BENDS[scale]?.bend(value) ?? value;

export type Corner = readonly [number, number];

/** True inside a closed outline by the even-odd rule: a ray to the right crosses its sides an odd number of times. */
export function isInside(corners: readonly Corner[], x: number, y: number): boolean {
  let inside = false;
  for (let at = 0, before = corners.length - 1; at < corners.length; before = at++) {
    const [ax, ay] = corners[at] as Corner;
    const [bx, by] = corners[before] as Corner;
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}

/** An outline as it lies on axes that may be bent, and what it holds. */
export interface Outline {
  corners: readonly Corner[];
  /** How far along its axis a value lies, on x and on y. */
  bend: readonly [(value: number) => number, (value: number) => number];
  holds(x: number, y: number): boolean;
}

export function outlineOn(outline: readonly Corner[], [bendX, bendY]: readonly [ScaleName, ScaleName]): Outline {
  const corners = outline.map(([x, y]): Corner => [bent(bendX, x), bent(bendY, y)]);
  const [left, right] = [Math.min(...corners.map(([x]) => x)), Math.max(...corners.map(([x]) => x))];
  return {
    corners,
    bend: [(x) => bent(bendX, x), (y) => bent(bendY, y)],
    holds: (ownX, ownY) => {
      const x = bent(bendX, ownX);
      return x >= left && x <= right && isInside(corners, x, bent(bendY, ownY));
    },
  };
}

/** Leaves rows whose two values lie inside an outline, as it was drawn on axes that may be bent. */
export function andOutline(
  pass: Uint8Array,
  outline: readonly Corner[],
  [xs, ys]: readonly [Float64Array, Float64Array],
  bends: readonly [ScaleName, ScaleName],
) {
  const own = outlineOn(outline, bends);
  for (let row = 0; row < pass.length; row++)
    if (pass[row] !== 0 && !own.holds(xs[row] as number, ys[row] as number)) pass[row] = 0;
}
