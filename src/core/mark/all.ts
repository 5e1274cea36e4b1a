import { barsDraw } from "./bars";
import { MARKS } from "./draws";
import { lineDraw } from "./line";
import type { MarkDraw } from "./mark";
import { pointsDraw } from "./points";
import type { MarkName } from "./specs";

const ALL: Readonly<Record<MarkName, MarkDraw>> = { points: pointsDraw, bars: barsDraw, line: lineDraw };

/** All marks are there wherever dashboards are made. */
for (const [name, draw] of Object.entries(ALL)) MARKS.add(name, draw);
