import { barsDraw } from "./bars";
import { lineDraw } from "./line";
import type { MarkDraw } from "./mark";
import { pointsDraw } from "./points";
import type { MarkName } from "./specs";

const DRAWS: Readonly<Record<MarkName, MarkDraw>> = { points: pointsDraw, bars: barsDraw, line: lineDraw };

/** How a mark is drawn. */
export const markDraw = (name: MarkName): MarkDraw => DRAWS[name];
