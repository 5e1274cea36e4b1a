import { Kit } from "../finding/kit";
import type { MarkDraw } from "./mark";
import type { MarkName } from "./specs";

export const MARKS = new Kit<MarkDraw>("mark");

/** How a mark is drawn. */
export const markDraw = (name: MarkName): MarkDraw => MARKS.get(name);
